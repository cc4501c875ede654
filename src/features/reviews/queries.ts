import { and, asc, between, count, desc, eq, gte, inArray, isNull, lt, ne, type SQL, sql } from "drizzle-orm";
import type { ReadingOrder } from "@/core/heard/readingOrder";
import { MOST_COUNTED } from "@/core/time/say";
import type { Language } from "@/core/words/languages";
import { type Listing, loadSetting, type Setting } from "@/features/clients";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";
import { reviews } from "@/schema/reviews";
import { answeredShare } from "./answered";

export const REVIEWS_PAGE = 30;

/** As many as a search finds, the latest first: whoever has more adds a word. */
export const MOST_FOUND = 1000;

export type ReviewFilter = {
  waiting: boolean;
  /** Those that wait come unhappiest first, or the latest first; all others always the latest first. */
  order?: ReadingOrder | null;
  /** Only those that somebody set aside, or to which a rule has planned a reply. */
  only?: "aside" | "planned" | null;
  site: string | null;
  branchId: string | null;
  /** On 1 to 5, both included. */
  ratings?: readonly [from: number, to: number] | null;
  words?: "with" | "without" | null;
  answered?: boolean | null;
  /** Written at or after this instant (milliseconds since the epoch). */
  since?: number | null;
  /** Written before this instant. */
  until?: number | null;
  /** That name this theme. */
  theme?: string | null;
  /** Written in this language. */
  language?: string | null;
  /** After a visit with this one of the team. */
  memberId?: string | null;
  /** That hold these words, or are by somebody of this name. */
  search?: string | null;
  before: { at: number; id: string } | null;
};

/** In which of its states a reply waits for somebody. */
const WAITING = ["none", "failed", "posting", "awaits approval"] as const;

/** Written out, so that their indexes serve. */
const waits = sql`${reviews.replyState} in (${sql.raw(WAITING.map((state) => `'${state}'`).join(", "))}) and ${reviews.deletedAt} is null`;
const isAside = sql`${reviews.replyState} = 'set aside'`;
const awaitsApproval = sql`${reviews.replyState} = 'awaits approval' and ${reviews.deletedAt} is null`;
export const isPlanned = sql`${reviews.replyState} = 'planned'`;

/** Whether a review waits for a reply, an approval, or for its reply to arrive. */
export function isWaitingForReply({ replyState, deletedAt }: typeof reviews.$inferSelect): boolean {
  return deletedAt === null && (WAITING as readonly string[]).includes(replyState);
}

/** Those of a client that wait for somebody. */
export const waitingReviews = (scope: Scope): SQL => sql`${reviews.clientId} = ${scope.clientId} and ${waits}`;

/**
 * How many of them there are (`where` narrows them down), as part of a statement: counted no further than `MOST_COUNTED`,
 * and in the order of an index, without which so many are soonest found by reading the table.
 */
export const waitingReviewCount = (scope: Scope, where: SQL | undefined = waitingReviews(scope)): SQL<number> =>
  sql`(select count(*)::int from (select 1 from ${reviews} where ${where} order by ${reviews.rating}, ${reviews.writtenAt} limit ${MOST_COUNTED + 1}) t)`;

/** Reviews with their listing. Those waiting come unhappiest and oldest first unless asked for by date; all others newest first. */
export async function listReviews(tx: Tx, scope: Scope, it: ReviewFilter, known?: Places): Promise<ListedReview[]> {
  const places = known ?? (await loadSetting(tx));
  const rows = await tx
    .select()
    .from(reviews)
    .where(whereOf(scope, it, places))
    .orderBy(
      ...(it.waiting && it.order !== "date"
        ? [asc(reviews.rating), asc(reviews.writtenAt)]
        : [desc(reviews.writtenAt), desc(reviews.id)]),
    )
    .limit(REVIEWS_PAGE + 1);
  return withPages(rows, places);
}

/**
 * Reviews that are shown wherever they stand in a list, so that nobody looks for them in vain: the one that an address
 * opens, and, where those that wait are shown, those whose reply waits for approval.
 */
