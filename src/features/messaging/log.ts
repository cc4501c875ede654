import { and, desc, eq, gte, inArray, isNotNull, lt, or, type SQL, sql } from "drizzle-orm";
import { MOST_COUNTED } from "@/core/time/say";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";

/** What the log can be narrowed to. "opened" and "followed" are things that happened to messages that were sent. */
export const LOG_STATES = [
  "planned",
  "sent",
  "delivered",
  "opened",
  "followed",
  "bounced",
  "failed",
  "held",
  "stopped",
  "received",
] as const;
export type LogState = (typeof LOG_STATES)[number];

const WHERE: Record<LogState, SQL | undefined> = {
  planned: inArray(messages.state, ["planned", "sending"]),
  // Everything that left, whatever came of it.
  sent: and(isNotNull(messages.sentAt), eq(messages.direction, "out")),
  delivered: isNotNull(messages.deliveredAt),
  opened: isNotNull(messages.openedAt),
  followed: isNotNull(messages.followedAt),
  bounced: eq(messages.state, "bounced"),
  failed: eq(messages.state, "failed"),
  // Also what waits for the next month, planned as it is.
  held: or(eq(messages.state, "held"), and(eq(messages.hold, "allowance"), eq(messages.state, "planned"))),
  stopped: eq(messages.state, "stopped"),
  received: eq(messages.state, "received"),
};

export const LOG_PAGE = 40;

export type LogFilter = {
  state: LogState | null;
  channel: "text" | "email" | null;
  planId?: string | null;
  branchId?: string | null;
  /** Due, or sent, from here to before there. */
  between?: { from: number; to: number } | null;
  after: { at: number; id: string } | null;
};

/** One page of the log, latest first, beyond the message `after`; with whether the ask of each still runs. */
export async function readLog(tx: Tx, scope: Scope, it: LogFilter) {
  const beyond = it.after
    ? or(lt(messages.dueAt, it.after.at), and(eq(messages.dueAt, it.after.at), lt(messages.id, it.after.id)))
    : undefined;
  return tx
    .select({
      message: messages,
      given: people.given,
      family: people.family,
      plan: sql<
        string | null
      >`(select l.name from asks a join plans l on l.id = a.plan_id where a.id = ${messages.askId})`,
      runs: sql<boolean>`coalesce((select a.stop is null and a.ended is null from asks a where a.id = ${messages.askId}), false)`,
      visitId: sql<string | null>`(select a.visit_id from asks a where a.id = ${messages.askId})`,
    })
    .from(messages)
    .leftJoin(people, eq(people.id, messages.personId))
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        it.state ? WHERE[it.state] : undefined,
        it.channel ? eq(messages.channel, it.channel) : undefined,
        it.branchId ? eq(messages.branchId, it.branchId) : undefined,
        it.planId
          ? sql`exists (select 1 from asks a where a.id = ${messages.askId} and a.plan_id = ${it.planId})`
          : undefined,
        it.between ? and(gte(messages.dueAt, it.between.from), lt(messages.dueAt, it.between.to)) : undefined,
        beyond,
      ),
    )
    .orderBy(desc(messages.dueAt), desc(messages.id))
    .limit(LOG_PAGE + 1);
}

/** How many messages each chip of the log leads to, at most one more than `MOST_COUNTED`. */
export async function countLog(tx: Tx, scope: Scope): Promise<Record<LogState, number>> {
  const each = LOG_STATES.map((state) => {
    const where = and(eq(messages.clientId, scope.clientId), WHERE[state]);
    return sql`(select count(*) from (select 1 from ${messages} where ${where} order by ${messages.dueAt} desc, ${messages.id} desc limit ${MOST_COUNTED + 1}) t)::int as ${sql.identifier(state)}`;
  });
  const [row] = await rowsIn<Record<LogState, number>>(tx, sql`select ${sql.join(each, sql`, `)}`);
  return row;
}
