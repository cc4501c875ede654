import { setDemoClock } from "@/platform/clock";
import { addJob } from "@/platform/jobs";
import { newToken } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { size } from "../../support/size";
import { standstill } from "../../support/standstill";
import { WorkerProcesses } from "../../support/workerProcess";

/**
 * Two workers, many due messages, and one of the workers killed again and again in the middle of its work:
 * every message reaches the gateways exactly once.
 */
describe("crash", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const COUNT = size(800, 3000);
  let harness: Harness;
  let client: TestClient;
  let workers: WorkerProcesses;

  beforeAll(async () => {
    harness = await startHarness("crash");
    workers = await WorkerProcesses.of(harness, { LEASE_SECONDS: "3" });
    client = await harness.addClient();
  });
  afterAll(async () => {
    workers.killAll();
    await harness.stop();
  });

  test("killed in the middle, nothing is lost and nothing doubled", async () => {
    // A clock of the day on which the test plays, so that it is never night.
    const now = NOW;
    const always = JSON.stringify(Array.from({ length: 7 }, () => [{ open: 0, close: 1440 }]));
    await harness.owner.query(`update clients set send_hours = '{"text": ${always}, "email": ${always}}'`);
    const people: string[][] = [];
    for (let n = 0; n < COUNT; n++)
      people.push([
        newId(),
        newId(),
        newId(),
        newId(),
        newToken(),
        n % 2 ? `p${n}@post.example` : "",
        n % 2 ? "" : `+4477${String(10000000 + n)}`,
      ]);
    const columns = people[0].map((_, index) => people.map((row) => row[index]));
    await harness.owner.query(
      `with d as (select * from unnest($1::uuid[], $2::uuid[], $3::uuid[], $4::uuid[], $5::text[], $6::text[], $7::text[]) as d(person, visit, ask, message, token, email, phone)),
     p as (insert into people (id, client_id, given, family, email, phone, phone_takes_texts, created_at) select person, $8, 'Jun', '', nullif(email, ''), nullif(phone, ''), phone <> '', now() from d),
     v as (insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at) select visit, $8, person, $9, $10, to_timestamp($12), 'finished', 'by hand', now() from d),
     a as (insert into asks (id, client_id, plan_id, person_id, visit_id, branch_id, token, anchor_at, created_at) select ask, $8, $11, person, visit, $9, token, to_timestamp($12), now() from d)
     insert into messages (id, client_id, person_id, branch_id, ask_id, direction, channel, step, state, due_at, created_at) select message, $8, person, $9, ask, 'out', case when email = '' then 'text' else 'email' end, 0, 'planned', to_timestamp($12), now() from d`,
      [...columns, client.id, client.branchId, client.serviceId, client.planId, (now - 3 * 3_600_000) / 1000],
    );
    await setDemoClock(NOW);
    const arrived = () => harness.town.mail.mails.size + harness.town.texts.texts.size;
    await workers.start();
    let victim = await workers.start();
    let kills = 0;
    let seen = 0;
    const progress = standstill();
    for (;;) {
      await new Promise((next) => setTimeout(next, 60));
      progress(arrived());
      const { rows } = await harness.owner.query(
        "select count(*)::int as n from messages where step = 0 and state in ('planned', 'sending')",
      );
      // Killed while it works: each time a few more hundred have left.
      if (kills < 5 && arrived() > seen + 150 && rows[0].n > 0) {
        victim.kill("SIGKILL");
        kills += 1;
        seen = arrived();
        victim = await workers.start();
      }
      if (rows[0].n === 0) break;
    }
    expect(kills).toBeGreaterThanOrEqual(3);
    expect(harness.town.mail.mails.size).toBe(COUNT / 2);
    expect(harness.town.texts.texts.size).toBe(COUNT / 2);
    const { rows } = await harness.owner.query(
      "select state, count(*)::int as n from messages where step = 0 group by 1",
    );
    expect(rows.every(({ state }) => state === "sent" || state === "delivered")).toBe(true);
    expect(rows.reduce((sum, { n }) => sum + n, 0)).toBe(COUNT);
    const { rows: asks } = await harness.owner.query("select count(*)::int as n from asks where sent_count = 1");
    expect(asks[0].n).toBe(COUNT);
  }, 1_800_000);

  test("a job whose worker was killed is taken up by another, long before the queue itself would", async () => {
    workers.killAll();
    const jobs = async () =>
      (
        await harness.owner.query<{ locked_by: string | null; attempts: number }>(
          "select locked_by, attempts from graphile_worker.jobs where task_identifier = 'replan'",
        )
      ).rows;
    const until = async (what: (rows: Awaited<ReturnType<typeof jobs>>) => boolean) => {
      const progress = standstill();
      while (!what(await jobs())) {
        progress(0);
        await new Promise((next) => setTimeout(next, 20));
      }
    };
    // Jobs that the first test's killed workers had are let go, too.
    await harness.owner.query(
      "select graphile_worker.force_unlock_workers(array_agg(locked_by)) from graphile_worker.jobs",
    );
    await addJob("replan", { clientId: client.id, planId: client.planId });
    const victim = await workers.start();
    await until(([job]) => job?.locked_by != null);
    victim.kill("SIGKILL");
    expect(await jobs()).toHaveLength(1);
    await workers.start();
    await until((rows) => rows.length === 0);
    const { rows } = await harness.owner.query(
      "select count(*)::int as messages, count(distinct ask_id)::int as asks from messages where state = 'planned'",
    );
    expect(rows[0]).toEqual({ messages: COUNT, asks: COUNT });
  }, 1_800_000);

  test("told to stop in the middle of its work, a worker ends what it has begun; the rest is another's", async () => {
    workers.killAll();
    await harness.owner.query(
      "select graphile_worker.force_unlock_workers(array_agg(locked_by)) from graphile_worker.jobs where locked_by is not null",
    );
    // The follow-ups are due, and the client's plans are to be looked at anew: two kinds of work at once.
    const followUps = NOW + 4 * 86_400_000;
    await setDemoClock(followUps);
    await addJob("replan", { clientId: client.id, planId: null });
    const before = harness.town.mail.mails.size + harness.town.texts.texts.size;
    const arrived = () => harness.town.mail.mails.size + harness.town.texts.texts.size - before;
    const first = await workers.start();
    const progress = standstill();
    while (arrived() < 100) {
      progress(arrived());
      await new Promise((next) => setTimeout(next, 20));
    }
    const ended = new Promise<number | null>((done) => first.on("exit", (code) => done(code)));
    first.kill("SIGTERM");
    expect(await ended).toBe(0);
    // What it had begun it brought to an end: nothing hangs between the gateway and our own note of it.
    const states = async () => {
      const { rows } = await harness.owner.query<{ state: string; n: number }>(
        "select state, count(*)::int as n from messages where step = 1 group by 1",
      );
      return Object.fromEntries(rows.map(({ state, n }) => [state, n]));
    };
    expect((await states()).sending ?? 0).toBe(0);
    await workers.start();
    const rest = standstill();
    for (let left = COUNT; left > 0; ) {
      const now = await states();
      left = (now.planned ?? 0) + (now.sending ?? 0);
      rest(left);
      await new Promise((next) => setTimeout(next, 60));
    }
    expect(arrived()).toBe(COUNT);
    const { rows } = await harness.owner.query("select count(*)::int as n from asks where sent_count = 2");
    expect(rows[0].n).toBe(COUNT);
  }, 1_800_000);
});