export async function listPinned(
  tx: Tx,
  scope: Scope,
  opened: string | null,
  it: ReviewFilter,
  places: Places,
): Promise<ListedReview[]> {
  const own = eq(reviews.clientId, scope.clientId);
  const rows = opened
    ? await tx
        .select()
        .from(reviews)
        .where(and(own, eq(reviews.id, opened)))
    : [];
  if (it.waiting)
    rows.push(
      ...(await tx
        .select()
        .from(reviews)
        .where(and(own, awaitsApproval, ...atPlace(it, places)))
        .orderBy(asc(reviews.rating), asc(reviews.writtenAt))
        .limit(REVIEWS_PAGE)),
    );
  return withPages(rows, places);
}

function withPages(rows: (typeof reviews.$inferSelect)[], places: Places): ListedReview[] {
  const listings = new Map(places.listings.map((listing) => [listing.id, listing]));
  const branches = new Map(places.branches.map(({ id, name }) => [id, name]));
  return rows.flatMap((review) => {
    const listing = listings.get(review.listingId);
    const branch = branches.get(review.branchId);
    if (!listing || branch === undefined) return [];
    const { site, url, connector } = listing;
    return [{ review, site, url, connector, branch }];
  });
}

/** The pages and branches of a client, as whoever looks may see them. */
type Places = Pick<Setting, "listings" | "branches">;

/** A review with the page that it stands on. */
export type ListedReview = {
  review: typeof reviews.$inferSelect;
  site: string;
  url: string;
  connector: Listing["connector"];
  branch: string;
};

/** At the site and branch that somebody looks at. */
function atPlace(it: Pick<ReviewFilter, "site" | "branchId">, { listings }: Places): (SQL | undefined)[] {
  const ofSite = listings.flatMap(({ id, site }) => (site === it.site ? id : []));
  return [
    it.site ? anyOf(reviews.listingId, ofSite) : undefined,
    it.branchId ? eq(reviews.branchId, it.branchId) : undefined,
  ];
}

function whereOf(scope: Scope, it: ReviewFilter, places: Places): SQL | undefined {
  // Where nothing else narrows it down, the page itself is all that has to be found.
  const isPlain = !(
    it.before ||
    it.site ||
    it.branchId ||
    it.ratings ||
    it.words ||
    it.since ||
    it.until ||
    it.theme ||
    it.only ||
    it.language ||
    it.memberId
  );
  const most = isPlain && it.answered == null && !it.waiting ? REVIEWS_PAGE + 1 : MOST_FOUND;
  return and(
    eq(reviews.clientId, scope.clientId),
    it.waiting ? waits : undefined,
    it.only === "aside" ? isAside : it.only === "planned" ? isPlanned : undefined,
    ...atPlace(it, places),
    it.ratings ? between(reviews.rating, it.ratings[0], it.ratings[1]) : undefined,
    it.words === "with" ? ne(reviews.words, "") : it.words === "without" ? eq(reviews.words, "") : undefined,
    it.answered === true
      ? eq(reviews.replyState, "posted")
      : it.answered === false
        ? ne(reviews.replyState, "posted")
        : undefined,
    it.since ? gte(reviews.writtenAt, it.since) : undefined,
    it.until ? lt(reviews.writtenAt, it.until) : undefined,
    it.theme
      ? sql`${reviews.id} in (select n.review_id from named_themes n where n.client_id = ${scope.clientId} and n.theme = ${it.theme})`
      : undefined,
    it.language ? eq(reviews.language, it.language as Language) : undefined,
    it.memberId
      ? sql`exists (select 1 from asks a join visits v on v.id = a.visit_id where a.id = ${reviews.askId} and v.team_member_id = ${it.memberId})`
      : undefined,
    it.search
      ? sql`${reviews.id} = any(array(select s.id from estima_search_reviews(${it.search}, ${most}) s))`
      : undefined,
    it.before ? earlierThan(reviews.writtenAt, reviews.id, it.before) : undefined,
  );
}

