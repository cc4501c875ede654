import { and, asc, desc, eq, gt, inArray, isNotNull, sql } from "drizzle-orm";
import { checkEligibility } from "@/core/asks/eligibility";
import type { TraceLine } from "@/core/asks/findings";
import type { PauseReason } from "@/core/plans/pauseReason";
import { DAY, dayNumber, fromLocal, nextDay, toLocal } from "@/core/time/zone";
import { loadSetting, type Setting } from "@/features/clients";
import { enqueueNotice } from "@/features/notices";
import { nameOf, type Person } from "@/features/people";
import { findPlan, listPlans, type Plan, setPlanState, setRuns } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { releaseVisitsOfPlan } from "@/features/visits";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { plans, triggers } from "@/schema/plans";
import { visits } from "@/schema/visits";
import { loadContexts } from "./contexts";
import { beginAsks, decide, type NewAsk, portionsFrom } from "./decide";
import { EligibilityFacts, lockHomes } from "./eligibilityFacts";
import { planNext, replanAll, stopAsks } from "./schedule";

/**
 * Plans that look by themselves: at people who got a tag or have been customers for so long, and at lists in daily
 * portions.
 */

/**
 * Decides about triggers that are due. An ask is about the person's last finished visit and counts from the
 * trigger.
 */
export async function runTriggers(tx: Tx, scope: Scope, ids: readonly string[], now: number): Promise<number> {
  const due = await tx
    .select()
    .from(triggers)
    .where(and(eq(triggers.clientId, scope.clientId), inArray(triggers.id, [...ids]), isNotNull(triggers.examineAt)))
    .orderBy(asc(triggers.examineAt), asc(triggers.id))
    .for("update");
  if (due.length === 0) return 0;
  const setting = await loadSetting(tx);
  const all = new Map((await listPlans(tx, scope)).map((plan) => [plan.id, plan]));
  const personIds = [...new Set(due.map(({ personId }) => personId))];
  await lockHomes(tx, scope, await tx.select().from(people).where(inArray(people.id, personIds)));
  const persons = new Map(
    (await tx.select().from(people).where(inArray(people.id, personIds))).map((person) => [person.id, person]),
  );
  const last = await tx
    .selectDistinctOn([visits.personId])
    .from(visits)
    .where(
      and(eq(visits.clientId, scope.clientId), inArray(visits.personId, personIds), eq(visits.outcome, "finished")),
    )
    .orderBy(visits.personId, desc(visits.endsAt));
  const lastOf = new Map(last.map((visit) => [visit.personId, visit]));
  const facts = await EligibilityFacts.load(tx, scope, setting, [...persons.values()], last, now);
  const fresh: NewAsk[] = [];
  for (const trigger of due) {
    const at = trigger.at ?? now;
    const keep = (values: Partial<typeof triggers.$inferInsert>) =>
      tx
        .update(triggers)
        .set({ at, examineAt: null, claimedUntil: null, examinedAt: now, ...values })
        .where(eq(triggers.id, trigger.id));
    const person = persons.get(trigger.personId);
    const plan = all.get(trigger.planId) ?? null;
    const visit = lastOf.get(trigger.personId);
    if (!person || person.erasedAt || person.mergedInto)
      await keep({ decision: "left out", reason: "no plan", trace: [] });
    else if (!visit) {
      const trace: TraceLine[] = [{ rule: "not finished", objects: true, finding: { code: "not known yet" } }];
      await keep({ decision: "left out", reason: "not finished", trace });
    } else {
      const asking = plan?.state === "running" || plan?.state === "paused" ? plan : null;
      const verdict = checkEligibility(facts.forVisit(asking, [], { ...visit, endsAt: Math.min(at, now) }, person));
      if (!verdict.asked || !asking)
        await keep({ decision: "left out", reason: verdict.asked ? "no plan" : verdict.reason, trace: verdict.trace });
      else {
        const ask = begun(asking, visit, person, verdict.trace, at, now);
        fresh.push(ask);
        facts.add(person, {
          id: ask.id,
          open: true,
          endsAt: visit.endsAt,
          branchId: visit.branchId,
          soFar: { done: 1, byHand: false },
          plan: { id: asking.id },
          person: { id: person.id, name: nameOf(person) },
        });
        await keep({ decision: "asked", reason: null, trace: verdict.trace, askId: ask.id });
      }
    }
  }
  await beginAsks(tx, scope, setting, fresh);
  await planNext(
    tx,
    scope,
    setting,
    await loadContexts(
      tx,
      scope,
      fresh.map(({ id }) => id),
    ),
    now,
  );
  return due.length;
}

function begun(plan: Plan, visit: Visit, person: Person, trace: TraceLine[], at: number, now: number): NewAsk {
  return { id: newId(), plan, visit, person, trace, anchorAt: at, createdAt: now };
}

/**
 * Somebody's concern was closed as put right: plans that begin so ask once more, and once something has gone out never
 * again about this concern. Where it was reopened before that, putting it right again asks. They ask of whoever was
 * written to, also where they were asked a short while ago.
 */
