import { and, desc, eq, inArray, sql } from "drizzle-orm";
import type { SiteReason } from "@/core/answers/siteMix";
import { mailboxSites, orderSites } from "@/core/answers/siteMix";
import { webAddress } from "@/core/web/address";
import type { Listing, Setting } from "@/features/clients";
import type { Person } from "@/features/people";
import { anyGoesByMailbox, type Plan } from "@/features/plans";
import { now as clockNow } from "@/platform/clock";
import { anyOf, rowsIn, type Scope, type Tx, withClient } from "@/platform/database";
import { mailHostOf } from "@/platform/resolver";
import { mailDomains } from "@/schema/clients";
import { siteTurns, triggers } from "@/schema/plans";
import { visits } from "@/schema/visits";

/** Which site comes first for whom. */

/** Sites that each of these people has reviewed, as far as a review could be told to be theirs. */
export async function reviewedSites(
  tx: Tx,
  scope: Scope,
  personIds: readonly string[],
): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>();
  if (personIds.length === 0) return found;
  const rows = await rowsIn<{ person_id: string; site: string }>(
    tx,
    sql`select distinct r.person_id, l.site from reviews r join listings l on l.id = r.listing_id
        where r.client_id = ${scope.clientId} and r.person_id = any(${sql.param([...personIds])}::uuid[]) and r.deleted_at is null`,
  );
  for (const { person_id, site } of rows) found.set(person_id, [...(found.get(person_id) ?? []), site]);
  return found;
}

/**
 * The listings of a branch in the order in which a person is offered them; `first` is the site that was chosen for
 * them.
 */
export function offeredListings<Offered extends Pick<Listing, "branchId" | "site" | "url">>(
  setting: { listings: readonly Offered[] },
  plan: Pick<Plan, "rules">,
  branchId: string,
  first: string | null,
  reviewed: readonly string[],
): Offered[] {
  const own = setting.listings.filter((listing) => listing.branchId === branchId && webAddress(listing.url) !== null);
  const facts = { sites: own.map(({ site }) => site), turns: {}, mailboxSites: [], reviewed };
  const { sites } = orderSites(
    {
      ...plan.rules.sites,
      mix: "order",
      order: first ? [first, ...plan.rules.sites.order.filter((site) => site !== first)] : plan.rules.sites.order,
    },
    facts,
  );
  return sites.flatMap((site) => own.find((listing) => listing.site === site) ?? []);
}

export type Chosen = { firstSite: string | null; siteWhy: SiteReason | null };

/**
 * Chooses the first site for new asks, one after the other, and keeps count of the turns. Nothing to choose where the
 * order is fixed.
 */
