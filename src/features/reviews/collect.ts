import { and, eq, sql } from "drizzle-orm";
import { type Connector, connectorOf, type ReadPage, SiteUnreachable } from "@/connectors";
import { type SiteProblem, siteBackoff } from "@/core/reviews/siteProblems";
import { TOLD_AFTER } from "@/core/reviews/sites";
import { sayTime } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { refreshReviewSums, setCollected } from "@/features/clients";
import { tell } from "@/features/notices";
import { atPage } from "@/features/sites";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { branches, clients, listings } from "@/schema/clients";
import { siteReadings } from "@/schema/sites";
import { type Added, keepReviews, markGone } from "./keep";
import { applyRules } from "./rules";

/**
 * Reading what sites show. A page is read on from its cursor, or whole where its site only shows all there is. Nothing
 * is read twice, nothing is missed: the cursor is kept with the reviews it stands behind, and a whole reading that was
 * left, because its site asked for patience, is taken up where it stood.
 */

type Listing = typeof listings.$inferSelect;

const COLLECT_EVERY = 60_000;
/** A reading that goes on is nobody else's for so long after its last page. */
const READING_LEASE = 5 * 60_000;
/** How often in one turn a whole reading begins anew because its site changed under it. */
const MOST_BEGINNINGS = 5;