export async function addPutRight(
  tx: Tx,
  scope: Scope,
  { personId, concernId }: { personId: string; concernId: string },
  now: number,
): Promise<void> {
  const at = new Date(now).toISOString();
  await tx.execute(sql`
    insert into triggers (id, client_id, plan_id, person_id, key, at, examine_at)
    select ${newId()}::uuid, ${scope.clientId}, p.id, ${personId}, ${putRightKey(concernId)}, ${at}, ${at} from plans p
    where p.client_id = ${scope.clientId} and p.state = 'running' and p.rules -> 'begins' ->> 'kind' = 'put right'
    order by p.position limit 1
    on conflict (plan_id, person_id, key) do update
    set at = excluded.at, examine_at = excluded.examine_at, examined_at = null, decision = null, reason = null, trace = null, ask_id = null
    where not exists (select 1 from asks a where a.id = triggers.ask_id and a.sent_count > 0)`);
}

const putRightKey = (concernId: string) => `put right ${concernId}`;

/** Whether somebody has been asked once more since this concern was put right. */
export async function wasAskedAgain(tx: Tx, scope: Scope, concernId: string): Promise<boolean> {
  const [sent] = await tx
    .select({ id: triggers.id })
    .from(triggers)
    .innerJoin(asks, eq(asks.id, triggers.askId))
    .where(and(eq(triggers.clientId, scope.clientId), eq(triggers.key, putRightKey(concernId)), gt(asks.sentCount, 0)))
    .limit(1);
  return sent !== undefined;
}

/** It was not put right after all: what was planned because of it stops. */
export async function stopPutRight(tx: Tx, scope: Scope, concernId: string, now: number): Promise<void> {
  const found = await tx
    .update(triggers)
    .set({ examineAt: null })
    .where(and(eq(triggers.clientId, scope.clientId), eq(triggers.key, putRightKey(concernId))))
    .returning({ askId: triggers.askId });
  await stopAsks(
    tx,
    scope,
    found.flatMap(({ askId }) => askId ?? []),
    "cancelled by hand",
    now,
  );
}

/** Does what a plan has to do by itself at this time, and sets when next. */
export async function runPlanSchedule(tx: Tx, scope: Scope, planId: string, now: number): Promise<void> {
  const [plan] = await tx
    .select()
    .from(plans)
    .where(and(eq(plans.clientId, scope.clientId), eq(plans.id, planId)))
    .for("update");
  if (!plan?.nextRunAt || plan.nextRunAt > now) return;
  const setting = await loadSetting(tx);
  if (plan.state !== "running") await setNextRun(tx, plan, null);
  else if (plan.rules.begins.kind === "customer")
    await meetCustomers(tx, scope, setting, plan, plan.rules.begins.days, now);
  else if (plan.rules.portions) await askPortion(tx, scope, setting, plan, plan.rules.portions.perDay, now);
  else {
    await releaseWaiting(tx, scope, plan.id, now);
    await setNextRun(tx, plan, null);
  }
}

/** Visits that waited for the portions of a plan that has none any more: plans look at them anew. */
export async function releaseWaiting(tx: Tx, scope: Scope, planId: string, now: number): Promise<void> {
  await releaseVisitsOfPlan(tx, scope, planId, now);
}

async function setNextRun(
  tx: Tx,
  plan: Plan,
  nextRunAt: number | null,
  lookedUntil: number | null = plan.lookedUntil,
): Promise<void> {
  await setRuns(tx, plan.id, nextRunAt, lookedUntil);
}

/** Notes who will have been a customer for so many days within the next day. */
async function meetCustomers(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  plan: Plan,
  days: number,
  now: number,
): Promise<void> {
  const from = plan.lookedUntil ?? now;
  const until = now + DAY;
  const iso = (at: number) => new Date(at).toISOString();
  await tx.execute(sql`
    insert into triggers (id, client_id, plan_id, person_id, key, at, examine_at)
    select gen_random_uuid(), ${scope.clientId}, ${plan.id}, f.person_id, ${`customer ${days}`}, f.at, f.at
    from (select v.person_id, min(v.ends_at) + make_interval(secs => ${days * 86_400}) as at from visits v
          where v.client_id = ${scope.clientId} and v.ends_at > ${iso(from - days * DAY)} and v.ends_at <= ${iso(until - days * DAY)} and v.outcome = 'finished'
            and not exists (select 1 from visits e where e.client_id = v.client_id and e.person_id = v.person_id and e.ends_at < v.ends_at and e.outcome = 'finished')
          group by v.person_id) f
    on conflict do nothing`);
  await setNextRun(tx, plan, nextDay(setting.client.zone, now), until);
}

