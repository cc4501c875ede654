import { sql } from "drizzle-orm";
import { readOwnThemes } from "@/core/themes/own";
import { READER } from "@/core/themes/themes";
import { detectLanguage } from "@/core/words/detectLanguage";
import { markAnswersRead, readAnswersAnew } from "@/features/answers";
import { loadSetting, setThemesReader } from "@/features/clients";
import { markReviewsRead, ownLanguage, readingOf, readReviewsAnew } from "@/features/reviews";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { namedThemes } from "@/schema/themes";
import { listOwnThemes } from "./own";

/**
 * What people say is read for what it names, in the worker: whatever is new or changed, and everything once themes of
 * the client's own change. What was read stands in rows, so that pages count and do not read.
 */

/** Texts of one transaction. */
const BATCH = 200;

type Unread = {
  id: string;
  words: string;
  rating: number | null;
  branch_id: string;
  said_at: string;
  member: string | null;
  service: string | null;
};

/** Clients who have something unread, at most so many. */
export async function clientsToRead(most: number): Promise<string[]> {
  const rows = await rowsOf<{ client_id: string }>(sql`select * from estima_clients_to_read(${most})`);
  return rows.map(({ client_id }) => client_id);
}

/** Reads all that a client's reviews and answers have unread; gives how many texts. */
export async function readThemesOf(clientId: string, signal?: AbortSignal): Promise<number> {
  const scope = workFor(clientId);
  let count = 0;
  while (!signal?.aborted) {
    const read = await withClient(scope, (tx) => readBatch(tx, scope));
    count += read;
    if (read === 0) break;
  }
  return count;
}

/** Clients of whose texts an earlier reader read some. */
export async function clientsToReadAnew(): Promise<string[]> {
  const rows = await rowsOf<{ client_id: string }>(sql`select * from estima_clients_to_read_anew(${READER})`);
  return rows.map(({ client_id }) => client_id);
}

/** Texts that are marked in one transaction. */
const MARKED = 5000;

/** Has everything that a client's customers said read again, since its themes or our reader have changed. */
export async function readAllAnew(clientId: string, signal?: AbortSignal): Promise<void> {
  const scope = workFor(clientId);
  for (const mark of [readReviewsAnew, readAnswersAnew]) {
    let after: string | null = null;
    for (let isOver = false; !isOver && !signal?.aborted; isOver = after === null)
      after = await markSome(scope, mark, after);
  }
  if (!signal?.aborted) await withClient(scope, (tx) => setThemesReader(tx, scope, READER));
}

type Mark = typeof readReviewsAnew;

const markSome = (scope: Scope, mark: Mark, after: string | null): Promise<string | null> =>
  withClient(scope, (tx) => mark(tx, scope, after, MARKED));

async function readBatch(tx: Tx, scope: Scope): Promise<number> {
  const setting = await loadSetting(tx);
  const own = ownLanguage(setting);
  const mine = await listOwnThemes(tx, scope);
  const idOf = new Map(mine.map(({ id, name }) => [name, id]));
  const unreadReviews = await rowsIn<Unread>(
    tx,
    sql`select r.id, r.words, r.rating, r.branch_id, r.written_at as said_at, v.team_member_id as member, v.service_id as service
      from reviews r left join asks a on a.id = r.ask_id left join visits v on v.id = a.visit_id
      where r.client_id = ${scope.clientId} and r.is_unread and r.words <> '' order by r.id limit ${BATCH} for update of r skip locked`,
  );
  const unreadAnswers = await rowsIn<Unread>(
    tx,
    sql`select r.id, r.words, r.rating, r.branch_id, r.given_at as said_at, v.team_member_id as member, v.service_id as service
      from answers r left join asks a on a.id = r.ask_id left join visits v on v.id = a.visit_id
      where r.client_id = ${scope.clientId} and r.is_unread and r.words <> '' and not r.is_doubtful order by r.id limit ${BATCH} for update of r skip locked`,
  );
  const rows: (typeof namedThemes.$inferInsert)[] = [];
  const read = (list: readonly Unread[], column: "reviewId" | "answerId") => {
    for (const it of list) {
      const named = readingOf(it.words, own, it.rating).named ?? [];
      const found = [
        ...named.map(({ theme, polarity, from, to }) => ({ theme: theme as string, polarity, from, to })),
        ...(mine.length > 0
          ? readOwnThemes(it.words, detectLanguage(it.words, own), mine, it.rating).map(({ name, ...rest }) => ({
              ...rest,
              theme: idOf.get(name) ?? name,
            }))
          : []),
      ];
      for (const each of found)
        rows.push({
          ...each,
          clientId: scope.clientId,
          [column]: it.id,
          branchId: it.branch_id,
          teamMemberId: it.member,
          serviceId: it.service,
          saidAt: new Date(it.said_at).getTime(),
        });
    }
  };
  read(unreadReviews, "reviewId");
  read(unreadAnswers, "answerId");
  const ids = (list: readonly Unread[]) => sql`${sql.param(list.map(({ id }) => id))}::uuid[]`;
  await tx.execute(
    sql`delete from ${namedThemes} where client_id = ${scope.clientId} and (review_id = any(${ids(unreadReviews)}) or answer_id = any(${ids(unreadAnswers)}))`,
  );
  for (let at = 0; at < rows.length; at += 500) await tx.insert(namedThemes).values(rows.slice(at, at + 500));
  await markReviewsRead(
    tx,
    scope,
    unreadReviews.map(({ id, words, rating }) => ({ id, language: readingOf(words, own, rating).language })),
  );
  await markAnswersRead(
    tx,
    scope,
    unreadAnswers.map(({ id }) => id),
  );
  return unreadReviews.length + unreadAnswers.length;
}
