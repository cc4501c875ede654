import { sql } from "drizzle-orm";
import { type Share, type Trend, trendsOf } from "@/core/themes/trend";
import { DAY } from "@/core/time/zone";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";

/** What people name, counted from what was read. Instants are milliseconds since the epoch. */

export type ThemeFilter = {
  branchId: string | null;
  memberId: string | null;
  serviceId: string | null;
  /** How far back: null for all. */
  from: number | null;
};

/** A theme is named lately in these weeks, and was before that in those. */
const LATELY = 28 * DAY;
const BEFORE = 84 * DAY;

const iso = (at: number) => new Date(at).toISOString();

const within = (scope: Scope, it: ThemeFilter) => sql`n.client_id = ${scope.clientId}
  ${it.branchId ? sql`and n.branch_id = ${it.branchId}` : sql``}
  ${it.memberId ? sql`and n.team_member_id = ${it.memberId}` : sql``}
  ${it.serviceId ? sql`and n.service_id = ${it.serviceId}` : sql``}
  ${it.from === null ? sql`` : sql`and n.said_at >= ${iso(it.from)}`}`;

/** A text that was read: a review or an answer. */
const textId = sql`coalesce(n.review_id, n.answer_id)`;

export type ThemeCount = {
  theme: string;
  /** Texts that name it, and how many of these are unhappy with it. */
  texts: number;
  unhappy: number;
  trend: Trend;
  /** How often it was named in the last four weeks, and in the twelve before. */
  lately: Share;
  before: Share;
};

/** How often each theme is named, the most often first, and whether it is named more than before. */
export async function countThemes(tx: Tx, scope: Scope, it: ThemeFilter, now: number) {
  const lately = iso(now - LATELY);
  const before = iso(now - LATELY - BEFORE);
  const rows = await rowsIn<{ theme: string; texts: number; unhappy: number; lately: number; before: number }>(
    tx,
    sql`select n.theme, count(distinct ${textId})::int as texts,
        count(distinct ${textId}) filter (where n.polarity = 'unhappy')::int as unhappy,
        count(distinct ${textId}) filter (where n.said_at >= ${lately})::int as lately,
        count(distinct ${textId}) filter (where n.said_at >= ${before} and n.said_at < ${lately})::int as before
      from named_themes n where ${within(scope, { ...it, from: null })} group by n.theme`,
  );
  const shown = it.from === null ? rows : await countSince(tx, scope, it);
  const [all] = await rowsIn<{ lately: number; before: number }>(
    tx,
    sql`select count(distinct ${textId}) filter (where n.said_at >= ${lately})::int as lately,
        count(distinct ${textId}) filter (where n.said_at >= ${before} and n.said_at < ${lately})::int as before
      from named_themes n where ${within(scope, { ...it, from: now - LATELY - BEFORE })}`,
  );
  const compared = shown.map(({ theme }) => {
    const one = rows.find((row) => row.theme === theme);
    return {
      now: { named: one?.lately ?? 0, of: all.lately },
      before: { named: one?.before ?? 0, of: all.before },
    };
  });
  const trends = trendsOf(compared);
  const counts = shown.map(
    ({ theme, texts, unhappy }, index): ThemeCount => ({
      theme,
      texts,
      unhappy,
      trend: trends[index],
      lately: compared[index].now,
      before: compared[index].before,
    }),
  );
  return counts.sort((a, b) => b.texts - a.texts || b.unhappy - a.unhappy || (a.theme < b.theme ? -1 : 1));
}

async function countSince(tx: Tx, scope: Scope, it: ThemeFilter) {
  return rowsIn<{ theme: string; texts: number; unhappy: number }>(
    tx,
    sql`select n.theme, count(distinct ${textId})::int as texts, count(distinct ${textId}) filter (where n.polarity = 'unhappy')::int as unhappy
      from named_themes n where ${within(scope, it)} group by n.theme`,
  );
}

/** How many texts name anything. */
export async function countTexts(tx: Tx, scope: Scope, it: ThemeFilter): Promise<number> {
  const [row] = await rowsIn<{ texts: number }>(
    tx,
    sql`select count(distinct ${textId})::int as texts from named_themes n where ${within(scope, it)}`,
  );
  return row.texts;
}

export type Part = { id: string | null; texts: number; unhappy: number };

/** How often a theme is named, by branch, team member or service; and by month, the eldest first. */
export async function partsOf(tx: Tx, scope: Scope, it: ThemeFilter, theme: string, zone: string) {
  const by = (column: "branch_id" | "team_member_id" | "service_id") =>
    rowsIn<Part>(
      tx,
      sql`select n.${sql.identifier(column)} as id, count(distinct ${textId})::int as texts, count(distinct ${textId}) filter (where n.polarity = 'unhappy')::int as unhappy
        from named_themes n where ${within(scope, it)} and n.theme = ${theme} group by 1 order by texts desc`,
    );
  const months = await rowsIn<{ month: string; texts: number; unhappy: number }>(
    tx,
    sql`select to_char(n.said_at at time zone ${zone}, 'YYYY-MM') as month, count(distinct ${textId})::int as texts,
        count(distinct ${textId}) filter (where n.polarity = 'unhappy')::int as unhappy
      from named_themes n where ${within(scope, it)} and n.theme = ${theme} group by 1 order by 1 desc limit 12`,
  );
  return {
    branches: await by("branch_id"),
    members: (await by("team_member_id")).filter(({ id }) => id !== null),
    services: (await by("service_id")).filter(({ id }) => id !== null),
    months: months.reverse(),
  };
}

export type Clause = {
  id: string;
  words: string;
  from: number;
  to: number;
  polarity: "happy" | "unhappy";
  said_at: string;
  review_id: string | null;
  concern_id: string | null;
  person_id: string | null;
  author: string;
  site: string | null;
  rating: number;
};

export const CLAUSES_PAGE = 30;

/** The very clauses that name a theme, the latest first; one more than a page. */
export async function clausesOf(
  tx: Tx,
  scope: Scope,
  it: ThemeFilter,
  theme: string,
  before: { at: number; id: string } | null,
) {
  return rowsIn<Clause>(
    tx,
    sql`select n.id, coalesce(r.words, a.words) as words, n.clause_from as from, n.clause_to as to, n.polarity, n.said_at, n.review_id,
        c.id as concern_id, a.person_id, coalesce(r.author, trim(p.given || ' ' || p.family), '') as author, l.site, coalesce(r.rating, a.rating) as rating
      from named_themes n left join reviews r on r.id = n.review_id left join listings l on l.id = r.listing_id
        left join answers a on a.id = n.answer_id left join people p on p.id = a.person_id left join concerns c on c.answer_id = a.id
      where ${within(scope, it)} and n.theme = ${theme} and coalesce(r.words, a.words) is not null
        ${before ? sql`and ${earlierThan(sql`n.said_at`, sql`n.id`, before)}` : sql``}
      order by n.said_at desc, n.id desc limit ${CLAUSES_PAGE + 1}`,
  );
}
