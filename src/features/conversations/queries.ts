import { and, desc, eq, type SQL, sql } from "drizzle-orm";
import type { PictureRefusal } from "@/core/conversations/pictures";
import { splitQuoted } from "@/core/conversations/quoted";
import { afterOfficeTime } from "@/core/time/officeHours";
import { HOUR } from "@/core/time/zone";
import { officeCalendarOf, type Setting } from "@/features/clients";
import { type Person, wardsOf } from "@/features/people";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";
import { asks } from "@/schema/asks";
import { branches } from "@/schema/clients";
import { conversations } from "@/schema/conversations";
import { messagePictures } from "@/schema/messagePictures";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { plans } from "@/schema/plans";
import type { Conversation } from "./service";

export const CONVERSATIONS_PAGE = 40;

/** Those that wait for an answer, those set aside, or all of them. */
export type ConversationState = "waiting" | "aside" | "all";

export type ConversationFilter = {
  state: ConversationState;
  /** A user's identifier; "nobody" for those that are nobody's; null for all. */
  assigned: string | null;
  branchId: string | null;
  /** The last one of the page before: when was last written, and its identifier. */
  before: { at: number; id: string } | null;
};

const iso = (at: number) => new Date(at).toISOString();

function stateWhere(state: ConversationState, now: number): SQL | undefined {
  const isAside = sql`${conversations.asideUntil} > ${iso(now)}`;
  if (state === "aside") return isAside;
  return state === "waiting"
    ? sql`${conversations.waitingSince} is not null and (${conversations.asideUntil} is null or not ${isAside})`
    : undefined;
}

/** Conversations with whom they are and what was written last: those that wait by how long, others the latest first. */
export async function listConversations(tx: Tx, scope: Scope, it: ConversationFilter, now: number) {
  const narrowed = and(
    eq(conversations.clientId, scope.clientId),
    stateWhere(it.state, now),
    it.branchId ? eq(conversations.branchId, it.branchId) : undefined,
    it.assigned === null
      ? undefined
      : it.assigned === "nobody"
        ? sql`${conversations.assignedToId} is null`
        : eq(conversations.assignedToId, it.assigned),
    it.before ? earlierThan(conversations.lastAt, conversations.id, it.before) : undefined,
  );
  const order =
    it.state === "waiting" ? [conversations.waitingSince] : [desc(conversations.lastAt), desc(conversations.id)];
  const rows = await tx
    .select({ conversation: conversations, person: people, branch: branches.name })
    .from(conversations)
    .leftJoin(people, eq(people.id, conversations.personId))
    .leftJoin(branches, eq(branches.id, conversations.branchId))
    .where(narrowed)
    .orderBy(...order)
    .limit(CONVERSATIONS_PAGE + 1);
  const last = await lastOf(
    tx,
    scope,
    rows.map(({ conversation }) => conversation),
  );
  return rows.map((row) => ({ ...row, last: last.get(row.conversation.id) ?? null }));
}

export type ListedConversation = Awaited<ReturnType<typeof listConversations>>[number];
export type LastWritten = { body: string; direction: "in" | "out"; writtenBy: string | null; pictures: number };

/** What was written last in each, by the index of a person's messages. */
async function lastOf(tx: Tx, scope: Scope, list: readonly Conversation[]): Promise<Map<string, LastWritten>> {
  if (list.length === 0) return new Map();
  const rows = await rowsIn<{
    id: string;
    body: string | null;
    direction: "in" | "out";
    by: string | null;
    pictures: number;
  }>(
    tx,
    sql`select ${conversations.id} as id, l.body, l.direction, l.written_by as by, l.pictures from ${conversations}
      join lateral (
        select m.body, m.direction, m.written_by, (select count(*)::int from message_pictures p where p.message_id = m.id) as pictures
        from (
          (select * from messages a where a.client_id = ${conversations.clientId} and a.person_id = ${conversations.personId}
            and a.state not in ('planned', 'held', 'stopped') order by a.created_at desc limit 1)
          union all
          (select * from messages b where b.conversation_id = ${conversations.id} and b.person_id is null
            order by b.created_at desc limit 1)
        ) m order by m.created_at desc limit 1
      ) l on true
      where ${conversations.clientId} = ${scope.clientId} and ${anyOf(
        conversations.id,
        list.map(({ id }) => id),
      )}`,
  );
  return new Map(
    rows.map(({ id, body, direction, by, pictures }) => [
      id,
      { body: splitQuoted(body ?? "").words, direction, writtenBy: by, pictures },
    ]),
  );
}

/** How many of a client's wait for an answer, as part of a statement. */
export const waitingConversations = (scope: Scope, now: number): SQL<number> =>
  sql`(select count(*)::int from ${conversations} where ${conversations.clientId} = ${scope.clientId} and ${stateWhere("waiting", now)})`;

/** Of those that have waited longest, how many are looked at. */
const MOST_OVERDUE = 200;

/**
 * How many have waited longer than the client promises, in office hours of their branch, and since when the first of
 * them is over its time (milliseconds); null where none has.
 */
