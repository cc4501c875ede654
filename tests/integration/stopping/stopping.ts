import { sql } from "drizzle-orm";
import { starterRules } from "@/core/plans/starters";
import { keepTag } from "@/features/clients";
import { addFeed, receiveList } from "@/features/intake";
import { enqueueNotice } from "@/features/notices";
import { savePerson } from "@/features/people";
import { erasePeople } from "@/features/people-admin";
import { installPlan } from "@/features/plans";
import { beginSkip, setDemoClock } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { newToken } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { standstill } from "../../support/standstill";
import { WorkerProcesses } from "../../support/workerProcess";

/**
 * A worker that is told to stop in the middle of each kind of task ends what it has begun, and leaves nothing half done
 * and no job behind. Sending is in crash.test.ts, with two workers.
 */
describe("stopping", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const HOUR = 3_600_000;

  let harness: Harness;
  let workers: WorkerProcesses;

  beforeAll(async () => {
    harness = await startHarness("stopping");
    workers = await WorkerProcesses.of(harness);
    await setDemoClock(NOW);
  });
  afterAll(async () => {
    workers.killAll();
    await harness.stop();
  });

  type Kind = {
    /** Gives the task something to do. */
    begin: (client: TestClient) => Promise<void>;
    /**
     * A table that the task needs after it was claimed: while nobody else may write it (or, "read", even read it) the task
     * is in the middle of its work.
     */
    needs: string;
    blocks?: "read";
    /** Counts what is there when it is done, for `$1` the client: must be one. */
    done: string;
  };

  const scopeOf = (client: TestClient) => workFor(client.id);

  const addPerson = async (client: TestClient, given: string) =>
    withClient(scopeOf(client), (tx) =>
      savePerson(
        tx,
        scopeOf(client),
        { given, family: "Pike", email: `${given}@post.example`, phone: null, note: "", doNotAsk: null },
        NOW - 40 * 24 * HOUR,
      ),
    ).then(({ person }) => person.id);

  const addFeedTo = (client: TestClient, kind: "webhook" | "calendar", url = "") =>
    withClient(scopeOf(client), (tx) =>
      addFeed(tx, scopeOf(client), "Maud", { kind, name: "Book", url, branchId: null, serviceId: null }, NOW),
    );

  const KINDS: Record<string, Kind> = {
    examine: {
      begin: async (client) => {
        const personId = await addPerson(client, "a");
        await harness.owner.query(
          "insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at, examine_at) values ($1, $2, $3, $4, $5, $6, 'finished', 'by hand', $6, $6)",
          [newId(), client.id, personId, client.branchId, client.serviceId, new Date(NOW - HOUR)],
        );
      },
      needs: "asks",
      done: "select count(*)::int as n from visits where client_id = $1 and decision = 'asked'",
    },
    triggers: {
      begin: async (client) => {
        const id = await addPerson(client, "b");
        await withClient(scopeOf(client), async (tx) => {
          await keepTag(tx, scopeOf(client), "Maud", null, { name: "vip", effect: "none" }, NOW);
          await installPlan(tx, scopeOf(client), {
            name: "Tagged",
            rules: { ...starterRules(), begins: { kind: "tag", tag: "vip" } },
            runningSince: NOW - 24 * HOUR,
            position: 1,
          });
        });
        await harness.owner.query("update people set tags = '{vip}' where id = $1", [id]);
        await harness.owner.query("update triggers set at = $2, examine_at = $2 where client_id = $1", [
          client.id,
          new Date(NOW - HOUR),
        ]);
      },
      needs: "messages",
      done: "select count(*)::int as n from triggers where client_id = $1 and decision is not null",
    },
    plan: {
      begin: async (client) => {
        await addPerson(client, "c");
        const planId = newId();
        await withClient(scopeOf(client), (tx) =>
          installPlan(tx, scopeOf(client), {
            id: planId,
            name: "A month a customer",
            rules: { ...starterRules(), begins: { kind: "customer", days: 30 } },
            runningSince: NOW - 24 * HOUR,
            position: 1,
          }),
        );
        await harness.owner.query("update plans set next_run_at = $2 where id = $1", [planId, new Date(NOW - HOUR)]);
      },
      needs: "plans",
      done: `select count(*)::int as n from plans where client_id = $1 and next_run_at > to_timestamp(${NOW / 1000})`,
    },
    notice: {
      begin: async (client) => {
        await withClient(scopeOf(client), (tx) =>
          enqueueNotice(tx, scopeOf(client), "something", { code: "not recorded" }, NOW - HOUR),
        );
      },
      needs: "seats",
      blocks: "read",
      done: "select count(*)::int as n from notices where client_id = $1 and due_at is null",
    },
    collect: {
      begin: async (client) => {
        await fetch(`${harness.waypostUrl}/places/${client.place}`, {
          method: "POST",
          body: new URLSearchParams({ author: "O", stars: "2", words: "x" }),
          redirect: "manual",
        });
        await harness.owner.query("update listings set collect_at = to_timestamp(0) where client_id = $1", [client.id]);
      },
      needs: "reviews",
      done: "select count(*)::int as n from reviews r join listings l on l.id = r.listing_id where r.client_id = $1 and l.review_count = 1",
    },
    inbound: {
      begin: async (client) => {
        const feed = await addFeedTo(client, "webhook");
        const event = { type: "nothing.known", data: {} };
        await rowsOf(
          sql`select estima_add_inbound_event(${newId()}, ${feed.id}, 'e', ${JSON.stringify(event)}::jsonb, ${new Date(NOW).toISOString()})`,
        );
      },
      needs: "feeds",
      blocks: "read",
      done: "select count(*)::int as n from inbound_events where client_id = $1 and state <> 'waiting'",
    },
    fetch: {
      begin: async (client) => {
        const { slug } = client;
        const book = {
          slug,
          name: "Book",
          services: ["Check-up"],
          branches: ["Fenwick"],
          staff: ["Dr Hale"],
          about: null,
        };
        harness.town.daybook.open(book);
        harness.town.daybook.load([
          {
            id: `L${slug}`,
            book: slug,
            customer: { id: "1", name: "Jun Albrecht", phone: "+447700900321", email: null },
            service: "Check-up",
            branch: "Fenwick",
            staff: "Dr Hale",
            about: null,
            startsAt: NOW + HOUR,
            endsAt: NOW + 2 * HOUR,
            status: "booked",
            changedAt: NOW,
          },
        ]);
        await addFeedTo(client, "calendar", `${harness.daybookUrl}/book/${slug}/calendar.ics`);
      },
      needs: "people",
      done: "select count(*)::int as n from visits where client_id = $1",
    },
    list: {
      begin: async (client) => {
        const scope = scopeOf(client);
        const bytes = new TextEncoder().encode("Name,Email\nJun Pike,jun@post.example\nMia Pike,mia@post.example\n");
        const it = { source: "file" as const, name: "x.csv", bytes, who: "Maud", requestKey: newId() };
        const intakeId = await receiveList(scope, it);
        await harness.owner.query(
          "update intakes set state = 'importing', asks = false, counts = $2, worked_until = null where id = $1",
          [intakeId, { rows: 0, new: 0, changed: 0, unchanged: 0, refused: 0, doubtful: 0, visits: 0 }],
        );
      },
      needs: "people",
      done: "select count(*)::int as n from intakes where client_id = $1 and state = 'imported' and (counts ->> 'new')::int = 2",
    },
    replan: {
      begin: async (client) => {
        const personId = await addPerson(client, "d");
        await harness.owner.query(
          `with v as (insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at) values ($1, $2, $3, $4, $5, $6, 'finished', 'by hand', $6) returning id)
         insert into asks (id, client_id, plan_id, person_id, visit_id, branch_id, token, anchor_at, created_at) select $7::uuid, $2, $8, $3, id, $4, $9, $6, $6 from v`,
          [
            newId(),
            client.id,
            personId,
            client.branchId,
            client.serviceId,
            new Date(NOW - HOUR),
            newId(),
            client.planId,
            newToken(),
          ],
        );
        await addJob("replan", { clientId: client.id, planId: null });
      },
      needs: "messages",
      done: "select count(*)::int as n from messages where client_id = $1 and state = 'planned'",
    },
    matches: {
      begin: (client) => addJob("matches", { clientId: client.id }),
      needs: "people_matches",
      done: "select count(*)::int as n from people_matches where client_id = $1",
    },
    forget: {
      begin: async (client) => {
        const scope = scopeOf(client);
        const rows = Array.from({ length: 3000 }, (_, n) => `Jun Pike,p${n}@post.example\n`).join("");
        const bytes = new TextEncoder().encode(`Name,Email\n${rows}`);
        await receiveList(scope, { source: "file", name: "x.csv", bytes, who: "Maud", requestKey: newId() });
        const id = await addPerson(client, "p7");
        await withClient(scope, (tx) => erasePeople(tx, scope, [id], "Maud", NOW));
        await addJob("forget", { clientId: client.id });
      },
      needs: "intakes",
      done: "select count(*)::int as n from intakes where client_id = $1",
    },
    outlook: {
      begin: (client) => addJob("outlook", { clientId: client.id }),
      needs: "outlooks",
      done: "select count(*)::int as n from outlooks where client_id = $1 and at > to_timestamp(0)",
    },
    delete: {
      begin: async (client) => {
        await addPerson(client, "gone");
        await harness.owner.query("update clients set deleting_at = now(), deleted = '{}' where id = $1", [client.id]);
      },
      needs: "people",
      done: "select (not exists (select 1 from clients where id = $1))::int as n",
    },
    summary: {
      begin: async (client) => {
        const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
        await harness.owner.query(
          "insert into users (id, name, email) values ('reader', 'Reader', 'reader@agency.example') on conflict do nothing",
        );
        await harness.owner.query(
          "insert into seats (id, user_id, agency_id, role) values (gen_random_uuid(), 'reader', $1, 'agency') on conflict do nothing",
          [rows[0].agency_id],
        );
        await addJob("summary", { agencyId: rows[0].agency_id, userId: "reader", day: "2026-11-24" });
      },
      needs: "agencies",
      blocks: "read",
      done: "select 1 as n where $1::text is not null",
    },
    skip: {
      begin: async () => {
        await beginSkip(NOW + 10 * 60_000);
        await addJob("skip", { from: NOW, to: NOW + 10 * 60_000 }, "skip");
      },
      needs: "demo_clock",
      done: "select count(*)::int as n from demo_clock where skipping_to is null and $1 <> ''",
    },
  };

  test.each(Object.keys(KINDS))(
    "told to stop in the middle of “%s”, a worker ends it, and loses nothing",
    async (kind) => {
      const { begin, needs, blocks, done } = KINDS[kind];
      const client = await harness.addClient();
      await harness.owner.query("update listings set collect_at = 'infinity'");
      await begin(client);
      const held = await harness.owner.connect();
      await held.query("begin");
      await held.query(`lock table ${needs} in ${blocks ? "access exclusive" : "exclusive"} mode`);
      const worker = await workers.start();
      const ended = new Promise<number | null>((end) => worker.on("exit", (code) => end(code)));
      await until(async () => {
        const { rows } = await harness.owner.query(
          `select 1 from pg_locks l, graphile_worker.jobs j
       where l.relation = $1::regclass and not l.granted and j.task_identifier = $2 and j.locked_by is not null limit 1`,
          [needs, kind],
        );
        return rows.length > 0;
      });
      worker.kill("SIGTERM");
      await held.query("commit");
      held.release();
      expect(await ended).toBe(0);
      const jobs = async () =>
        (
          await harness.owner.query<{ locked_by: string | null }>(
            "select locked_by from graphile_worker.jobs where task_identifier = $1",
            [kind],
          )
        ).rows;
      // What was in the queue and not begun is another worker's; nothing is kept by the one that is gone.
      expect((await jobs()).filter(({ locked_by }) => locked_by !== null)).toEqual([]);
      const isDone = async () => (await harness.owner.query(done, [client.id])).rows[0].n === 1;
      if (!(await isDone()) || (await jobs()).length > 0) {
        const next = await workers.start();
        await until(async () => (await isDone()) && (await jobs()).length === 0);
        next.kill("SIGKILL");
      }
      expect(await isDone()).toBe(true);
    },
    600_000,
  );

  async function until(what: () => Promise<boolean>): Promise<void> {
    const progress = standstill();
    while (!(await what())) {
      progress(0);
      await new Promise((next) => setTimeout(next, 20));
    }
  }
});
