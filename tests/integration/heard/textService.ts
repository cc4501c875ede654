import { eq } from "drizzle-orm";
import { outsideRequest } from "@/core/replies/outsideDraft";
import { collect } from "@/features/reviews";
import { draftFromOutside, outsideRequestFor, setTextService } from "@/features/reviews/outside";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { clients, listings } from "@/schema/clients";
import { reviews } from "@/schema/reviews";
import { TEXT_SERVICE_KEY } from "../../../standins/textService";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Drafts from outside: off until somebody says so, by the guards, and with nothing sent but the review. */
describe("text service", () => {
  let harness: Harness;
  let scene: Scene;
  let access: Access;
  let reviewId: string;

  beforeAll(async () => {
    harness = await startHarness("textservice");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    harness.town.textService.faults.clear();
    await scene.moveTo(TUESDAY);
    access = { ...scene.scope, user: { id: "maud", name: "Maud", signature: null } } as unknown as Access;
    harness.town.waypost.write(
      scene.client.place,
      { author: "Jun Albright", stars: 2, words: "We waited an hour. Ring me on 07700 900123 or jun@post.example" },
      TUESDAY - 3_600_000,
    );
    const [listing] = await inside((tx) => tx.select().from(listings));
    await collect(scene.client.id, listing.id);
    const [review] = await inside((tx) => tx.select().from(reviews));
    reviewId = review.id;
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const setUp = (key = TEXT_SERVICE_KEY) =>
    inside((tx) =>
      setTextService(tx, scene.scope, "Maud", { address: `${harness.town.url}/text-service/drafts`, key }, TUESDAY),
    );

  test("nothing is sent before somebody sets it up", async () => {
    expect(await draftFromOutside(access, reviewId)).toEqual({ problem: "not set up" });
    expect(harness.town.textService.asked).toEqual([]);
  });

  test("what is sent is what was shown: the review, without its writer and their addresses", async () => {
    await setUp();
    const shown = await outsideRequestFor(access, reviewId);
    const got = await draftFromOutside(access, reviewId);
    expect(got).toMatchObject({ text: expect.stringContaining("Test Vets") });
    expect(harness.town.textService.asked.at(-1)).toEqual(shown);
    const sent = JSON.stringify(shown);
    expect(sent).toContain("We waited an hour.");
    for (const secret of ["Jun", "Albright", "900123", "jun@post.example"]) expect(sent).not.toContain(secret);
  });

  test("the key is encrypted, kept where none is typed, and gone when it is switched off", async () => {
    await setUp();
    const kept = async () =>
      (await inside((tx) => tx.select().from(clients).where(eq(clients.id, scene.client.id))))[0].textService;
    expect(JSON.stringify(await kept())).not.toContain(TEXT_SERVICE_KEY);
    expect(await setUp("")).toBe(true);
    expect(await draftFromOutside(access, reviewId)).toMatchObject({ text: expect.any(String) });
    const elsewhere = { address: "https://other.example/drafts", key: "" };
    expect(await inside((tx) => setTextService(tx, scene.scope, "Maud", elsewhere, TUESDAY))).toBe(false);
    await inside((tx) => setTextService(tx, scene.scope, "Maud", null, TUESDAY));
    expect(await kept()).toBeNull();
  });

  test("a text that promises money is not offered, and the words are named", async () => {
    await setUp();
    harness.town.textService.faults.add({ kind: "promises money", count: 1 });
    const got = await draftFromOutside(access, reviewId);
    expect(got).toEqual({ refused: expect.arrayContaining([expect.objectContaining({ words: expect.any(String) })]) });
  });

  test.each([
    ["too many", "busy"],
    ["error", "not readable"],
    ["not json", "not readable"],
  ] as const)("a service that is %s: %s", async (kind, problem) => {
    await setUp();
    harness.town.textService.faults.add({ kind, count: 1 });
    expect(await draftFromOutside(access, reviewId)).toEqual({ problem });
  });

  test("a key that is not known, and an address inside", async () => {
    await setUp("wrong");
    expect(await draftFromOutside(access, reviewId)).toEqual({ problem: "refused key" });
    const inner = { address: "http://10.0.0.7/drafts", key: "x" };
    await inside((tx) => setTextService(tx, scene.scope, "Maud", inner, TUESDAY));
    expect(await draftFromOutside(access, reviewId)).toEqual({ problem: "not reached" });
  });

  test("words are cut, and what could reach somebody is taken out", () => {
    const sent = (words: string) =>
      outsideRequest({ words, rating: 1, language: "en" }, { tone: "plain", longest: 10, business: "x" }).review.words;
    expect(sent("x".repeat(9000))).toHaveLength(4000);
    expect(sent("Mail a.b+c@d.example, see https://e.example/f?g=h or +44 (0)7700 900123. 2 of 10.")).toBe(
      "Mail [address], see [link] or [number]. 2 of 10.",
    );
  });
});
