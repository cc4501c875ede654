import { createHash } from "node:crypto";
import { and, asc, eq, inArray } from "drizzle-orm";
import { connectorOf, type FoundPlace, type SiteAccess, SiteUnreachable } from "@/connectors";
import { PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import type { ConnectorId } from "@/core/reviews/sites";
import { recordAudit } from "@/features/audit";
import {
  type Branch,
  changeClient,
  connectListing,
  disconnectListing,
  loadSetting,
  resumeListings,
} from "@/features/clients";
import { leaveOutSite } from "@/features/plans";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { describeError, log } from "@/platform/log";
import { decrypt, encrypt, hookSecret, newToken, sameSecret } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { type PlaceChoice, siteAccounts, siteConnections } from "@/schema/sites";
import { atPage, type SiteAccount, sealed } from "./access";

/**
 * Connecting a site, step by step: the business is looked for by name and town, a place is chosen for each branch, the
 * place is opened by a key or a sign-in, and read. It can be left at any step; whoever comes back goes on there.
 */

export type SiteConnection = typeof siteConnections.$inferSelect;

const ofSite = (scope: Scope, connector: ConnectorId) =>
  and(eq(siteConnections.clientId, scope.clientId), eq(siteConnections.connector, connector));

export async function listConnections(tx: Tx, scope: Scope): Promise<SiteConnection[]> {
  return tx
    .select()
    .from(siteConnections)
    .where(eq(siteConnections.clientId, scope.clientId))
    .orderBy(asc(siteConnections.changedAt));
}

export async function findConnection(tx: Tx, scope: Scope, connector: ConnectorId): Promise<SiteConnection | null> {
  const [found] = await tx.select().from(siteConnections).where(ofSite(scope, connector));
  return found ?? null;
}

/** Sign-ins at a site that hold, the latest first. */
export async function listAccounts(tx: Tx, scope: Scope, connector: ConnectorId): Promise<SiteAccount[]> {
  const rows = await tx
    .select()
    .from(siteAccounts)
    .where(and(eq(siteAccounts.clientId, scope.clientId), eq(siteAccounts.connector, connector)));
  return rows.filter(({ endedAt }) => endedAt === null).sort((a, b) => b.signedInAt - a.signedInAt);
}

/** Notes what to look for, and forgets what was chosen of another search. */
export async function noteSearch(
  tx: Tx,
  scope: Scope,
  who: string,
  connector: ConnectorId,
  it: { name: string; town: string },
  now: number,
): Promise<void> {
  await tx
    .insert(siteConnections)
    .values({ ...it, clientId: scope.clientId, connector, beganBy: who, changedAt: now })
    .onConflictDoUpdate({
      target: [siteConnections.clientId, siteConnections.connector],
      set: { ...it, choices: null, changedAt: now },
    });
}

/** Looks for a business at a site; says what stood in the way. */
export async function searchSite(
  connector: ConnectorId,
  it: { name: string; town: string },
): Promise<{ found: FoundPlace[] } | { problem: SiteProblem }> {
  try {
    return { found: await connectorOf(connector).search(it.name, it.town) };
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    return { problem: error.problem };
  }
}

/** The place that is most likely a branch's: the only one, or the one that is named after it. */
export function likelyPlace(found: readonly FoundPlace[], branch: Pick<Branch, "name" | "address">, isOnly: boolean) {
  const plain = (text: string) => text.toLowerCase();
  const named = found.filter(({ name }) => plain(name).includes(plain(branch.name)));
  if (named.length === 1) return named[0];
  const there = found.filter(({ address }) => branch.address && plain(address) === plain(branch.address));
  if (there.length === 1) return there[0];
  return isOnly && found.length > 0 ? found[0] : null;
}

/** Keeps which place is which branch's. Places that nobody found are no choice. */
export async function choosePlaces(
  tx: Tx,
  scope: Scope,
  connector: ConnectorId,
  choices: PlaceChoice[],
  now: number,
): Promise<void> {
  await tx.update(siteConnections).set({ choices, changedAt: now }).where(ofSite(scope, connector));
}

export async function dropConnection(tx: Tx, scope: Scope, connector: ConnectorId): Promise<void> {
  await tx.delete(siteConnections).where(ofSite(scope, connector));
}

/** Where a site sends people back to after they signed in there. */
const returnTo = () => `${environment().APP_URL}/connect/return`;
const SIGN_IN_LIVES = 15 * 60_000;

/**
 * Begins a sign-in: gives the address at the site where somebody agrees. What comes back must bring this state, to the
 * same person, within a quarter of an hour. Null for a site without sign-ins.
 */
export async function beginSignIn(
  tx: Tx,
  scope: Scope,
  who: { name: string; id: string },
  slug: string,
  connector: ConnectorId,
  accountId: string | null,
  now: number,
): Promise<string | null> {
  const { signIn } = connectorOf(connector);
  if (!signIn) return null;
  const verifier = newToken(64);
  const state = `${slug}.${newToken(32)}`;
  const sign = {
    signInState: state,
    signInVerifier: encrypt(verifier),
    signInBy: who.id,
    signInAt: now,
    accountId,
    changedAt: now,
  };
  await tx
    .insert(siteConnections)
    .values({ ...sign, clientId: scope.clientId, connector, name: "", town: "", beganBy: who.name })
    .onConflictDoUpdate({ target: [siteConnections.clientId, siteConnections.connector], set: sign });
  const challenge = createHash("sha256").update(verifier).digest("base64url");
  return signIn.address({ state, challenge, returnTo: returnTo() });
}

export type SignedIn =
  | { connector: ConnectorId; isAgain: boolean }
  | { refused: "not begun" | "too late" | "not agreed" | SiteProblem; connector: ConnectorId | null };

/**
 * Ends a sign-in with what the site sent back. A state counts once, for whoever began it; a sign-in again takes the
 * place of the one that ended, and its pages are read on.
 */
export async function finishSignIn(
  scope: Scope,
  who: { name: string; id: string },
  back: { state: string; code: string | null },
  now: number,
): Promise<SignedIn> {
  const begun = await withClient(scope, async (tx) => {
    const rows = await tx
      .select()
      .from(siteConnections)
      .where(eq(siteConnections.clientId, scope.clientId))
      .for("update");
    const row = rows.find(({ signInState }) => signInState !== null && sameSecret(signInState, back.state));
    if (!row) return null;
    const spent = { signInState: null, signInVerifier: null, signInBy: null, signInAt: null };
    if (row.signInBy !== who.id) return null;
    await tx.update(siteConnections).set(spent).where(eq(siteConnections.id, row.id));
    return row;
  });
  if (!begun?.signInVerifier || begun.signInAt === null) return { refused: "not begun", connector: null };
  const { connector } = begun;
  if (now - begun.signInAt > SIGN_IN_LIVES) return { refused: "too late", connector };
  if (!back.code) return { refused: "not agreed", connector };
  const { signIn } = connectorOf(connector);
  if (!signIn) return { refused: "not begun", connector };
  try {
    const tokens = await signIn.redeem({
      code: back.code,
      verifier: decrypt(begun.signInVerifier),
      returnTo: returnTo(),
    });
    return await withClient(scope, async (tx) => {
      const held = { ...sealed(tokens, now), endedAt: null, signedInBy: who.name, signedInAt: now };
      const [again] = begun.accountId
        ? await tx
            .update(siteAccounts)
            .set({ ...held, name: tokens.account })
            .where(and(eq(siteAccounts.clientId, scope.clientId), eq(siteAccounts.id, begun.accountId)))
            .returning({ id: siteAccounts.id })
        : [];
      const accountId = again?.id ?? newId();
      if (again) await resumeListings(tx, scope, accountId, now);
      else
        await tx
          .insert(siteAccounts)
          .values({ ...held, id: accountId, clientId: scope.clientId, connector, name: tokens.account });
      // Whoever only signed in again has nothing left to do.
      const isAgain = Boolean(again) && begun.choices === null;
      if (isAgain) await tx.delete(siteConnections).where(eq(siteConnections.id, begun.id));
      else await tx.update(siteConnections).set({ accountId, changedAt: now }).where(eq(siteConnections.id, begun.id));
      await recordAudit(tx, {
        clientId: scope.clientId,
        at: now,
        who: who.name,
        action: "signed in",
        subject: "review site",
        subjectId: accountId,
        details: { site: connectorOf(connector).name, name: tokens.account },
      });
      return { connector, isAgain };
    });
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    return { refused: error.problem, connector };
  }
}

/** What stood in the way of a branch's place. */
export type Refusal = { branchId: string; problem: SiteProblem };

/**
 * Opens every place that was chosen and has it read from now on. Nothing is connected unless all of them open. `keys`
 * are those of the places, by branch, where the site opens by key.
 */
export async function finishConnecting(
  scope: Scope,
  who: string,
  connectorId: ConnectorId,
  keys: ReadonlyMap<string, string>,
  now: number,
  isOffered = true,
): Promise<{ refused: Refusal[] } | { listingIds: string[] } | null> {
  const connector = connectorOf(connectorId);
  const connection = await withClient(scope, (tx) => findConnection(tx, scope, connectorId));
  const chosen = (connection?.choices ?? []).flatMap(({ branchId, place }) => (place ? [{ branchId, place }] : []));
  if (!connection || chosen.length === 0) return null;
  const opened = chosen.map(({ branchId, place }) => ({
    branchId,
    place,
    page: {
      clientId: scope.clientId,
      connector: connectorId,
      connectorUrl: connector.placeUrl(place.id),
      connectorKey: connector.access === "key" ? encrypt(keys.get(branchId) ?? "") : null,
      accountId: connector.access === "sign-in" ? connection.accountId : null,
    },
  }));
  const refused: Refusal[] = [];
  for (const { branchId, page } of opened) {
    try {
      await atPage(scope, page, (access) => connector.read(access, ""));
    } catch (error) {
      if (!(error instanceof SiteUnreachable)) throw error;
      refused.push({ branchId, problem: error.problem });
    }
  }
  if (refused.length > 0) return { refused };
  const listingIds = await withClient(scope, async (tx) => {
    // Two people finish at once: one does.
    const [mine] = await tx.delete(siteConnections).where(eq(siteConnections.id, connection.id)).returning();
    if (!mine) return null;
    const setting = await loadSetting(tx);
    if (!isOffered && !setting.listings.some(({ site }) => site === connector.name)) {
      await leaveOutSite(tx, scope, connector.name);
      const open = setting.client.openAnswers ?? PLAIN_ANSWER_RULES;
      const leftOut = [...(open.sites.leftOut ?? []), connector.name];
      await changeClient(tx, scope, { openAnswers: { ...open, sites: { ...open.sites, leftOut } } });
    }
    const ids: string[] = [];
    for (const { branchId, place, page } of opened) {
      const id = await connectListing(
        tx,
        scope,
        {
          branchId,
          site: connector.name,
          connector: connectorId,
          placeId: place.id,
          url: place.url,
          connectorUrl: page.connectorUrl,
          connectorKey: page.connectorKey,
          accountId: page.accountId,
          scale: connector.scale,
        },
        now,
      );
      await recordAudit(tx, {
        clientId: scope.clientId,
        at: now,
        who,
        action: "connected",
        subject: "review page",
        subjectId: id,
        details: { site: connector.name, name: place.name },
      });
      ids.push(id);
    }
    return ids;
  });
  if (!listingIds) return null;
  await Promise.all(opened.map(({ page }, index) => listenTo(scope, page, listingIds[index])));
  return { listingIds };
}

type Page = Parameters<typeof atPage>[1];

/** The secret by which a site signs what it tells of a page. */
export const secretOfHook = (listingId: string) => hookSecret("site hook", listingId);

/** Asks a site to tell of new reviews, where it can; where it does not take it, the page is read by the minute as well. */
export async function listenTo(scope: Scope, page: Page, listingId: string): Promise<void> {
  const { listen } = page.connector ? connectorOf(page.connector) : { listen: undefined };
  if (!listen) return;
  const hook = { address: `${environment().APP_URL}/hooks/sites/${listingId}`, secret: secretOfHook(listingId) };
  await atPage(scope, page, (access: SiteAccess) => listen(access, hook)).catch((error) =>
    log.warn({ listingId, ...describeError(error) }, "a site does not tell of new reviews"),
  );
}

/** Has a page read no more. False where it is not read. */
export async function stopReading(
  tx: Tx,
  scope: Scope,
  who: string,
  listing: { id: string; site: string; connector: ConnectorId | null },
  now: number,
): Promise<boolean> {
  if (!listing.connector) return false;
  await disconnectListing(tx, scope, listing.id);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "disconnected",
    subject: "review page",
    subjectId: listing.id,
    details: { site: listing.site },
  });
  return true;
}

/** As whom pages are signed in, by account. */
export async function accountNames(tx: Tx, scope: Scope, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select({ id: siteAccounts.id, name: siteAccounts.name })
    .from(siteAccounts)
    .where(and(eq(siteAccounts.clientId, scope.clientId), inArray(siteAccounts.id, [...ids])));
  return new Map(rows.map(({ id, name }) => [id, name]));
}
