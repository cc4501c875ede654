import { entriesOf } from "@/app/c/[client]/heard/heardEntries";
import { loadHeard, readWanted } from "@/app/c/[client]/heard/loadHeard";
import { loadTodayView } from "@/features/today";
import { setDemoClock } from "@/platform/clock";
import { newId } from "@/schema/columns";
import { accessOf } from "../../support/access";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { statementsOf } from "../../support/statements";

/** What somebody looks for on the page of Heard stands there, however much else waits. */
describe("heard page", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const DAY = 86_400_000;
  /** More than a page of those that wait, all of them unhappier and older than what is looked for. */
  const MANY = 60;

  let harness: Harness;
  let client: TestClient;
  let other: TestClient;
  const quay = newId();
  const found = { approval: newId(), approvalAtQuay: newId(), answered: newId(), latest: newId(), theirs: newId() };

  beforeAll(async () => {
    harness = await startHarness("heard_page");
    await setDemoClock(NOW, NOW);
    client = await harness.addClient();
    other = await harness.addClient();
    await harness.owner.query(
      "insert into branches (id, client_id, name, zone, address, position) values ($1, $2, 'Quay', 'Europe/London', '2 Quay', 1)",
      [quay, client.id],
    );
    await harness.owner.query(
      `insert into listings select (jsonb_populate_record(l, jsonb_build_object('id', $2::uuid, 'branch_id', $1::uuid, 'connector_url', l.connector_url || '-2'))).* from listings l where client_id = $3`,
      [quay, newId(), client.id],
    );
    for (let n = 0; n < MANY; n++) await add(client, newId(), "none", 1, NOW - 40 * DAY + n);
    await add(client, found.approval, "awaits approval", 5, NOW - 2 * DAY);
    await add(client, found.approvalAtQuay, "awaits approval", 5, NOW - 2 * DAY, quay);
    await add(client, found.answered, "posted", 5, NOW - 90 * DAY);
    await add(client, found.latest, "none", 4, NOW - DAY);
    await add(other, found.theirs, "awaits approval", 5, NOW - DAY);
  });
  afterAll(() => harness.stop());

  async function add(
    at: TestClient,
    id: string,
    state: string,
    rating: number,
    writtenAt: number,
    branchId = at.branchId,
  ) {
    await harness.owner.query(
      `insert into reviews (id, client_id, listing_id, branch_id, external_id, author, scale, rating, own_rating, words,
       written_at, collected_at, seen_at, reply_state, reply)
     select $1::uuid, $2, (select id from listings where client_id = $2 and branch_id = $3), $3, $1::uuid::text, 'Elias', 'five', $4::int, $4::int, 'Fine.',
       to_timestamp($5::bigint / 1000.0), now(), now(), $6::text, case when $6::text = 'none' then null else 'Thank you.' end`,
      [id, at.id, branchId, rating, writtenAt, state],
    );
  }

  async function shown(search: Record<string, string>, scope: { branches?: string[] } = {}) {
    const access = accessOf(client, { clientId: client.id, ...scope }, "manager");
    const wanted = readWanted(search);
    const seen = await loadHeard(access, wanted, NOW);
    const { entries } = entriesOf(seen, wanted, { access, now: NOW, mayReply: true });
    return entries.map(({ node }) => (node as { key: string }).key);
  }

  test("a reply that waits for approval is shown once, however many unhappier ones wait", async () => {
    const ids = await shown({});
    expect(ids.length).toBeLessThan(MANY);
    expect(ids.filter((id) => id === found.approval)).toHaveLength(1);
    expect(ids).not.toContain(found.theirs);
    // In its place: behind the unhappier ones.
    expect(ids.indexOf(found.approval)).toBeGreaterThan(ids.length - 3);
  });

  test("Heard and Today stay within so many statements", async () => {
    const access = accessOf(client, { clientId: client.id }, "manager");
    const heard = await statementsOf(() => loadHeard(access, readWanted({}), NOW));
    const today = await statementsOf(() => loadTodayView(access, { day: Math.floor(NOW / DAY), branchId: null }, NOW));
    expect(heard.length).toBeLessThanOrEqual(12);
    expect(today.length).toBeLessThanOrEqual(18);
  });

  test("it is one of the site and the branch that are looked at", async () => {
    expect(await shown({ branch: quay })).toEqual([found.approvalAtQuay]);
    expect(await shown({ branch: client.branchId })).not.toContain(found.approvalAtQuay);
    expect(await shown({ site: "Nowhere" })).toEqual([]);
    expect(await shown({}, { branches: [quay] })).toEqual([found.approvalAtQuay]);
  });

  test("what an address opens is shown, among those that wait and among all", async () => {
    const { answered } = found;
    const ids = await shown({ open: answered });
    expect(ids.at(-1)).toBe(answered);
    expect((await shown({ show: "reviews", open: answered }))[0]).toBe(answered);
    // Where it stands there anyway it keeps its place.
    const latest = await shown({ show: "reviews" });
    expect(await shown({ show: "reviews", open: latest[3] })).toEqual(latest);
    expect(await shown({ show: "concerns", open: answered })).toEqual([]);
  });

  test("nobody opens a review of another client or branch", async () => {
    const usual = await shown({});
    for (const open of [found.theirs, newId(), "nonsense"]) expect(await shown({ open })).toEqual(usual);
    expect(await shown({ open: found.answered }, { branches: [quay] })).toEqual([found.approvalAtQuay]);
  });

  test("by date the latest of all that wait come first", async () => {
    expect((await shown({ order: "date" })).slice(0, 2)).toEqual([found.latest, expect.any(String)]);
  });
});
