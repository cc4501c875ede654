import { and, eq, type SQL, sql } from "drizzle-orm";
import type { Scale } from "@/core/reviews/rating";
import { UNHAPPY_UP_TO } from "@/core/reviews/rating";
import { DAY } from "@/core/time/zone";
import { recordAudit } from "@/features/audit";
import { findPerson, recordReviewed } from "@/features/people";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { reviews } from "@/schema/reviews";

/** What share of reviews is answered, and how soon: by site, branch and person, over a chosen time. */

export type Share = {
  name: string;
  reviews: number;
  answered: number;
  /** Half of the answers came within so many hours; null where there is none. */
  medianHours: number | null;
};

export type Answered = { all: Share; sites: Share[]; branches: Share[]; people: Share[] };

type Row = { name: string; reviews: number; answered: number; median: number | null };

/** Reviews of which a share is answered: those that are still there, on sites that take replies. `r` is the review. */
export const ANSWERABLE = sql`r.deleted_at is null and r.reply_state <> 'not possible'`;

const COUNTS = sql`count(*)::int as reviews, (count(*) filter (where r.reply_state = 'posted'))::int as answered,
  percentile_cont(0.5) within group (order by extract(epoch from r.replied_at - r.written_at) / 3600) filter (where r.reply_state = 'posted')::float8 as median`;

/** Of reviews written at or after `from` (milliseconds since the epoch); sites without replies are left out. */
export async function answeredSince(tx: Tx, scope: Scope, from: number, branchId: string | null): Promise<Answered> {
  const own = sql`r.client_id = ${scope.clientId} and r.written_at >= ${new Date(from).toISOString()} and ${ANSWERABLE} ${branchId ? sql`and r.branch_id = ${branchId}` : sql``}`;
  const shares = (rows: Row[]): Share[] => rows.map(({ median, ...rest }) => ({ ...rest, medianHours: median }));
  const [all] = await rowsIn<Row>(tx, sql`select '' as name, ${COUNTS} from reviews r where ${own}`);
  const sites = await rowsIn<Row>(
    tx,
    sql`select l.site as name, ${COUNTS} from reviews r join listings l on l.id = r.listing_id where ${own} group by 1 order by reviews desc, name`,
  );
  const branches = await rowsIn<Row>(
    tx,
    sql`select b.name, ${COUNTS} from reviews r join branches b on b.id = r.branch_id where ${own} group by 1 order by reviews desc, name`,
  );
  const people = await rowsIn<Row>(
    tx,
    sql`select coalesce(r.reply_by, case when r.reply_rule_id is not null then 'A rule' else 'At the site itself' end) as name, ${COUNTS}
      from reviews r where ${own} and r.reply_state = 'posted' group by 1 order by reviews desc, name`,
  );
  return { all: shares([all])[0], sites: shares(sites), branches: shares(branches), people: shares(people) };
}

/** The same of all together; `medianHours` is null where nothing is answered. */
export const answeredShare = (scope: Scope, from: number): SQL<Omit<Share, "name">> =>
  sql`select reviews, answered, median as "medianHours" from (
    select ${COUNTS} from reviews r where r.client_id = ${scope.clientId} and r.written_at >= ${new Date(from).toISOString()} and ${ANSWERABLE}) t`;

/** How reviews like one went lately: those of its branch that are as happy, in the three months before it. */
export type Alike = { count: number; answered: number; medianHours: number | null };

/** Null where there is no such review. `medianHours` is within how many hours half of the answers came. */
export async function alikeOf(tx: Tx, scope: Scope, reviewId: string): Promise<Alike | null> {
  const [row] = await rowsIn<Row>(
    tx,
    sql`select o.id as name, ${COUNTS} from reviews o join reviews r on r.client_id = o.client_id and r.branch_id = o.branch_id
        and r.written_at >= o.written_at - interval '91 days' and r.written_at <= o.written_at and ${ANSWERABLE} and (r.rating >= 4) = (o.rating >= 4) and r.id <> o.id
      where o.client_id = ${scope.clientId} and o.id = ${reviewId} group by o.id`,
  );
  return row ? { count: row.reviews, answered: row.answered, medianHours: row.median } : null;
}

/** What is known of whoever wrote a review: who it very likely is, and why. */
export type Writer = {
  personId: string;
  name: string;
  askedAt: number | null;
  followedAt: number | null;
  visits: number;
  lastWith: string | null;
  /** What they wrote privately, the latest; null for nothing. */
  concernId: string | null;
};

