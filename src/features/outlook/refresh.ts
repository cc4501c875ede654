import { and, eq, inArray, sql } from "drizzle-orm";
import { comesBack, isNear, type Need, needKey, parted, sortNeeds, urgencyOf } from "@/core/activity/needs";
import { type Arrivals, isSilent, learnUsual, type Usual, usualByNow, WEEKS_LEARNT } from "@/core/activity/usual";
import { isPaused } from "@/core/clients/pause";
import { sitesInNeed } from "@/core/reviews/sites";
import { DAY, dayNumber, MINUTE, nextMonth, toLocal, weekday } from "@/core/time/zone";
import { countHeld, standingOf, stoppedPlans } from "@/features/asks";
import { allowanceOf, calendarOf, loadSetting, monthOf, type Setting, usageOf } from "@/features/clients";
import { waitingConcerns } from "@/features/concerns";
import { overdueConversations } from "@/features/conversations";
import { ANSWERABLE } from "@/features/reviews";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { feeds } from "@/schema/feeds";
import { needsAside, outlooks } from "@/schema/outlook";
import { loadFirstSteps } from "./firstSteps";

/** Works out how a client is doing and what it needs somebody for, and keeps it for its agency's page. */

/** How many clients one look claims at most. */
const MOST_CLAIMED = 20;

/** Claims clients whose outlook is old. */
export async function claimOutlooks(now: number): Promise<{ clientId: string }[]> {
  const rows = await rowsOf<{ client_id: string }>(
    sql`select * from estima_claim_outlooks(${new Date(now).toISOString()}, ${MOST_CLAIMED})`,
  );
  return rows.map(({ client_id }) => ({ clientId: client_id }));
}

/** Works one client's outlook out anew. */
export async function refreshOutlook(clientId: string): Promise<void> {
  const scope = workFor(clientId);
  const now = await clockNow();
  await withClient(scope, async (tx) => {
    await tx.execute(sql`select estima_take_outlook_marks()`);
    const setting = await loadSetting(tx);
    const all = sortNeeds(await needsOf(tx, scope, setting, now));
    const { open: needs, aside } = parted(all, await currentAside(tx, scope, all));
    const figures = await figuresOf(tx, scope, now);
    const values = { at: now, needs, aside, urgency: urgencyOf(needs), ...figures, claimedUntil: null };
    await tx
      .insert(outlooks)
      .values({ clientId, agencyId: setting.client.agencyId, ...values })
      .onConflictDoUpdate({ target: outlooks.clientId, set: { ...values, agencyId: setting.client.agencyId } });
  });
}

/** What somebody has set aside and is still so; what is over by now is forgotten. */
async function currentAside(tx: Tx, scope: Scope, needs: readonly Need[]) {
  const rows = await tx.select().from(needsAside).where(eq(needsAside.clientId, scope.clientId));
  const keys = new Set(needs.map(needKey));
  const over = rows.filter(({ key }) => !keys.has(key)).map(({ key }) => key);
  if (over.length > 0)
    await tx.delete(needsAside).where(and(eq(needsAside.clientId, scope.clientId), inArray(needsAside.key, over)));
  return rows.map(({ key, reason, by, at }) => ({ key, reason, by, at }));
}

/**
 * Sets a need aside, with a reason, or with null has it back among the others. False where there is none of this key (any
 * more).
 */
export async function setNeedAside(
  clientId: string,
  who: string,
  key: string,
  reason: string | null,
): Promise<boolean> {
  const scope = workFor(clientId);
  const now = await clockNow();
  const isDone = await withClient(scope, async (tx) => {
    const gone = await tx
      .delete(needsAside)
      .where(and(eq(needsAside.clientId, clientId), eq(needsAside.key, key)))
      .returning({ key: needsAside.key });
    if (reason === null) return gone.length > 0;
    const needs = await needsOf(tx, scope, await loadSetting(tx), now);
    if (!needs.some((need) => needKey(need) === key)) return false;
    await tx.insert(needsAside).values({ clientId, key, reason, by: who, at: now });
    return true;
  });
  await refreshOutlook(clientId);
  return isDone;
}