/** Asks the next portion of a list, those of the newest visits first, unless too many of it came back or opted out. */
async function askPortion(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  plan: Plan,
  perDay: number,
  now: number,
): Promise<void> {
  if (await pauseIfRejectedOne(tx, scope, setting, plan, now)) return;
  let left = perDay - (await askedOnDay(tx, scope, setting, plan.id, now));
  while (left > 0) {
    const pool = await tx
      .select()
      .from(visits)
      .where(and(eq(visits.clientId, scope.clientId), eq(visits.waitsFor, plan.id)))
      .orderBy(desc(visits.endsAt), asc(visits.id))
      .limit(Math.min(500, Math.max(50, left)))
      .for("update");
    if (pool.length === 0) break;
    const { asked, leftOut } = await decide(
      tx,
      scope,
      setting,
      pool.map((visit) => ({ visit, plan, alsoTakenBy: [] })),
      now,
      true,
      left,
    );
    left -= asked;
    if (asked + leftOut === 0) break;
  }
  const [{ waiting }] = await rowsIn<{ waiting: boolean }>(
    tx,
    sql`select exists (select 1 from visits where client_id = ${scope.clientId} and waits_for = ${plan.id}) as waiting`,
  );
  await setNextRun(tx, plan, waiting ? portionsFrom(setting, plan, nextDay(setting.client.zone, now)) : null);
}

/** How many of a plan's lists were asked on the day of an instant, as the client counts days. */
export async function askedOnDay(tx: Tx, scope: Scope, setting: Setting, planId: string, at: number): Promise<number> {
  const from = new Date(dayStart(setting.client.zone, at)).toISOString();
  const [{ begun }] = await rowsIn<{ begun: number }>(
    tx,
    sql`select count(*)::int as begun from asks a join visits v on v.ask_id = a.id where a.client_id = ${scope.clientId} and a.plan_id = ${planId} and a.is_spread and a.created_at >= ${from}`,
  );
  return begun;
}

function dayStart(zone: string, at: number): number {
  return fromLocal(zone, dayNumber(toLocal(zone, at)) * DAY);
}

/** Rates below this many messages say nothing. */
const LEAST_TOLD = 20;

/** Pauses a plan of portions when more of its messages came back, or more people opted out, than it may. */
export async function pauseIfRejectedOne(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  plan: Plan,
  now: number,
): Promise<boolean> {
  const { portions } = plan.rules;
  if (!portions || plan.state !== "running") return false;
  const since = new Date(plan.runningSince).toISOString();
  const [told] = await rowsIn<{ sent: number; bounced: number; reached: number; out: number }>(
    tx,
    sql`select count(m.id)::int as sent, count(m.id) filter (where m.state = 'bounced')::int as bounced, count(distinct a.person_id)::int as reached,
          count(distinct a.person_id) filter (where p.email_opted_out_at >= a.created_at or p.text_opted_out_at >= a.created_at)::int as out
        from asks a join messages m on m.client_id = a.client_id and m.ask_id = a.id and m.state in ('sent', 'delivered', 'bounced') join people p on p.id = a.person_id
        where a.client_id = ${scope.clientId} and a.plan_id = ${plan.id} and a.created_at >= ${since}`,
  );
  if (told.sent < LEAST_TOLD) return false;
  const share = (part: number, whole: number) => Math.round((1000 * part) / whole) / 10;
  const [back, out] = [share(told.bounced, told.sent), share(told.out, told.reached)];
  const why: PauseReason | null =
    back > portions.mostBounced
      ? { code: "came back", share: back, count: told.bounced, of: told.sent, most: portions.mostBounced }
      : out > portions.mostOptedOut
        ? { code: "opted out", share: out, count: told.out, of: told.reached, most: portions.mostOptedOut }
        : null;
  if (!why) return false;
  await setPlanState(tx, scope, "Estima", plan.id, "paused", now, why);
  await enqueueNotice(
    tx,
    scope,
    `${pauseNoticeKey(plan.id)}${now}`,
    { code: "plan paused", plan: plan.name, planId: plan.id, why },
    now,
  );
  await replanAll(tx, scope, setting, now, plan.id);
  return true;
}

/** How notices begin that this plan paused by itself. */
export function pauseNoticeKey(planId: string): string {
  return `stopped ${planId} `;
}

/** Looks again at a plan of portions after something came back or somebody opted out. */
export async function pauseIfRejected(tx: Tx, scope: Scope, planIds: readonly string[], now: number): Promise<void> {
  for (const id of new Set(planIds)) {
    const plan = await findPlan(tx, scope, id);
    if (plan?.rules.portions && plan.state === "running")
      await pauseIfRejectedOne(tx, scope, await loadSetting(tx), plan, now);
  }
}

/** Drops the triggers of one person that another has too, before both become one. */
export async function dropSameTriggers(tx: Tx, scope: Scope, goneId: string, keptId: string): Promise<void> {
  await tx.execute(
    sql`delete from triggers o where o.client_id = ${scope.clientId} and o.person_id = ${goneId} and exists (select 1 from triggers k where k.plan_id = o.plan_id and k.key = o.key and k.person_id = ${keptId})`,
  );
}