/** Claims the listings whose reviews are due at `at`. */
export async function claimListings(at: number): Promise<{ clientId: string; listingId: string }[]> {
  const iso = (time: number) => new Date(time).toISOString();
  const rows = await rowsOf<{ client_id: string; listing_id: string }>(
    sql`select * from estima_claim_listings(${iso(at)}, ${iso(at + COLLECT_EVERY)}, 200)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, listingId: row.listing_id }));
}

/**
 * Collects what is new, edited or deleted on one listing; gives how many reviews were. Trouble is kept with the listing,
 * which is left alone for a while, the longer the more often it failed.
 */
export async function collect(clientId: string, listingId: string): Promise<number> {
  const scope = workFor(clientId);
  const [listing] = await withClient(scope, (tx) => tx.select().from(listings).where(eq(listings.id, listingId)));
  if (!listing?.connector || !listing.connectorUrl) return 0;
  const reading = new Reading(scope, listing, connectorOf(listing.connector));
  try {
    await reading.go();
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    await noteFailure(scope, listing, error);
  }
  if (reading.count > 0 || listing.reviewCount === null)
    await withClient(scope, (tx) => refreshReviewSums(tx, scope, listingId));
  return reading.count;
}

/** One turn of reading a listing. */
class Reading {
  count = 0;
  private cursor: string;
  /** What a whole reading has come across, and when it began; null outside one. */
  private whole: { seen: string[]; beganAt: number } | null = null;
  private read = 0;
  private beginnings = 0;

  constructor(
    private readonly scope: Scope,
    private readonly listing: Listing,
    private readonly connector: Connector,
  ) {
    this.cursor = listing.cursor ?? "";
  }

  async go(): Promise<void> {
    const { scope, listing, connector } = this;
    const [left] = await withClient(scope, (tx) =>
      tx.select().from(siteReadings).where(eq(siteReadings.listingId, listing.id)),
    );
    if (left) {
      this.cursor = left.cursor;
      this.whole = { seen: left.seen, beganAt: left.beganAt };
    }
    this.read = left?.seen.length ?? listing.readCount;
    for (;;) {
      const askedAt = await clockNow();
      const page = await atPage(scope, listing, (access) => connector.read(access, this.cursor)).catch((error) =>
        this.leave(error),
      );
      if (!page) return;
      if (page.holds === "all, from the start") {
        this.beginnings += 1;
        this.whole = { seen: [], beganAt: askedAt };
        this.read = 0;
      }
      await this.keep(page, askedAt);
      if (!page.more || (page.restSeconds !== null && page.restSeconds > 0) || this.beginnings > MOST_BEGINNINGS)
        return;
    }
  }

  /** Keeps a page with the place behind it, in one transaction. */
  private async keep(page: ReadPage, askedAt: number): Promise<void> {
    const { scope, listing, connector } = this;
    const now = await clockNow();
    const isFirst = listing.firstReadAt === null;
    this.read += page.reviews.length;
    this.whole?.seen.push(...page.reviews.map(({ id }) => id));
    this.cursor = page.cursor;
    const isOver = !page.more;
    const rest = page.restSeconds === null ? null : page.restSeconds * 1000;
    await withClient(scope, async (tx) => {
      const kept = { ...listing, hasReplies: connector.reply !== null, isFirst };
      const { count, undecided, added } = await keepReviews(tx, scope, kept, page.reviews, askedAt, now);
      this.count += count;
      if (!isFirst) await tellOf(tx, scope, listing, added, now);
      await applyRules(tx, scope, undecided, now);
      if (this.whole && isOver)
        this.count += await markGone(tx, scope, listing.id, this.whole.seen, this.whole.beganAt, now);
      // Where a whole reading stands is of use only with what it has seen.
      const isHalf = this.whole !== null && !isOver;
      await setCollected(tx, scope, listing.id, {
        ...(isHalf ? {} : { cursor: page.cursor }),
        collectedAt: now,
        collectError: null,
        failingSince: null,
        failures: 0,
        collectAt: now + (isOver ? Math.max(COLLECT_EVERY, rest ?? 0) : (rest ?? READING_LEASE)),
        ...(isFirst ? { readCount: this.read, ...(page.total === null ? {} : { readTotal: page.total }) } : {}),
        ...(isFirst && isOver ? { firstReadAt: now } : {}),
      });
      if (isOver) await tx.delete(siteReadings).where(eq(siteReadings.listingId, listing.id));
    });
    if (isOver) this.whole = null;
    else if (rest !== null) await this.remember();
  }

  /** Notes how far a whole reading came before it is left. */
  private async remember(): Promise<void> {
    const { scope, listing, cursor, whole } = this;
    if (!whole) return;
    const state = { cursor, seen: whole.seen, beganAt: whole.beganAt };
    await withClient(scope, (tx) =>
      tx
        .insert(siteReadings)
        .values({ ...state, listingId: listing.id, clientId: scope.clientId })
        .onConflictDoUpdate({ target: siteReadings.listingId, set: state }),
    );
  }

  private async leave(error: unknown): Promise<never> {
    if (error instanceof SiteUnreachable) await this.remember();
    throw error;
  }
}

/** Reviews that were written longer ago are no news. */
const NEWS = 7 * DAY;

/** Tells whoever wants to know of reviews that are new. */
async function tellOf(
  tx: Tx,
  scope: Scope,
  { branchId }: Listing,
  added: readonly Added[],
  now: number,
): Promise<void> {
  const news = added.filter(({ writtenAt }) => writtenAt > now - NEWS);
  await tell(
    tx,
    scope,
    news.map(({ id, rating, isUrgent }) => ({
      // One that becomes urgent when it is edited is told once more.
      about: isUrgent ? `urgent review ${id}` : `review ${id}`,
      matter: { kind: "review", branchId, rating, isUrgent },
      told: { code: "review", reviewId: id },
    })),
    now,
  );
}

/** Notes why a page could not be read, when it is tried again, and tells whoever looks after the client in time. */
async function noteFailure(scope: Scope, listing: Listing, { problem, waitSeconds }: SiteUnreachable): Promise<void> {
  const now = await clockNow();
  await withClient(scope, async (tx) => {
    const [row] = await tx
      .select({ listing: listings, zone: clients.zone, branch: branches.name })
      .from(listings)
      .innerJoin(clients, eq(clients.id, listings.clientId))
      .innerJoin(branches, eq(branches.id, listings.branchId))
      .where(and(eq(listings.clientId, scope.clientId), eq(listings.id, listing.id)));
    if (!row) return;
    const failures = row.listing.failures + 1;
    const since = row.listing.failingSince ?? now;
    const wait = siteBackoff(failures, waitSeconds === null ? null : waitSeconds * 1000);
    const isEnded = problem.code === "sign-in ended";
    const shown: SiteProblem =
      problem.code === "asks for patience" ? { ...problem, until: sayTime(row.zone, now + wait) } : problem;
    await setCollected(tx, scope, listing.id, {
      collectError: shown,
      failingSince: since,
      failures,
      // Whose sign-in has ended waits for another.
      collectAt: isEnded ? null : now + wait,
    });
    if (!isEnded && now - since < TOLD_AFTER) return;
    await tell(
      tx,
      scope,
      [
        {
          about:
            problem.code === "sign-in ended"
              ? `sign-in ended ${listing.accountId} ${problem.at}`
              : `site stopped ${listing.id} ${since}`,
          matter: { kind: "site", branchId: listing.branchId },
          told: { code: "site", site: listing.site, branch: row.branch, since, problem: shown },
        },
      ],
      now,
    );
  });
}
