import { eq, sql } from "drizzle-orm";
import { starterRules } from "@/core/plans/starters";
import { DAY, formatDay, HOUR } from "@/core/time/zone";
import { holidaysOf, loadSetting, regionsOf } from "@/features/clients";
import { closeConcern, openConcern, takeConcern } from "@/features/concerns";
import { chooseReading, claimStalledLists, findIntake, receiveList, runListTask, toCsv } from "@/features/intake";
import { claimDue, deliver } from "@/features/messaging";
import { tallyWordings } from "@/features/plan-editor";
import { findPlan, putInForce } from "@/features/plans";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { messages } from "@/schema/messages";
import { BATCH } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/**
 * What goes wrong for one is nobody else's; what one worker leaves, another takes up; what is counted is counted for
 * the same people.
 */
describe("isolation", () => {
  let harness: Harness;
  beforeAll(async () => {
    // Claims run out soon, so that what goes on longer than one is seen.
    process.env.LEASE_SECONDS = "1";
    harness = await startHarness("isolation");
  });
  afterAll(() => {
    delete process.env.LEASE_SECONDS;
    return harness.stop();
  });

  async function scene(): Promise<Scene> {
    const made = new Scene(harness, await harness.addClient());
    await made.moveTo(TUESDAY);
    return made;
  }

  test("one client's broken plan keeps no other client's messages, whatever their order in the batch", async () => {
    const made: { it: Scene; person: string }[] = [];
    for (let n = 0; n < 5; n++) {
      const it = await scene();
      made.push({ it, person: (await it.finishVisit({}, TUESDAY - HOUR)).person.id });
    }
    for (const { it } of [made[0], made[3]])
      await withClient(it.scope, (tx) => tx.execute(sql`update plan_versions set rules = '{}'`));
    await made[0].it.moveTo(TUESDAY + 3 * HOUR);
    const claims = await claimDue(TUESDAY + 3 * HOUR, 100);
    expect(new Set(claims.map(({ clientId }) => clientId)).size).toBe(5);
    for (const claim of claims) await deliver(claim);
    const left = await Promise.all(
      made.map(async ({ it, person }) => (await it.messagesOf(person))[0].sentAt !== null),
    );
    expect(left).toEqual([false, true, true, false, true]);
    // Nothing is lost: once the plan is mended they leave, when their claim has run out.
    for (const { it } of made)
      await withClient(it.scope, (tx) =>
        tx.execute(sql`update plan_versions set rules = ${JSON.stringify(starterRules())}::jsonb where rules = '{}'`),
      );
    await harness.owner.query("update messages set claimed_until = now() - interval '1 second' where sent_at is null");
    for (const claim of await claimDue(TUESDAY + 3 * HOUR, 100)) await deliver(claim);
    for (const { it, person } of made) expect((await it.messagesOf(person))[0].sentAt).not.toBeNull();
  });

  test("ten messages of one client leave among the first two batches beside ten thousand of another", async () => {
    const large = await scene();
    const small = await scene();
    await harness.owner.query("update messages set state = 'stopped' where state = 'planned'");
    const persons = async (it: Scene, count: number) => {
      const { rows } = await harness.owner.query<{ id: string }>(
        `insert into people (id, client_id, given, email, created_at)
       select gen_random_uuid(), $1, 'Jun', 'jun' || n || '@' || $2 || '.example', now() from generate_series(1, $3) n returning id`,
        [it.client.id, it.client.slug, count],
      );
      return rows.map(({ id }) => id);
    };
    const plan = async (it: Scene, count: number, dueAt: number) => {
      await harness.owner.query(
        `with p as (select unnest($1::uuid[]) as person, gen_random_uuid() as visit, gen_random_uuid() as ask),
       v as (insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at)
         select visit, $2, person, $3, $4, $5, 'finished', 'by hand', now() from p returning id),
       a as (insert into asks (id, client_id, plan_id, person_id, visit_id, branch_id, token, anchor_at, created_at)
         select ask, $2, $6, person, visit, $3, replace(ask::text, '-', ''), $5, now() from p returning id)
       insert into messages (id, client_id, person_id, branch_id, ask_id, direction, channel, step, state, due_at, created_at)
       select gen_random_uuid(), $2, person, $3, ask, 'out', 'email', 0, 'planned', $7, now() from p`,
        [
          await persons(it, count),
          it.client.id,
          it.client.branchId,
          it.client.serviceId,
          new Date(TUESDAY),
          it.client.planId,
          new Date(dueAt),
        ],
      );
    };
    const now = TUESDAY + 4 * HOUR;
    await plan(large, 10_000, now - HOUR);
    // They came last, and are due last.
    await plan(small, 10, now - 1000);
    await large.moveTo(now);
    const sent = async (it: Scene) => {
      const { rows } = await harness.owner.query<{ n: number }>(
        "select count(*)::int as n from messages where client_id = $1 and sent_at is not null",
        [it.client.id],
      );
      return rows[0].n;
    };
    for (let batch = 0; batch < 2; batch++) for (const claim of await claimDue(now, BATCH)) await deliver(claim);
    expect(await sent(small)).toBe(10);
    expect(await sent(large)).toBeGreaterThanOrEqual(BATCH / 2);
    // Alone again, the large one has whole batches.
    expect((await claimDue(now, BATCH)).map(({ messageIds }) => messageIds.length)).toEqual([BATCH]);
    await harness.owner.query("update messages set state = 'stopped' where state in ('planned', 'sending')");
  });

  test("a batch that takes longer than its claims stays with the worker that has it, and is handed over once", async () => {
    const it = await scene();
    const slow = await it.finishVisit({}, TUESDAY - HOUR);
    const quick = await it.finishVisit({}, TUESDAY - HOUR);
    await it.moveTo(TUESDAY + 3 * HOUR);
    // The gateway takes this text and answers never: it is given up after eight seconds.
    harness.town.texts.faults.add({ kind: "time out", match: slow.person.phone ?? "", count: 1 });
    const [claim] = await claimDue(TUESDAY + 3 * HOUR, 100);
    expect(claim.messageIds).toHaveLength(2);
    let isDone = false;
    const work = deliver(claim).finally(() => {
      isDone = true;
    });
    let taken = 0;
    while (!isDone) {
      await new Promise((next) => setTimeout(next, 200));
      if (!isDone) taken += (await claimDue(TUESDAY + 3 * HOUR, 100)).length;
    }
    await work;
    expect(taken).toBe(0);
    expect((await it.messagesOf(quick.person.id))[0].sentAt).not.toBeNull();
    // What nobody answered is tried again with the same key, and reached its phone once.
    await harness.owner.query(
      "update messages set claimed_until = null, due_at = least(due_at, $2) where client_id = $1 and sent_at is null",
      [it.client.id, new Date(TUESDAY + 3 * HOUR)],
    );
    for (const again of await claimDue(TUESDAY + 3 * HOUR, 100)) await deliver(again);
    expect((await it.messagesOf(slow.person.id))[0].sentAt).not.toBeNull();
    for (const { person } of [slow, quick])
      expect([...harness.town.texts.texts.values()].filter(({ to }) => to === person.phone)).toHaveLength(1);
  }, 60_000);

  test("a long list whose worker was killed is taken up by another, once, from each of its stages", async () => {
    const it = await scene();
    const rows = Array.from({ length: 8000 }, (_, index) => [
      `Person ${index}`,
      `person${index}@post.example`,
      "07700 900123",
    ]);
    const bytes = new TextEncoder().encode(toCsv([["Name", "Email", "Mobile"], ...rows]));
    const id = await receiveList(it.scope, {
      source: "file",
      name: "long.csv",
      bytes,
      who: "Maud",
      requestKey: newId(),
    });
    const killed = () =>
      harness.owner.query("update intakes set worked_until = now() - interval '1 second' where id = $1", [id]);
    expect((await claimStalledLists()).filter(({ intakeId }) => intakeId === id)).toEqual([]);
    const takenUp = async (action: string) => {
      await killed();
      const [mine, again] = await Promise.all([claimStalledLists(), claimStalledLists()]);
      const claimed = [...mine, ...again].filter(({ intakeId }) => intakeId === id);
      expect(claimed).toEqual([{ clientId: it.client.id, intakeId: id, action }]);
      await runListTask(claimed[0]);
      const intake = await withClient(it.scope, (tx) => findIntake(tx, it.scope, id));
      expect(intake?.state).toBe("ready");
      return intake?.choice;
    };
    const choice = await takenUp("read");
    if (choice) await chooseReading(it.scope, id, { ...choice, undated: "no visit" });
    expect(await takenUp("check")).toMatchObject({ undated: "no visit" });
    await killed();
    // What waits for a person waits.
    expect((await claimStalledLists()).filter(({ intakeId }) => intakeId === id)).toEqual([]);
  });

  test("a concern is somebody's, not a name's: a colleague of the same name has not taken it, and a new name keeps it", async () => {
    const it = await scene();
    const { person, visit } = await it.finishVisit();
    const ask = await it.askOf(person.id);
    const [first, second] = [newId(), newId()];
    for (const id of [first, second])
      await harness.owner.query("insert into users (id, name, email) values ($1, 'Maud Pell', $2)", [
        id,
        `${id}@agency.example`,
      ]);
    const id = await withClient(it.scope, async (tx) => {
      const [answer] = await tx
        .insert(answers)
        .values({
          clientId: it.client.id,
          askId: ask.id,
          personId: person.id,
          branchId: ask.branchId,
          rating: 1,
          words: "No.",
          givenAt: TUESDAY,
        })
        .returning();
      await openConcern(
        tx,
        it.scope,
        {
          answerId: answer.id,
          personId: person.id,
          visitId: visit.id,
          branchId: ask.branchId,
          rating: 1,
          words: "No.",
        },
        TUESDAY,
      );
      return (await tx.select().from(concerns))[0].id;
    });
    const as = (user: string) => ({ ...it.scope, user: { id: user } });
    const take = (user: string, name: string) =>
      withClient(as(user), (tx) => takeConcern(tx, as(user), name, id, TUESDAY));
    expect(await take(first, "Maud Pell")).toBeNull();
    expect(await take(second, "Maud Pell")).toEqual({ refused: "Maud Pell is already handling this concern." });
    expect(await take(first, "Maud P.")).toBeNull();
    await withClient(as(first), (tx) =>
      closeConcern(tx, as(first), "Maud P.", id, { outcome: "explained", note: "" }, TUESDAY),
    );
    const [kept] = await withClient(it.scope, (tx) => tx.select().from(concerns));
    expect(kept).toMatchObject({ takenById: first, closedById: first });
  });

  test("functions that run as their owner mean what they say: nothing temporary comes before, and the program makes none", async () => {
    const { rows } = await harness.owner.query<{ name: string; path: string | null }>(
      `select oid::regprocedure::text as name, (select c from unnest(proconfig) c where c like 'search_path=%') as path
       from pg_proc where prosecdef and pronamespace = 'public'::regnamespace`,
    );
    expect(rows.length).toBeGreaterThan(40);
    expect(rows.filter(({ path }) => path !== "search_path=public, pg_temp")).toEqual([]);
    const it = await scene();
    await expect(
      withClient(it.scope, (tx) => tx.execute(sql`create temporary table clients (id int)`)),
    ).rejects.toThrow();
    const { rows: may } = await harness.owner.query(
      "select has_database_privilege('estima_app', current_database(), 'TEMP') as temp",
    );
    expect(may).toEqual([{ temp: false }]);
  });

  test("what every page may know of a client holds no key of a site", async () => {
    const it = await scene();
    const { rows } = await harness.owner.query<{ key: string }>(
      "select connector_key as key from listings where client_id = $1",
      [it.client.id],
    );
    expect(rows[0].key.length).toBeGreaterThan(20);
    const setting = JSON.stringify(await withClient(it.scope, (tx) => loadSetting(tx)));
    expect(setting).toContain("Waypost");
    expect(setting).not.toContain(rows[0].key);
    expect(setting).not.toMatch(/connectorKey/i);
  });

  test("a wording that came later is compared over the time since it came, and answers long after do not count", async () => {
    const it = await scene();
    const step = starterRules().steps[0];
    const wording = (key: string) => ({ key, text: `${key} {link}`, subject: key, email: `${key} {link}` });
    const version = (...others: string[]) => ({
      ...starterRules(),
      steps: [{ ...step, others: others.map(wording) }, ...starterRules().steps.slice(1)],
    });
    const plan = (await withClient(it.scope, (tx) => findPlan(tx, it.scope, it.client.planId))) as NonNullable<
      Awaited<ReturnType<typeof findPlan>>
    >;
    const two = await withClient(it.scope, (tx) =>
      putInForce(tx, it.scope, "Maud", plan.id, plan.revision, version("b"), TUESDAY - 20 * DAY),
    );
    await withClient(it.scope, (tx) =>
      putInForce(tx, it.scope, "Maud", plan.id, two?.revision ?? 0, version("b", "c"), TUESDAY - 10 * DAY),
    );
    const keys = ["own", "b", "c"];
    const own =
      (await withClient(it.scope, (tx) => tallyWordings(tx, it.scope, plan.id, version("b", "c"), TUESDAY))).get(
        step.key,
      )?.[0].key ?? "";
    const leave = async (wordingKey: string, planVersion: number, sentAt: number, answeredAfter: number | null) => {
      const { person } = await it.finishVisit({}, TUESDAY);
      const ask = await it.askOf(person.id);
      await withClient(it.scope, async (tx) => {
        await tx
          .update(messages)
          .set({ wording: wordingKey, planVersion, stepName: step.name, state: "sent", sentAt, dueAt: null })
          .where(sql`${messages.askId} = ${ask.id} and ${messages.step} = 0`);
        await tx
          .update(asks)
          .set({ answeredAt: answeredAfter === null ? null : sentAt + answeredAfter })
          .where(eq(asks.id, ask.id));
      });
    };
    // Before "c" came, the others did well: that says nothing about "c".
    for (let n = 0; n < 4; n++) for (const key of [own, "b"]) await leave(key, 2, TUESDAY - 15 * DAY, HOUR);
    for (const key of [own, "b", "c"]) {
      await leave(key, 3, TUESDAY - 8 * DAY, HOUR);
      await leave(key, 3, TUESDAY - 8 * DAY, 5 * DAY);
      await leave(key, 3, TUESDAY - 8 * DAY, null);
      // Too lately to be answered.
      await leave(key, 3, TUESDAY - HOUR, null);
    }
    const tallies = (
      await withClient(it.scope, (tx) => tallyWordings(tx, it.scope, plan.id, version("b", "c"), TUESDAY))
    ).get(step.key);
    expect(tallies).toEqual(keys.map((key) => ({ key: key === "own" ? own : key, sent: 3, answered: 1 })));
  });

  describe("holidays", () => {
    const days = (country: string, region: string | null, year: number) =>
      [...holidaysOf(country, region, year)].map(formatDay);

    test("are those of the branch's region", () => {
      // The last Monday in August is one in England and not in Scotland, where it is the first.
      expect(days("GB", null, 2026)).toContain("2026-08-31");
      expect(days("GB", "ENG", 2026)).toContain("2026-08-31");
      expect(days("GB", "SCT", 2026)).not.toContain("2026-08-31");
      expect(days("GB", "SCT", 2026)).toEqual(expect.arrayContaining(["2026-08-03", "2026-01-02"]));
      expect(days("GB", "ENG", 2026)).not.toContain("2026-01-02");
      expect(regionsOf("GB").map(({ code }) => code)).toEqual(expect.arrayContaining(["ENG", "SCT", "WLS", "NIR"]));
    });

    test("last all their days", () => {
      expect(days("KR", null, 2026)).toEqual(
        expect.arrayContaining(["2026-02-17", "2026-02-18", "2026-02-19", "2026-09-24", "2026-09-25", "2026-09-26"]),
      );
      expect(days("KR", null, 2026)).not.toContain("2026-02-20");
    });

    test("are none where nobody knows the country, and never fail", () => {
      expect(days("XX", "nowhere", 2026)).toEqual([]);
      for (const country of ["GB", "US", "DE", "FR", "JP", "TR", "IL"])
        for (const year of [1950, 2026, 2150]) expect(Array.isArray(days(country, "nowhere", year))).toBe(true);
    });
  });
});
