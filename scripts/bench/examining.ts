import { and, asc, eq, gt, inArray } from "drizzle-orm";
import pg from "pg";
import { checkEligibility } from "@/core/asks/eligibility";
import { EligibilityFacts, planOf } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { claimDue } from "@/features/messaging";
import type { Person } from "@/features/people";
import { runRehearsal, stageRehearsal } from "@/features/plan-editor";
import { listPlans } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { type Tx, withClient } from "@/platform/database";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";

/** Deciding about visits, rehearsing them, and finding what is due, at scale. */

type BenchClient = { id: string; branchId: string; serviceId: string; planId: string };

const NOW = Date.UTC(2026, 10, 24, 14, 5);
const PAGE = 5000;

/** Adds people, each with two visits that ended within the last week. */
export async function addVisits(databaseUrl: string, client: BenchClient, count: number): Promise<void> {
  const db = new pg.Client({ connectionString: databaseUrl });
  await db.connect();
  await db.query(
    `insert into people (id, client_id, given, family, email, created_at) select gen_random_uuid(), $1, 'Odette', 'Marsh ' || n, 'odette' || n || '@post.example', now() from generate_series(1, $2) n`,
    [client.id, Math.ceil(count / 2)],
  );
  await db.query(
    `insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at)
     select gen_random_uuid(), $1, p.id, $2, $3, to_timestamp($4) - make_interval(secs => (row_number() over ()) * 6 * n), 'finished', 'webhook', now() from people p, generate_series(1, 2) n where p.client_id = $1 limit $5`,
    [client.id, client.branchId, client.serviceId, NOW / 1000, count],
  );
  await db.query("analyze people, visits");
  await db.end();
}

export async function clearVisits(databaseUrl: string, client: BenchClient): Promise<void> {
  const db = new pg.Client({ connectionString: databaseUrl });
  await db.connect();
  for (const table of ["messages", "asks", "visits", "people"])
    await db.query(`delete from ${table} where client_id = $1`, [client.id]);
  await db.end();
}

async function* pagesOf(tx: Tx, clientId: string): AsyncGenerator<{ found: Visit[]; persons: Person[] }> {
  let after = "00000000-0000-0000-0000-000000000000";
  for (;;) {
    const found = await tx
      .select()
      .from(visits)
      .where(and(eq(visits.clientId, clientId), gt(visits.id, after)))
      .orderBy(asc(visits.id))
      .limit(PAGE);
    if (found.length === 0) return;
    after = found.at(-1)?.id ?? after;
    const persons = await tx
      .select()
      .from(people)
      .where(inArray(people.id, [...new Set(found.map(({ personId }) => personId))]));
    yield { found, persons };
  }
}

/** Seconds to read all visits with their people, and nothing more. */
export async function readThem(client: BenchClient): Promise<number> {
  const began = performance.now();
  let count = 0;
  await withClient({ clientId: client.id }, async (tx) => {
    for await (const { found } of pagesOf(tx, client.id)) count += found.length;
  });
  if (count === 0) throw new Error("There was nothing to read.");
  return (performance.now() - began) / 1000;
}

/**
 * Seconds to read them the same way and decide about each: which plan takes it, all that the rules look at, and the
 * verdict with its trace.
 */
export async function examineThem(client: BenchClient): Promise<{ seconds: number; asked: number }> {
  const scope = { clientId: client.id };
  const began = performance.now();
  let asked = 0;
  await withClient(scope, async (tx) => {
    const setting = await loadSetting(tx);
    const plans = await listPlans(tx, scope);
    for await (const { found, persons } of pagesOf(tx, client.id)) {
      const byId = new Map(persons.map((person) => [person.id, person]));
      const known = await EligibilityFacts.load(tx, scope, setting, persons, found, NOW);
      for (const visit of found) {
        const person = byId.get(visit.personId);
        if (!person) continue;
        const { plan, alsoTakenBy } = planOf(plans, visit);
        if (checkEligibility(known.forVisit(plan, alsoTakenBy, visit, person)).asked) asked += 1;
      }
    }
  });
  return { seconds: (performance.now() - began) / 1000, asked };
}

/** Seconds to rehearse a plan on the visits of a period, from reading them to the last message. */
export async function rehearseThem(
  client: BenchClient,
  days: number,
): Promise<{ seconds: number; visits: number; messages: number }> {
  const scope = { clientId: client.id };
  return withClient(scope, async (tx) => {
    const began = performance.now();
    const setting = await loadSetting(tx);
    const [plan] = await listPlans(tx, scope);
    const stage = await stageRehearsal(
      tx,
      scope,
      setting,
      plan.rules,
      { kind: "past", from: NOW - days * 86_400_000, to: NOW + 1 },
      NOW,
    );
    if (!stage) throw new Error("Nothing to rehearse.");
    const { messages } = runRehearsal(stage, plan.id, plan.rules);
    return { seconds: (performance.now() - began) / 1000, visits: stage.visits.length, messages: messages.length };
  });
}

/** Milliseconds to claim a batch of due messages among `count` planned ones, and among a hundredth of them. */
export async function claimAmong(databaseUrl: string, client: BenchClient, count: number): Promise<number> {
  const db = new pg.Client({ connectionString: databaseUrl });
  await db.connect();
  await db.query(
    `insert into messages (id, client_id, person_id, direction, channel, state, due_at, created_at)
     select gen_random_uuid(), $1, p.id, 'out', 'email', 'planned', to_timestamp($2) + make_interval(secs => n), now() from (select id from people where client_id = $1 limit 1) p, generate_series(1, $3) n`,
    [client.id, NOW / 1000, count],
  );
  await db.query("analyze messages");
  await db.end();
  const times: number[] = [];
  for (let turn = 0; turn < 12; turn++) {
    const began = performance.now();
    const [claim] = await claimDue(NOW + (turn + 1) * 100_000, 100);
    if (claim?.messageIds.length !== 100) throw new Error(`Claimed ${claim?.messageIds.length ?? 0} of 100.`);
    if (turn >= 2) times.push(performance.now() - began);
  }
  return [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];
}
