import { automatedCount, listAutomated, settleAutomated } from "@/features/answers";
import { endLink, listLinks, makeLink } from "@/features/standing-links";
import { rowIn, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { BROWSER } from "../../support/browser";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/** Links without a person: their page, what is kept of answers there, and what keeps machines and jokers small. */
describe("standing links", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("standing_links");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  async function link(change: { teamMemberId?: string | null } = {}) {
    const it = { name: "Counter", branchId: scene.client.branchId, teamMemberId: null, ...change };
    const made = await withClient(scene.scope, (tx) => makeLink(tx, scene.scope, "Maud", it, TUESDAY));
    if (!made) throw new Error("not made");
    return made;
  }

  const counts = async () => {
    const [{ opened, answered, wentToSites, doubtful }] = await withClient(scene.scope, (tx) =>
      listLinks(tx, scene.scope),
    );
    return { opened, answered, wentToSites, doubtful };
  };

  /** Somebody's browser: it keeps its cookie, and reads the page before it answers. */
  class Visitor {
    private cookie = "";
    page = "";

    constructor(
      readonly token: string,
      readonly client = `10.0.0.${Math.floor(Math.random() * 250)}.${newId()}`,
    ) {}

    async open(): Promise<number> {
      const response = await fetch(`${harness.env.APP_URL}/s/${this.token}`, { headers: this.headers() });
      this.page = await response.text();
      return response.status;
    }

    private headers(): Record<string, string> {
      return { ...BROWSER, cookie: this.cookie, "x-estima-client": this.client };
    }

    async send(path: string, fields: Record<string, string>, waits = 900): Promise<Response> {
      const stamp = /name="stamp" value="([^"]+)"/.exec(this.page)?.[1] ?? "";
      await new Promise((next) => setTimeout(next, waits));
      const response = await fetch(`${harness.env.APP_URL}/s/${this.token}/${path}`, {
        method: "POST",
        headers: this.headers(),
        body: new URLSearchParams({ stamp, website: "", ...fields }),
        redirect: "manual",
      });
      this.cookie = response.headers.get("set-cookie")?.split(";")[0] ?? this.cookie;
      return response;
    }
  }

  const answersOf = async () =>
    (
      await harness.owner.query(
        "select rating, words, is_doubtful, person_id is not null as known from answers where client_id = $1 order by given_at, id",
        [scene.client.id],
      )
    ).rows;
  const concernsOf = async () =>
    (
      await harness.owner.query(
        "select rating, words, person_id is not null as known from concerns where client_id = $1",
        [scene.client.id],
      )
    ).rows;

  test("somebody answers, changes it, adds words; the unhappy one becomes a concern, and may say who they are", async () => {
    const { token } = await link();
    expect(token).toMatch(/^[2-9a-zA-Z]{12}$/);
    const visitor = new Visitor(token);
    expect(await visitor.open()).toBe(200);
    expect(visitor.page).toContain("How was your visit?");
    expect(visitor.page).not.toContain("Don’t contact me again");
    expect((await visitor.send("rate", { rating: "5" })).status).toBe(303);
    await visitor.open();
    expect(visitor.page).toContain("We’re glad to hear it.");
    expect((await visitor.send("rate", { rating: "2" })).status).toBe(303);
    await visitor.open();
    await visitor.send("words", { words: "Nobody came to the <b>desk</b>" });
    await visitor.open();
    expect(visitor.page).toContain("Nobody came to the &lt;b&gt;desk&lt;/b&gt;");
    expect(visitor.page).toContain("Would you like a reply?");
    expect(await concernsOf()).toEqual([{ rating: 2, words: "Nobody came to the <b>desk</b>", known: false }]);
    const refused = await visitor.send("who", { name: "", reach: "nonsense" });
    expect([refused.status, await refused.text()]).toEqual([422, expect.stringContaining('class="wrong"')]);
    expect((await visitor.send("who", { name: "Odette Marsh", reach: "odette@post.example" })).status).toBe(303);
    await visitor.open();
    expect(visitor.page).not.toContain("Would you like a reply?");
    expect(await concernsOf()).toMatchObject([{ known: true }]);
    // One answer, however often it was changed; the page was opened once before it.
    expect(await answersOf()).toEqual([
      { rating: 2, words: "Nobody came to the <b>desk</b>", is_doubtful: false, known: true },
    ]);
    expect(await counts()).toEqual({ opened: 1, answered: 1, wentToSites: 0, doubtful: 0 });
  });

  test("a happy one goes on to a site that the page shows, and to no other", async () => {
    const { token } = await link();
    const visitor = new Visitor(token);
    await visitor.open();
    const { rows } = await harness.owner.query("select id, url from listings where client_id = $1", [scene.client.id]);
    // Before an answer no site is opened.
    expect((await visitor.send(`site/${rows[0].id}`, {}, 0)).headers.get("location")).toBe(`/s/${token}`);
    await visitor.send("rate", { rating: "5" });
    const gone = await visitor.send(`site/${rows[0].id}`, {}, 0);
    expect([gone.status, gone.headers.get("location")]).toEqual([303, rows[0].url]);
    expect((await visitor.send(`site/${newId()}`, {}, 0)).status).toBe(404);
    expect(await counts()).toMatchObject({ answered: 1, wentToSites: 1 });
  });

  test("what behaves like a machine is kept apart, and is nobody's concern", async () => {
    const { token } = await link();
    const hasty = new Visitor(token);
    await hasty.open();
    await hasty.send("rate", { rating: "1" }, 0);
    await hasty.send("words", { words: "BUY NOW" }, 0);
    const trapped = new Visitor(token);
    await trapped.open();
    await trapped.send("rate", { rating: "1", website: "https://buy.example" });
    const blind = new Visitor(token);
    await blind.send("rate", { rating: "1" }, 0);
    const forged = new Visitor(token);
    await forged.send("rate", { rating: "1", stamp: `${Date.now() - 60_000}.made-up` }, 0);
    expect((await answersOf()).map(({ is_doubtful }) => is_doubtful)).toEqual([true, true, true, true]);
    expect(await concernsOf()).toEqual([]);
    expect(await counts()).toMatchObject({ answered: 4, doubtful: 4 });
  });

  test("words after a tap that looked automated are a person's: they become a concern, and nothing is lost", async () => {
    const { token } = await link();
    const visitor = new Visitor(token);
    await visitor.open();
    // A tap within a moment, then words after a while.
    await visitor.send("rate", { rating: "1" }, 0);
    expect(await answersOf()).toMatchObject([{ is_doubtful: true }]);
    await visitor.send("words", { words: "The heating was off." });
    expect(await answersOf()).toMatchObject([{ is_doubtful: false, words: "The heating was off." }]);
    expect((await concernsOf()).map(({ words }) => words)).toEqual(["The heating was off."]);
  });

  test("words that look automated are promised nothing, are listed, and become a concern when somebody says so", async () => {
    const { token } = await link();
    const visitor = new Visitor(token);
    await visitor.open();
    await visitor.send("rate", { rating: "1", website: "https://buy.example" });
    await visitor.send("words", { words: "Nobody came.", website: "https://buy.example" });
    await visitor.open();
    expect(visitor.page).toContain("Your words are saved.");
    expect(visitor.page).not.toMatch(/reads this/);
    expect(await concernsOf()).toEqual([]);
    const [listed] = await withClient(scene.scope, (tx) => listAutomated(tx, scene.scope, null));
    expect(listed).toMatchObject({ words: "Nobody came.", rating: 1 });
    // The page after one begins with what was given before it, or at the same moment under a smaller identifier.
    const idsAfter = async (key: { at: number; id: string }) =>
      (await withClient(scene.scope, (tx) => listAutomated(tx, scene.scope, key))).map(({ id }) => id);
    expect(await idsAfter({ at: listed.givenAt, id: listed.id })).toEqual([]);
    expect(await idsAfter({ at: listed.givenAt, id: "ffffffff-ffff-7fff-bfff-ffffffffffff" })).toEqual([listed.id]);
    expect(await withClient(scene.scope, (tx) => settleAutomated(tx, scene.scope, listed.id, true))).toBe(true);
    expect(await withClient(scene.scope, (tx) => settleAutomated(tx, scene.scope, listed.id, true))).toBe(false);
    expect((await concernsOf()).map(({ words }) => words)).toEqual(["Nobody came."]);
    expect(await withClient(scene.scope, (tx) => rowIn(tx, automatedCount(scene.scope)))).toEqual({ count: 0 });
  });

  test("what somebody writes after their concern was closed opens it again", async () => {
    const { token } = await link();
    const visitor = new Visitor(token);
    await visitor.open();
    await visitor.send("rate", { rating: "1" });
    await visitor.send("words", { words: "Cold coffee." });
    await harness.owner.query(
      "update concerns set state = 'closed', closed_at = $2, closed_by = 'Maud', outcome = 'put right', answered_at = $2 where client_id = $1",
      [scene.client.id, new Date(TUESDAY)],
    );
    await visitor.send("words", { words: "Cold coffee, and it happened again." });
    const { rows } = await harness.owner.query(
      "select words, state, closed_at, answered_at from concerns where client_id = $1",
      [scene.client.id],
    );
    expect(rows).toEqual([
      { words: "Cold coffee, and it happened again.", state: "new", closed_at: null, answered_at: null },
    ]);
  });

  test("one address leaves no more than the limit, whatever it tries; others answer meanwhile", async () => {
    const { token } = await link();
    const joker = `10.9.9.9.${newId()}`;
    // Very many answers, each from another browser, and somebody else who comes in the middle of them.
    const statuses: number[] = [];
    const other = new Visitor(token);
    const ANSWERS = size(400, 2000);
    let left = ANSWERS;
    const lane = async () => {
      while (left > 0) {
        const isMiddle = left-- === ANSWERS / 2;
        statuses.push((await new Visitor(token, joker).send("rate", { rating: "1" }, 0)).status);
        if (isMiddle) {
          expect(await other.open()).toBe(200);
          expect((await other.send("rate", { rating: "5" })).status).toBe(303);
        }
      }
    };
    await Promise.all(Array.from({ length: 40 }, lane));
    expect(statuses.length).toBe(ANSWERS);
    expect(statuses.filter((status) => status === 303).length).toBeLessThanOrEqual(12);
    expect(statuses.every((status) => status === 303 || status === 429)).toBe(true);
    expect((await answersOf()).length).toBeLessThanOrEqual(13);
    expect((await answersOf()).filter(({ rating }) => rating === 5)).toHaveLength(1);
  });

  test("a link is guessed, ended, another's or asked with nonsense: kindly refused, nothing is kept", async () => {
    const { id, token } = await link();
    const other = new Scene(harness, await harness.addClient());
    expect(await withClient(other.scope, (tx) => endLink(tx, other.scope, "Eve", id, TUESDAY))).toBe(false);
    const foreign = { name: "x", branchId: other.client.branchId, teamMemberId: null };
    expect(await withClient(scene.scope, (tx) => makeLink(tx, scene.scope, "Maud", foreign, TUESDAY))).toBeNull();
    const visitor = new Visitor(token);
    await visitor.open();
    for (const rating of ["0", "6", "", "x", "1e9", "\u0000"])
      expect((await visitor.send("rate", { rating }, 0)).status).toBe(422);
    for (const path of ["words", "who", "site/x", "site/../x", "nowhere"])
      expect([303, 404]).toContain((await visitor.send(path, { words: "x" }, 0)).status);
    // An answer of another link is not this one's, whatever the cookie says.
    const second = await link();
    const elsewhere = new Visitor(second.token);
    await elsewhere.open();
    await elsewhere.send("rate", { rating: "5" });
    expect(await answersOf()).toHaveLength(1);
    for (const wrong of ["x".repeat(12), "a", "%00", "../.."]) expect(await new Visitor(wrong).open()).toBe(404);
    expect(await withClient(scene.scope, (tx) => endLink(tx, scene.scope, "Maud", id, TUESDAY))).toBe(true);
    expect(await visitor.open()).toBe(404);
    expect((await visitor.send("rate", { rating: "5" }, 0)).status).toBe(404);
    expect(await answersOf()).toHaveLength(1);
  });
});