async function needsOf(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<Need[]> {
  const { client } = setting;
  const paused = isPaused(client, now);
  const letters = await overdueConversations(tx, scope, setting, now);
  const stopped = await stoppedPlans(tx, scope);
  return [
    ...(await unhappyOverdue(tx, scope, now)),
    ...(letters ? [{ code: "message overdue" as const, ...letters }] : []),
    ...(paused
      ? [{ code: "everything paused" as const, until: client.pausedUntil, pausedWhy: client.pausedWhy ?? "" }]
      : []),
    ...stopped.map(
      ({ id, name, pausedWhy }): Need => ({ code: "plan paused", plan: name, planId: id, why: pausedWhy }),
    ),
    ...(paused ? [] : await startingNeeds(tx, scope, setting, stopped.length === 0)),
    ...(await feedNeeds(tx, scope, setting, now)),
    ...sitesInNeed(setting.listings, now).map((each): Need => ({ code: "site unreadable", ...each })),
    // That nothing leaves while it is paused needs no word of its own.
    ...(await sendingNeeds(tx, scope, setting, now)).filter(({ code }) => !paused || code !== "nothing sent"),
    ...(await allowanceNeeds(tx, scope, setting, now)),
    ...(await failedLists(tx, scope, now)),
  ];
}

/** What is left before the first ask; once that has gone out, the plans that rest. */
async function startingNeeds(tx: Tx, scope: Scope, setting: Setting, saysNone: boolean): Promise<Need[]> {
  const first = await loadFirstSteps(tx, scope, setting);
  if (!first) return restingPlans(tx, scope, saysNone);
  const left = first.steps.filter(({ isDone }) => !isDone).length;
  return [{ code: "first steps", left }];
}

/** Plans that somebody paused while messages wait for them, and (`saysNone`) that no plan runs at all. */
async function restingPlans(tx: Tx, scope: Scope, saysNone: boolean): Promise<Need[]> {
  const { held, running, paused } = await standingOf(tx, scope);
  const onHold = held.map(({ id, name, waiting }): Need => ({ code: "plan on hold", plan: name, planId: id, waiting }));
  return running === 0 && saysNone ? [{ code: "no plan runs", paused }, ...onHold] : onHold;
}

async function unhappyOverdue(tx: Tx, scope: Scope, now: number): Promise<Need[]> {
  const [row] = await rowsIn<{ count: number; since: string | null }>(
    tx,
    sql`select count(*)::int as count, min(answer_by) as since from concerns
        where ${waitingConcerns(scope)} and answer_by < ${new Date(now).toISOString()}`,
  );
  return row.since ? [{ code: "unhappy overdue", count: row.count, since: new Date(row.since).getTime() }] : [];
}

/** Feeds that cannot be read, and those from which nothing came for longer than is usual. */
async function feedNeeds(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<Need[]> {
  const on = await tx
    .select({ id: feeds.id, name: feeds.name, problem: feeds.problem })
    .from(feeds)
    .where(and(eq(feeds.clientId, scope.clientId), eq(feeds.state, "on")));
  const found: Need[] = [];
  for (const { id, name, problem } of on) {
    if (problem) {
      found.push({ code: "feed unreadable", feed: name, feedId: id, problem });
      continue;
    }
    // Visits are in the order of their ends; what is booked ahead comes in earlier.
    const silent = await silenceOf(
      tx,
      setting,
      now,
      "visits",
      sql`t.feed_id = ${id} and t.ends_at >= ${since(now)}`,
      sql`t.created_at`,
    );
    if (silent) found.push({ code: "feed silent", feed: name, feedId: id, ...silent });
  }
  return found;
}

const since = (now: number) => new Date(now - (WEEKS_LEARNT + 3) * 7 * DAY).toISOString();

/**
 * Since when nothing has arrived, where that is longer than usual; with how much there is by now on such a day. `table`
 * is counted by five minutes of `at`, in the client's zone: pushes are told from arrivals that come one by one.
 */
async function silenceOf(
  tx: Tx,
  setting: Setting,
  now: number,
  table: "visits" | "messages",
  where: ReturnType<typeof sql>,
  at: ReturnType<typeof sql>,
): Promise<{ since: number; usual: { weekday: number; low: number; high: number } | null } | null> {
  const { zone } = setting.client;
  const rows = await rowsIn<{ begins: string; count: number; last: string }>(
    tx,
    sql`select floor(extract(epoch from (${at} at time zone ${zone})) / 300)::bigint::text as begins, count(*)::int as count, max(${at}) as last
        from ${sql.raw(table)} t where ${where} and ${at} <= ${new Date(now).toISOString()} group by 1`,
  );
  if (rows.length === 0) return null;
  const arrivals: Arrivals[] = rows.map(({ begins, count }) => ({ at: Number(begins) * 5 * MINUTE, count }));
  const last = Math.max(...rows.map((row) => new Date(row.last).getTime()));
  const closed = calendarOf(setting, setting.branches[0]?.id ?? "", now).closedDays;
  const [lastLocal, nowLocal] = [toLocal(zone, last), toLocal(zone, now)];
  const until = dayNumber(lastLocal) + 1;
  const begin = Math.max(until - WEEKS_LEARNT * 7, dayNumber(Math.min(...arrivals.map((one) => one.at))));
  const usual: Usual | null = learnUsual(arrivals, begin, until, closed);
  if (!usual || !isSilent(usual, lastLocal, nowLocal, closed)) return null;
  const range = usualByNow(usual, nowLocal, closed);
  return { since: last, usual: range && range.low > 0 ? { weekday: weekday(dayNumber(nowLocal)), ...range } : null };
}

async function sendingNeeds(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<Need[]> {
  const [running] = await rowsIn<{ n: number }>(
    tx,
    sql`select count(*)::int as n from plans where client_id = ${scope.clientId} and state = 'running'`,
  );
  const own = sql`t.client_id = ${scope.clientId} and t.due_at >= ${since(now)} and t.direction = 'out' and t.ask_id is not null and t.sent_at is not null`;
  // Where nothing is due, nothing is missing: that no visits come is another need.
  const [due] = await rowsIn<{ is: boolean }>(
    tx,
    sql`select exists (select from messages where client_id = ${scope.clientId} and state in ('planned', 'sending') and ask_id is not null and due_at <= ${new Date(now - 10 * MINUTE).toISOString()}) as is`,
  );
  const silent = running.n > 0 && due.is ? await silenceOf(tx, setting, now, "messages", own, sql`t.sent_at`) : null;
  const [week] = await rowsIn<{ back: number; sent: number }>(
    tx,
    sql`select count(*) filter (where state = 'bounced')::int as back, count(*)::int as sent from messages
        where client_id = ${scope.clientId} and due_at >= ${new Date(now - 7 * DAY).toISOString()} and state in ('sent', 'delivered', 'bounced') and direction = 'out'`,
  );
  return [
    ...(silent ? [{ code: "nothing sent" as const, ...silent }] : []),
    ...(comesBack(week.back, week.sent) ? [{ code: "coming back" as const, back: week.back, sent: week.sent }] : []),
  ];
}

async function allowanceNeeds(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<Need[]> {
  const { zone } = setting.client;
  const month = monthOf(setting, now);
  const usage = await usageOf(tx, scope, month);
  const waiting = (await countHeld(tx, scope)).find(({ hold }) => hold === "allowance")?.count ?? 0;
  const ends = nextMonth(zone, now);
  const begins = new Date(`${month}-01T00:00:00Z`).getTime();
  const monthGone = (now - begins) / (ends - begins);
  return (["text", "email"] as const).flatMap((channel): Need[] => {
    const most = allowanceOf(setting, channel);
    if (most === null) return [];
    const { used } = usage[channel];
    if (used >= most) return [{ code: "allowance used up", channel, most, waiting }];
    return isNear(used, most, monthGone) ? [{ code: "allowance near", channel, used, most }] : [];
  });
}

async function failedLists(tx: Tx, scope: Scope, now: number): Promise<Need[]> {
  const rows = await rowsIn<{ id: string; name: string }>(
    tx,
    sql`select id, name from intakes i where client_id = ${scope.clientId} and state = 'failed' and at >= ${new Date(now - 7 * DAY).toISOString()} and error ->> 'code' <> 'not imported in time'
          -- Whoever has imported another one since has put it right.
          and not exists (select 1 from intakes l where l.client_id = i.client_id and l.state = 'imported' and l.at > i.at)
        order by at desc limit 3`,
  );
  return rows.map(({ id, name }) => ({ code: "list failed", list: name, listId: id }));
}

/** The figures of the agency's list. */
async function figuresOf(tx: Tx, scope: Scope, now: number) {
  const week = 7 * DAY;
  const iso = (at: number) => new Date(at).toISOString();
  const weeks = await rowsIn<{ ago: number; n: number }>(
    tx,
    sql`select floor(extract(epoch from (${iso(now)}::timestamptz - created_at)) / 604800)::int as ago, count(*)::int as n from asks
        where client_id = ${scope.clientId} and created_at > ${iso(now - 8 * week)} and created_at <= ${iso(now)} and furthest > 0 group by 1`,
  );
  const [reviews] = await rowsIn<{ fresh: number; answered: number; all: number }>(
    tx,
    sql`select (select count(*)::int from reviews n where n.client_id = ${scope.clientId} and n.written_at > ${iso(now - week)} and n.deleted_at is null) as fresh,
          count(*) filter (where reply_state = 'posted')::int as answered, count(*)::int as all
        from reviews r where client_id = ${scope.clientId} and written_at > ${iso(now - 90 * DAY)} and ${ANSWERABLE}`,
  );
  const [shown] = await rowsIn<{ average: number | null }>(
    tx,
    // As averageOnFive of core/reviews/rating.
    sql`select (sum(greatest(review_count, case scale when 'recommend' then 2 * review_count + 2 * own_rating_sum
          when 'ten' then own_rating_sum / 2 else own_rating_sum end)) / nullif(sum(review_count), 0))::float8 as average
        from listings where client_id = ${scope.clientId} and review_count > 0`,
  );
  const perWeek = Array.from({ length: 8 }, (_, index) => weeks.find(({ ago }) => ago === 7 - index)?.n ?? 0);
  return {
    asked: perWeek[7],
    newReviews: reviews.fresh,
    shown: shown.average,
    answered: reviews.all > 0 ? reviews.answered / reviews.all : null,
    weeks: perWeek,
  };
}