/** Whom a review was taken for, with the visits of the year before it; null where nobody was found. */
export async function writerOf(tx: Tx, scope: Scope, reviewId: string): Promise<Writer | null> {
  const [row] = await rowsIn<{
    person_id: string;
    name: string;
    asked_at: string | null;
    followed_at: string | null;
    visits: number;
    last_with: string | null;
    concern_id: string | null;
  }>(
    tx,
    sql`select p.id as person_id, trim(p.given || ' ' || p.family) as name, a.first_sent_at as asked_at, a.site_followed_at as followed_at,
        (select count(*)::int from visits v where v.client_id = r.client_id and v.person_id = p.id and v.outcome = 'finished'
          and v.ends_at > r.written_at - interval '1 year' and v.ends_at <= r.written_at) as visits,
        (select m.name from visits v join team_members m on m.id = v.team_member_id where v.client_id = r.client_id and v.person_id = p.id
          and v.ends_at <= r.written_at order by v.ends_at desc limit 1) as last_with,
        (select c.id from concerns c where c.client_id = r.client_id and c.person_id = p.id order by c.opened_at desc limit 1) as concern_id
      from reviews r join people p on p.id = r.person_id left join asks a on a.id = r.ask_id
      where r.client_id = ${scope.clientId} and r.id = ${reviewId} and p.merged_into is null`,
  );
  if (!row) return null;
  const read = (at: string | null) => (at === null ? null : new Date(at).getTime());
  return {
    personId: row.person_id,
    name: row.name,
    askedAt: read(row.asked_at),
    followedAt: read(row.followed_at),
    visits: row.visits,
    lastWith: row.last_with,
    concernId: row.concern_id,
  };
}

export type PublicReview = {
  id: string;
  author: string;
  words: string;
  site: string;
  value: number;
  rating: number;
  scale: Scale;
  writtenAt: number;
  reply: string | null;
  isPosted: boolean;
};

/** So long before and after a private note a review may be of the same matter. */
const SAME_MATTER = 30 * DAY;

/**
 * What the writer of a private note said in public, as far as it is known; and reviews nobody is known for, of the same
 * branch and time, of which somebody may say that they are the same person's.
 */
export async function inPublic(
  tx: Tx,
  scope: Scope,
  it: { personId: string | null; branchId: string; openedAt: number },
): Promise<{ theirs: PublicReview[]; candidates: PublicReview[] }> {
  if (it.personId === null) return { theirs: [], candidates: [] };
  const read = async (own: SQL) =>
    (
      await rowsIn<Omit<PublicReview, "writtenAt" | "isPosted"> & { written_at: string; state: string }>(
        tx,
        sql`select r.id, r.author, r.words, l.site, r.own_rating as value, r.rating, r.scale, r.written_at, r.reply, r.reply_state as state
          from reviews r join listings l on l.id = r.listing_id
          where r.client_id = ${scope.clientId} and r.deleted_at is null and ${own} order by r.written_at desc limit 5`,
      )
    ).map(({ written_at, state, ...rest }) => ({
      ...rest,
      writtenAt: new Date(written_at).getTime(),
      isPosted: state === "posted",
    }));
  const iso = (at: number) => new Date(at).toISOString();
  return {
    theirs: await read(sql`r.person_id = ${it.personId}`),
    candidates: await read(
      sql`r.person_id is null and r.branch_id = ${it.branchId} and r.rating <= ${UNHAPPY_UP_TO}
        and r.written_at > ${iso(it.openedAt - SAME_MATTER)} and r.written_at < ${iso(it.openedAt + SAME_MATTER)}`,
    ),
  };
}

/**
 * Says that a review is a person's, or nobody's that is known: then it stands with what they said privately. False where
 * there is no such review or person.
 */
export async function setWriter(
  tx: Tx,
  scope: Scope,
  who: string,
  reviewId: string,
  personId: string | null,
  now: number,
): Promise<boolean> {
  if (personId !== null && !(await findPerson(tx, scope, personId))) return false;
  const [review] = await tx
    .update(reviews)
    .set({ personId, ...(personId === null ? { askId: null } : {}) })
    .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, reviewId)))
    .returning({ writtenAt: reviews.writtenAt });
  if (!review) return false;
  if (personId !== null) await recordReviewed(tx, scope, personId, review.writtenAt);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: personId === null ? "parted" : "assigned",
    subject: "review",
    subjectId: reviewId,
  });
  return true;
}
