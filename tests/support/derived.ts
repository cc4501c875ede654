import type pg from "pg";

/** Columns that repeat what other rows say, each with a query for the rows where the two disagree. */
const DERIVED: Record<string, string> = {
  "when people were last here": `select p.id from people p where p.erased_at is null and p.merged_into is null and p.last_visit_at is distinct from
    (select max(v.ends_at) from visits v where v.person_id = p.id and v.outcome <> 'cancelled')`,
  "where people were last": `select p.id from people p where p.erased_at is null and p.merged_into is null and p.last_visit_at is not null and not exists
    (select 1 from visits v where v.person_id = p.id and v.outcome <> 'cancelled' and v.ends_at = p.last_visit_at and v.branch_id = p.last_branch_id)`,
  "reviews of a page": `select l.id from listings l where l.review_count is distinct from
    (select count(*)::int from reviews r where r.listing_id = l.id and r.deleted_at is null)
    and exists (select 1 from reviews r where r.listing_id = l.id)`,
  "the sum of a page's ratings": `select l.id from listings l where exists (select 1 from reviews r where r.listing_id = l.id) and abs(l.rating_sum -
    (select coalesce(sum(r.rating), 0) from reviews r where r.listing_id = l.id and r.deleted_at is null)) > 0.001`,
};

/** What disagrees with what it is derived from: the name of the column, and how many rows. */
export async function derivedFaults(db: pg.Client | pg.Pool): Promise<Record<string, number>> {
  const faults: Record<string, number> = {};
  for (const [name, statement] of Object.entries(DERIVED)) {
    const { rowCount } = await db.query(statement);
    if (rowCount) faults[name] = rowCount;
  }
  return faults;
}
