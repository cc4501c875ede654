import { and, desc, eq, inArray, isNotNull, lt, or, type SQL, sql } from "drizzle-orm";
import { MOST_COUNTED } from "@/core/time/say";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { people } from "../people/tables";
import { messages } from "./tables";

/** What the log can be narrowed to. "opened" and "followed" are things that happened to messages that were sent. */
export const LOG_STATES = ["planned", "sent", "delivered", "opened", "followed", "bounced", "failed", "held", "stopped", "received"] as const;
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
  held: eq(messages.state, "held"),
  stopped: eq(messages.state, "stopped"),
  received: eq(messages.state, "received"),
};

export const LOG_PAGE = 40;

/** One page of the log, latest first, beyond the message `after`. */
export async function readLog(tx: Tx, scope: Scope, it: { state: LogState | null; channel: "text" | "email" | null; after: { at: number; id: string } | null }) {
  const beyond = it.after ? or(lt(messages.dueAt, it.after.at), and(eq(messages.dueAt, it.after.at), lt(messages.id, it.after.id))) : undefined;
  return tx
    .select({ message: messages, given: people.given, family: people.family })
    .from(messages)
    .innerJoin(people, eq(people.id, messages.personId))
    .where(and(eq(messages.clientId, scope.clientId), it.state ? WHERE[it.state] : undefined, it.channel ? eq(messages.channel, it.channel) : undefined, beyond))
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
