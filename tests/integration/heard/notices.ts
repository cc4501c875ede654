import { eq } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { replanAll } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { claimNotices, deliverNotice, enqueueNotice, lastNotice, sayTold } from "@/features/notices";
import { withClient } from "@/platform/database";
import { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { tellDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** What cannot wait until somebody looks is told by email: to those who may do something about it, and once. */
describe("notices", () => {
  let harness: Harness;
  let scene: Scene;
  let number = 0;

  beforeAll(async () => {
    harness = await startHarness("notices");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);

  /** Somebody with a seat; gives their address. */
  async function seat(role: string, client: string | null, agency?: string): Promise<string> {
    const id = newId();
    const email = `${role}${number++}@staff.example`;
    const agencyId =
      agency ??
      (await harness.owner.query("select agency_id from clients where id = $1", [scene.client.id])).rows[0].agency_id;
    await harness.owner.query("insert into users (id, name, email) values ($1, $2, $3)", [id, `Ada ${role}`, email]);
    await harness.owner.query(
      "insert into seats (id, user_id, agency_id, only_client, role) values ($1, $2, $3, $4, $5)",
      [newId(), id, agencyId, client, role],
    );
    return email;
  }

  const subjects = async (address: string) =>
    Promise.all(harness.town.mail.mailbox(address).map(async ({ raw }) => (await simpleParser(raw)).subject));
  const setTexts = (textsAMonth: number) =>
    inside((tx) => tx.update(clients).set({ textsAMonth }).where(eq(clients.id, scene.client.id)));

  const USED_UP = {
    code: "allowance used up",
    channel: "email",
    most: 10,
    renewedAt: TUESDAY + 7 * 86_400_000,
    leavesOut: false,
  } as const;
  const EMAILS = expect.stringMatching(/has used up this month’s emails$/);

  test("an allowance that is used up is told once for its size, to whoever may raise it", async () => {
    const manager = await seat("manager", scene.client.id);
    const [desk, reader] = [await seat("desk", scene.client.id), await seat("reader", scene.client.id)];
    const other = await harness.addClient();
    const stranger = await seat("manager", other.id);
    const elsewhere = newId();
    await harness.owner.query("insert into agencies (id, name) values ($1, 'Elsewhere')", [elsewhere]);
    const foreign = await seat("agency", null, elsewhere);
    await setTexts(2);
    for (let n = 0; n < 5; n++) await scene.finishVisit();
    await scene.advance(TUESDAY + 2 * 3_600_000);
    await tellDue(TUESDAY + 2 * 3_600_000);
    const [subject, ...more] = await subjects(manager);
    expect(more).toEqual([]);
    expect(subject).toMatch(/^Test Vets \d+ has used up this month’s texts$/);
    for (const nobody of [desk, reader, stranger, foreign]) expect(await subjects(nobody)).toEqual([]);
    const mail = await simpleParser(harness.town.mail.mailbox(manager)[0].raw);
    expect(mail.text).toContain("allowance of 2 text parts for this month");
    expect(mail.text).toContain("wait until Tue 1 Dec");
    expect(mail.html).toContain(`href="${harness.env.APP_URL}/c/${scene.client.slug}/asking"`);
    // Nothing more is said while it stays used up; raised and used up again, it is another matter.
    await scene.finishVisit();
    await scene.advance(TUESDAY + 4 * 3_600_000);
    expect(await subjects(manager)).toHaveLength(1);
    await setTexts(3);
    await harness.owner.query("update asks set allowance_from = null where client_id = $1", [scene.client.id]);
    await inside(async (tx) => replanAll(tx, scene.scope, await loadSetting(tx), TUESDAY + 4 * 3_600_000));
    await scene.advance(TUESDAY + 4 * 3_600_000);
    expect(await subjects(manager)).toHaveLength(2);
  });

  test("when nobody is held, it is told as soon as somebody is left out", async () => {
    const manager = await seat("manager", scene.client.id);
    await inside((tx) =>
      tx
        .update(clients)
        .set({ textsAMonth: 0, emailsAMonth: 0, leavesOutWhenUsedUp: true })
        .where(eq(clients.id, scene.client.id)),
    );
    await scene.finishVisit();
    await scene.advance(TUESDAY);
    expect((await subjects(manager)).sort()).toEqual([
      expect.stringContaining("used up this month’s emails"),
      expect.stringContaining("used up this month’s texts"),
    ]);
  });

  test("a mail server that is down is tried again, and nobody is told twice", async () => {
    const [first, second] = [await seat("manager", scene.client.id), await seat("agency", null)];
    harness.town.mail.faults.add({ kind: "defer", match: second });
    await inside((tx) => enqueueNotice(tx, scene.scope, "test 1", USED_UP, TUESDAY));
    await inside((tx) => enqueueNotice(tx, scene.scope, "test 1", { ...USED_UP, channel: "text" }, TUESDAY));
    await tellDue(TUESDAY);
    expect([await subjects(first), await subjects(second)]).toEqual([[EMAILS], []]);
    await tellDue(TUESDAY);
    expect(await subjects(second)).toEqual([]);
    harness.town.mail.faults.clear();
    await tellDue(TUESDAY + 3_600_000);
    expect([await subjects(first), await subjects(second)]).toEqual([[EMAILS], [EMAILS]]);
    const notice = await inside((tx) => lastNotice(tx, scene.scope, "test 1"));
    expect(notice).toMatchObject({ dueAt: null, attempts: 2, toldAt: TUESDAY });
    expect(harness.town.mail.repeats).toBe(0);
    expect(sayTold(notice, "Europe/London", TUESDAY)).toMatch(
      /^ Ada \w+ and Ada \w+ were notified by email today at 14:05\.$/,
    );
  });

  test("handed over and killed before it was noted, it is handed over again under the same name", async () => {
    const manager = await seat("manager", scene.client.id);
    await inside((tx) => enqueueNotice(tx, scene.scope, "test 2", USED_UP, TUESDAY));
    const [claim] = await claimNotices(TUESDAY);
    // Claimed for a while of real time, nobody else takes it.
    expect(await claimNotices(TUESDAY)).toEqual([]);
    await deliverNotice(claim);
    await harness.owner.query("update notices set due_at = created_at, told_at = null, told = '{}' where id = $1", [
      claim.noticeId,
    ]);
    const repeats = harness.town.mail.repeats;
    await tellDue(TUESDAY);
    expect(await subjects(manager)).toEqual([EMAILS]);
    expect(harness.town.mail.repeats).toBeGreaterThan(repeats);
  });

  test("a client that nobody looks after loses nothing: the notice stays, told to nobody", async () => {
    await harness.owner.query("delete from seats");
    await inside((tx) => enqueueNotice(tx, scene.scope, "test_3%", USED_UP, TUESDAY));
    await tellDue(TUESDAY);
    const notice = await inside((tx) => lastNotice(tx, scene.scope, "test_3%"));
    expect(notice).toMatchObject({ content: { code: "allowance used up" }, dueAt: null, toldAt: null, told: [] });
    expect(sayTold(notice, "Europe/London", TUESDAY)).toBe("");
    // What stands for any letter in a pattern is only itself here.
    expect(await inside((tx) => lastNotice(tx, scene.scope, "test%"))).toBeNull();
  });
});