export async function chooseFirstSites(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  coming: readonly { plan: Plan; person: Person; branchId: string }[],
): Promise<Chosen[]> {
  const mixed = coming.filter(({ plan }) => plan.rules.sites.mix !== "order");
  if (mixed.length === 0) return coming.map(() => ({ firstSite: null, siteWhy: null }));
  const reviewed = await reviewedSites(
    tx,
    scope,
    mixed.map(({ person }) => person.id),
  );
  const hosts = await hostsOf(
    tx,
    mixed.flatMap(({ person }) => person.email ?? []),
  );
  const shared = [
    ...new Set(
      mixed
        .filter(({ plan }) => plan.rules.sites.mix === "shares")
        .map(({ plan, branchId }) => `${plan.id} ${branchId}`),
    ),
  ].sort();
  const turns = new Map<string, Record<string, number>>();
  for (const pair of shared) {
    const [planId, branchId] = pair.split(" ");
    // One at a time for each plan and branch, however many workers.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${pair}, 0))`);
    const rows = await tx
      .select()
      .from(siteTurns)
      .where(and(eq(siteTurns.planId, planId), eq(siteTurns.branchId, branchId)));
    turns.set(pair, Object.fromEntries(rows.map(({ site, turns: count }) => [site, count])));
  }
  const chosen = coming.map(({ plan, person, branchId }): Chosen => {
    if (plan.rules.sites.mix === "order") return { firstSite: null, siteWhy: null };
    const own = setting.listings.filter((listing) => listing.branchId === branchId);
    const counts = turns.get(`${plan.id} ${branchId}`) ?? {};
    const domain = person.email?.split("@")[1] ?? "";
    const { sites, why } = orderSites(plan.rules.sites, {
      sites: own.map(({ site }) => site),
      turns: counts,
      mailboxSites: mailboxSites(
        person.email,
        hosts.get(domain) ?? null,
        Object.fromEntries(own.map(({ site, accountDomains }) => [site, accountDomains])),
      ),
      reviewed: reviewed.get(person.id) ?? [],
    });
    if (sites[0] && plan.rules.sites.mix === "shares") counts[sites[0]] = (counts[sites[0]] ?? 0) + 1;
    return { firstSite: sites[0] ?? null, siteWhy: why };
  });
  for (const [pair, counts] of turns) {
    const [planId, branchId] = pair.split(" ");
    for (const [site, count] of Object.entries(counts))
      await tx
        .insert(siteTurns)
        .values({ clientId: scope.clientId, planId, branchId, site, turns: count })
        .onConflictDoUpdate({ target: [siteTurns.planId, siteTurns.branchId, siteTurns.site], set: { turns: count } });
  }
  return chosen;
}

async function hostsOf(tx: Tx, emails: readonly string[]): Promise<Map<string, string | null>> {
  const domains = [...new Set(emails.map((email) => email.split("@")[1] ?? ""))];
  if (domains.length === 0) return new Map();
  const rows = await tx.select().from(mailDomains).where(inArray(mailDomains.domain, domains));
  return new Map(rows.map(({ domain, host }) => [domain, host]));
}

/** Domains of mailboxes about which nothing is known yet, for plans that go by mailbox; at most a hundred. */
export async function unknownDomains(tx: Tx, scope: Scope, personIds: readonly string[]): Promise<string[]> {
  if (personIds.length === 0) return [];
  const rows = await rowsIn<{ domain: string }>(
    tx,
    sql`select distinct split_part(p.email, '@', 2) as domain from people p left join mail_domains d on d.domain = split_part(p.email, '@', 2)
        where p.client_id = ${scope.clientId} and p.id = any(${sql.param([...personIds])}::uuid[]) and p.email is not null and d.domain is null limit 100`,
  );
  return rows.map(({ domain }) => domain);
}

/**
 * Looks up who hosts the mailboxes of the people about to be asked, where a plan goes by mailbox. Outside any
 * transaction that decides: what cannot be told now is told by the mailbox's own domain, and looked up the next time.
 */
export async function lookUpMailHosts(
  scope: Scope,
  about: { visitIds?: string[]; triggerIds?: string[]; planId?: string },
): Promise<void> {
  const domains = await withClient(scope, async (tx) => {
    if (!(await anyGoesByMailbox(tx, scope))) return [];
    const rows = about.visitIds
      ? await tx.select({ id: visits.personId }).from(visits).where(anyOf(visits.id, about.visitIds))
      : about.triggerIds
        ? await tx.select({ id: triggers.personId }).from(triggers).where(anyOf(triggers.id, about.triggerIds))
        : await tx
            .select({ id: visits.personId })
            .from(visits)
            .where(and(eq(visits.clientId, scope.clientId), eq(visits.waitsFor, about.planId ?? "")))
            .orderBy(desc(visits.endsAt))
            .limit(500);
    return unknownDomains(
      tx,
      scope,
      rows.map(({ id }) => id),
    );
  });
  for (const domain of domains) {
    const host = await mailHostOf(domain);
    if (host === undefined) continue;
    const lookedAt = await clockNow();
    await withClient(scope, (tx) => tx.insert(mailDomains).values({ domain, host, lookedAt }).onConflictDoNothing());
  }
}