/** What all reviews can be narrowed down by, each with the value that a review has. */
const FACETS = {
  rating: sql`case when ${reviews.rating} <= 2 then 'unhappy' when ${reviews.rating} = 3 then 'mixed' else 'happy' end`,
  words: sql`case when ${reviews.words} = '' then 'without' else 'with' end`,
  answered: sql`case when ${reviews.replyState} = 'posted' then 'yes' else 'no' end`,
  language: sql`${reviews.language}`,
  branch: sql`${reviews.branchId}::text`,
  site: sql`${reviews.listingId}::text`,
  theme: sql`n.theme`,
  member: sql`v.team_member_id::text`,
} as const;
export type Facet = keyof typeof FACETS;
export const isFacet = (name: unknown): name is Facet => typeof name === "string" && Object.hasOwn(FACETS, name);

/** How many reviews each choice of one part of the filters would leave, with all others as they are. */
export async function countFacet(
  tx: Tx,
  scope: Scope,
  facet: Facet,
  it: ReviewFilter,
): Promise<Record<string, number>> {
  const places = await loadSetting(tx);
  const others: ReviewFilter = { ...it, before: null, ...FREE[facet] };
  const beside =
    facet === "theme"
      ? sql`join (select distinct review_id, theme from named_themes where client_id = ${scope.clientId} and review_id is not null) n on n.review_id = ${reviews.id}`
      : facet === "member"
        ? sql`join asks a on a.id = ${reviews.askId} join visits v on v.id = a.visit_id`
        : sql``;
  const rows = await rowsIn<{ value: string | null; n: number }>(
    tx,
    sql`select ${FACETS[facet]} as value, count(*)::int as n from ${reviews}
      ${beside} where ${whereOf(scope, others, places)} group by 1`,
  );
  const counts: Record<string, number> = {};
  for (const { value, n } of rows) {
    const name = facet === "site" ? places.listings.find(({ id }) => id === value)?.site : value;
    if (name) counts[name] = (counts[name] ?? 0) + n;
  }
  return counts;
}

/** The part of the filters that a facet is, as if nobody had chosen anything. */
const FREE: Record<Facet, Partial<ReviewFilter>> = {
  rating: { ratings: null },
  words: { words: null },
  answered: { answered: null },
  language: { language: null },
  branch: { branchId: null },
  site: { site: null },
  theme: { theme: null },
  member: { memberId: null },
};

/** How many replies are planned or wait for approval, by the page they would be posted on. */
export async function unpostedByListing(tx: Tx, scope: Scope): Promise<Map<string, number>> {
  const rows = await tx
    .select({ listingId: reviews.listingId, replies: count() })
    .from(reviews)
    .where(
      and(
        eq(reviews.clientId, scope.clientId),
        inArray(reviews.replyState, ["planned", "awaits approval"]),
        isNull(reviews.deletedAt),
      ),
    )
    .groupBy(reviews.listingId);
  return new Map(rows.map(({ listingId, replies }) => [listingId, replies]));
}

/**
 * How many reviews there are (counted no further than `MOST_COUNTED`) and how many wait for a reply; how many since
 * an instant were answered, and how soon. Each count has an index of its own, whose order keeps it from reading the table.
 */
export function reviewCounts(
  scope: Scope,
  since: number,
): SQL<{
  all: number;
  waiting: number;
  aside: number;
  planned: number;
  lately: number;
  answered: number;
  medianHours: number | null;
}> {
  const own = eq(reviews.clientId, scope.clientId);
  return sql`select s.reviews as lately, s.answered, s."medianHours",
      (select count(*)::int from (select 1 from ${reviews} where ${own} and ${reviews.deletedAt} is null order by ${reviews.writtenAt} desc limit ${MOST_COUNTED + 1}) t) as all,
      ${waitingReviewCount(scope)} as waiting,
      (select count(*)::int from ${reviews} where ${own} and ${isAside}) as aside,
      (select count(*)::int from ${reviews} where ${own} and ${isPlanned}) as planned
    from (${answeredShare(scope, since)}) s`;
}

/** How many reviews these filters leave, counted no further than `MOST_COUNTED`. */
export async function countMatching(tx: Tx, scope: Scope, it: ReviewFilter): Promise<number> {
  const where = whereOf(scope, { ...it, before: null }, await loadSetting(tx));
  const [{ found }] = await rowsIn<{ found: number }>(
    tx,
    sql`select count(*)::int as found from (select 1 from ${reviews} where ${where} limit ${MOST_COUNTED + 1}) t`,
  );
  return found;
}
