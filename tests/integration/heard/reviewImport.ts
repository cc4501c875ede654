import { eq } from "drizzle-orm";
import ExcelJS from "exceljs";
import { DAY } from "@/core/time/zone";
import { keepListing, loadSetting } from "@/features/clients";
import { Unreadable } from "@/features/intake";
import { receiveReviews, recentImports, viewImport } from "@/features/review-import";
import { changeMatching, keepImport, typeReview, undoImport } from "@/features/review-import/service";
import { withClient } from "@/platform/database";
import { reviews } from "@/schema/reviews";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Reviews of a page that nothing reads: from a file of any kind to rows, once each, and back. */
describe("review import", () => {
  let harness: Harness;
  let scene: Scene;
  let listingId: string;

  beforeAll(async () => {
    harness = await startHarness("review_import");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    await inside(async (tx) => {
      const it = { branchId: scene.client.branchId, site: "Pawprint Guide", url: "https://pawprint.example/vets" };
      await keepListing(tx, scene.scope, "Maud", null, it, TUESDAY);
      listingId = (await loadSetting(tx)).listings.find(({ site }) => site === "Pawprint Guide")?.id ?? "";
    });
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const all = () =>
    inside((tx) => tx.select().from(reviews).where(eq(reviews.clientId, scene.client.id)).orderBy(reviews.writtenAt));

  async function receive(
    bytes: Uint8Array | string,
    name = "reviews.csv",
    listing = listingId,
  ): Promise<string | null> {
    const setting = await inside(loadSetting);
    return receiveReviews(
      scene.scope,
      {
        setting,
        listingId: listing,
        name,
        bytes: typeof bytes === "string" ? new TextEncoder().encode(bytes) : bytes,
        who: "Maud",
      },
      (work) => inside(work),
      TUESDAY,
    );
  }
  const view = async (id: string | null) => inside((tx) => viewImport(tx, scene.scope, id ?? "", TUESDAY));
  const keep = (id: string | null) => inside((tx) => keepImport(tx, scene.scope, "Maud", id ?? "", TUESDAY));

  const CSV =
    "Reviewer;Stars;Comment;Date\nOdette M.;5;Lovely staff.;23/11/2026\nJun A.;2;We waited an hour.;01/06/2026\nWyn;many;?;23/11/2026\n";
  const JSON_FILE = JSON.stringify({
    place: "vets",
    reviews: [
      { author: "Odette M.", stars: 5, text: "Lovely staff.", date: "2026-11-23" },
      { author: "Jun A.", stars: 2, text: "We waited an hour.", date: "2026-06-01" },
      { author: "Wyn", stars: "many", text: "?", date: "2026-11-23" },
    ],
  });
  async function workbook(): Promise<Uint8Array> {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Reviews");
    sheet.addRows([
      ["Name", "Rating", "Review", "Date"],
      ["Odette M.", 5, "Lovely staff.", new Date(Date.UTC(2026, 10, 23))],
      ["Jun A.", 2, "We waited an hour.", new Date(Date.UTC(2026, 5, 1))],
      ["Wyn", "many", "?", new Date(Date.UTC(2026, 10, 23))],
    ]);
    return new Uint8Array(await book.xlsx.writeBuffer());
  }

  test.each([
    ["CSV", "reviews.csv", async () => CSV],
    ["JSON", "reviews.json", async () => JSON_FILE],
    ["Excel", "reviews.xlsx", workbook],
  ])("%s is looked at, kept, kept once, and taken back", async (_kind, name, file) => {
    const id = await receive(await file(), name);
    const seen = await view(id);
    expect(seen?.read?.reviews.map(({ author, rating, words }) => [author, rating, words])).toEqual([
      ["Odette M.", 5, "Lovely staff."],
      ["Jun A.", 2, "We waited an hour."],
    ]);
    expect(seen?.read?.wrong).toEqual([{ ok: false, line: 3, problem: "no rating" }]);
    expect(await all()).toEqual([]);
    expect(await Promise.all([keep(id), keep(id)])).toEqual([2, 2]);
    expect((await all()).map(({ author, replyState, ownRating }) => [author, replyState, ownRating])).toEqual([
      ["Jun A.", "set aside", 2],
      ["Odette M.", "none", 5],
    ]);
    // Brought once more it brings nothing.
    const again = await receive(await file(), name);
    expect(await keep(again)).toBe(0);
    const listing = (await inside(loadSetting)).listings.find((one) => one.id === listingId);
    expect(listing).toMatchObject({ reviewCount: 2, ownRatingSum: 7 });
    expect(await inside((tx) => undoImport(tx, scene.scope, "Maud", id ?? "", TUESDAY))).toBe(2);
    expect(await inside((tx) => undoImport(tx, scene.scope, "Maud", id ?? "", TUESDAY))).toBeNull();
    expect(await all()).toEqual([]);
    expect((await inside((tx) => recentImports(tx, scene.scope))).map(({ state }) => state).sort()).toEqual([
      "kept",
      "undone",
    ]);
  });

  test("a column that was guessed wrong is put right before anything is kept", async () => {
    const id = await receive("Note,Stars,Comment,Date\nOdette,4,Fine.,2026-11-20\n");
    expect((await view(id))?.found.matching).toEqual(["author", "rating", "words", "date"]);
    await inside((tx) => changeMatching(tx, scene.scope, id ?? "", [null, "rating", "words", "date"]));
    expect((await view(id))?.read?.reviews[0].author).toBe("Someone");
  });

  test("what is no list, no page of one's own, or somebody else's, is refused in words", async () => {
    await expect(receive("")).rejects.toThrow(Unreadable);
    await expect(receive(new Uint8Array([0x25, 0x50, 0x44, 0x46, 0x2d]))).rejects.toThrow(Unreadable);
    await expect(receive("[1, 2")).resolves.not.toThrow();
    const { listings } = await inside(loadSetting);
    const read = listings.find(({ connector }) => connector === "waypost");
    expect(await receive(CSV, "x.csv", read?.id)).toBeNull();
    const other = new Scene(harness, await harness.addClient());
    const id = await receive(CSV);
    expect(await withClient(other.scope, (tx) => viewImport(tx, other.scope, id ?? "", TUESDAY))).toBeNull();
    expect(await withClient(other.scope, (tx) => keepImport(tx, other.scope, "Eve", id ?? "", TUESDAY))).toBeNull();
  });

  test("one is typed in as it stands there, and not twice", async () => {
    const type = (rating: string) =>
      inside((tx) =>
        typeReview(
          tx,
          scene.scope,
          "Maud",
          { listingId, author: "Bea T.", rating, words: "Kind.", writtenAt: TUESDAY - DAY },
          TUESDAY,
        ),
      );
    expect(await type("8.5/10")).toBe("kept");
    expect(await type("8.5/10")).toBe("known");
    expect(await type("recommended")).toBe("kept");
    expect((await all()).map(({ scale, ownRating, rating }) => [scale, ownRating, rating]).sort()).toEqual([
      ["recommend", 1, 4],
      ["ten", 8.5, 5],
    ]);
  });
});