export async function overdueConversations(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  now: number,
): Promise<{ count: number; since: number } | null> {
  const rows = await tx
    .select({ waitingSince: conversations.waitingSince, branchId: conversations.branchId })
    .from(conversations)
    .where(and(eq(conversations.clientId, scope.clientId), stateWhere("waiting", now)))
    .orderBy(conversations.waitingSince)
    .limit(MOST_OVERDUE);
  const promised = setting.client.answerWithinHours * HOUR;
  const overSince = rows
    .map(({ waitingSince, branchId }) =>
      afterOfficeTime(waitingSince ?? now, promised, officeCalendarOf(setting, branchId, now)),
    )
    .filter((at) => at < now);
  return overSince.length > 0 ? { count: overSince.length, since: Math.min(...overSince) } : null;
}

/** How many wait for an answer, are set aside, and are unread. */
export const conversationCounts = (
  scope: Scope,
  now: number,
): SQL<{ waiting: number; aside: number; unread: number; isAny: boolean }> =>
  sql`select count(*) filter (where ${stateWhere("waiting", now)})::int as waiting,
      count(*) filter (where ${stateWhere("aside", now)})::int as aside,
      count(*) filter (where ${conversations.isUnread} and ${conversations.waitingSince} is not null)::int as unread,
      exists (select 1 from conversations c where c.client_id = ${scope.clientId}) as "isAny"
    from ${conversations}
    where ${conversations.clientId} = ${scope.clientId} and (${conversations.waitingSince} is not null)`;

/** At most so many messages of a conversation are shown, the latest. */
export const MOST_SHOWN = 200;

export type Exchanged = {
  message: typeof messages.$inferSelect;
  /** What the ask is called that it belongs to. */
  plan: string | null;
  /** Those without a type are not here yet, or were refused. */
  pictures: {
    id: string;
    type: string | null;
    refusal: PictureRefusal | null;
    width: number | null;
    height: number | null;
  }[];
};

/** A conversation with all that was written, the oldest first; null where there is none of this identifier. */
export async function viewConversation(tx: Tx, scope: Scope, id: string) {
  const [row] = await tx
    .select({ conversation: conversations, person: people, branch: branches.name })
    .from(conversations)
    .leftJoin(people, eq(people.id, conversations.personId))
    .leftJoin(branches, eq(branches.id, conversations.branchId))
    .where(and(eq(conversations.clientId, scope.clientId), eq(conversations.id, id)));
  if (!row) return null;
  return { ...row, exchanged: await exchangedWith(tx, scope, row.conversation, row.person) };
}

async function exchangedWith(tx: Tx, scope: Scope, it: Conversation, person: Person | null): Promise<Exchanged[]> {
  const ids = person ? [person.id, ...(await wardsOf(tx, scope, [person.id]))] : [];
  const whose = person
    ? anyOf(messages.personId, ids)
    : and(eq(messages.conversationId, it.id), sql`${messages.personId} is null`);
  const rows = await tx
    .select({ message: messages, plan: plans.name })
    .from(messages)
    .leftJoin(asks, eq(asks.id, messages.askId))
    .leftJoin(plans, eq(plans.id, asks.planId))
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        whose,
        sql`(${messages.state} not in ('planned', 'held', 'stopped') or (${messages.state} = 'planned' and ${messages.askId} is null))`,
      ),
    )
    .orderBy(desc(messages.createdAt), desc(messages.id))
    .limit(MOST_SHOWN);
  return withPictures(tx, scope, rows);
}

/** Messages with the pictures that came with them, the oldest first. */
export async function withPictures(
  tx: Tx,
  scope: Scope,
  rows: readonly Pick<Exchanged, "message" | "plan">[],
): Promise<Exchanged[]> {
  const shown = [...rows].sort(
    (a, b) => whenOf(a.message) - whenOf(b.message) || a.message.createdAt - b.message.createdAt,
  );
  const ids = shown.flatMap(({ message }) => (message.direction === "in" ? message.id : []));
  const pictures =
    ids.length === 0
      ? []
      : await tx
          .select({
            id: messagePictures.id,
            messageId: messagePictures.messageId,
            type: messagePictures.type,
            refusal: messagePictures.refusal,
            width: messagePictures.width,
            height: messagePictures.height,
          })
          .from(messagePictures)
          .where(and(eq(messagePictures.clientId, scope.clientId), anyOf(messagePictures.messageId, ids)))
          .orderBy(messagePictures.position);
  return shown.map((row) => ({
    ...row,
    pictures: pictures.filter(({ messageId }) => messageId === row.message.id),
  }));
}

/** When a message left or came in; when it was written, while it has not. */
export const whenOf = ({ sentAt, createdAt }: Exchanged["message"]): number => sentAt ?? createdAt;

/** The conversation with a person; null while they have not written. */
export async function conversationOf(tx: Tx, scope: Scope, personId: string): Promise<Conversation | null> {
  const [row] = await tx
    .select()
    .from(conversations)
    .where(and(eq(conversations.clientId, scope.clientId), eq(conversations.personId, personId)))
    .orderBy(desc(conversations.lastAt))
    .limit(1);
  return row ?? null;
}
