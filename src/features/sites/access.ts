import { and, eq, sql } from "drizzle-orm";
import { connectorOf, type SiteAccess, SiteUnreachable, type Tokens } from "@/connectors";
import type { ConnectorId } from "@/core/reviews/sites";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { decrypt, encrypt } from "@/platform/secrets";
import type { listings } from "@/schema/clients";
import { siteAccounts } from "@/schema/sites";

/** How a page at a site is opened: by its key, by a sign-in whose tokens are renewed in time, or by nothing. */

export type SiteAccount = typeof siteAccounts.$inferSelect;

type Opened = Pick<
  typeof listings.$inferSelect,
  "connector" | "connectorUrl" | "connectorKey" | "accountId" | "clientId"
>;

/** A token is renewed this long before it runs out, so that it does not on its way. */
const RENEW_BEFORE = 60_000;

/**
 * What opens a page; null where it has no connector. Throws `SiteUnreachable` where the key is missing or the sign-in
 * has ended. `renew` asks for another token although this one should still hold.
 */
export async function openPage(scope: Scope, listing: Opened, renew = false): Promise<SiteAccess | null> {
  if (!listing.connector || !listing.connectorUrl) return null;
  const connector = connectorOf(listing.connector);
  if (connector.access === "open") return { url: listing.connectorUrl, secret: null };
  if (connector.access === "key") {
    if (!listing.connectorKey) throw new SiteUnreachable({ code: "key refused" });
    return { url: listing.connectorUrl, secret: decrypt(listing.connectorKey) };
  }
  return { url: listing.connectorUrl, secret: await tokenOf(scope, listing.connector, listing.accountId, renew) };
}

/**
 * The token of an account, renewed where it runs out. One worker renews at a time: a renewing ends the tokens before,
 * and a site takes a second one for theft.
 */
async function tokenOf(
  scope: Scope,
  connector: ConnectorId,
  accountId: string | null,
  renew: boolean,
): Promise<string> {
  const { signIn } = connectorOf(connector);
  if (!accountId || !signIn) throw new SiteUnreachable({ code: "key refused" });
  const result = await withClient(scope, async (tx): Promise<string | SiteUnreachable> => {
    const seen = await accountIn(tx, scope, accountId);
    if (!seen || seen.endedAt !== null)
      return new SiteUnreachable({ code: "sign-in ended", at: seen?.endedAt ?? (await clockNow()) });
    const now = await clockNow();
    if (!renew && seen.expiresAt - RENEW_BEFORE > now) return decrypt(seen.accessToken);
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`site account ${accountId}`}, 0))`);
    const account = await accountIn(tx, scope, accountId);
    if (!account || account.endedAt !== null)
      return new SiteUnreachable({ code: "sign-in ended", at: account?.endedAt ?? now });
    // Somebody else has renewed it meanwhile.
    if (account.accessToken !== seen.accessToken) return decrypt(account.accessToken);
    try {
      const tokens = await signIn.refresh(decrypt(account.refreshToken));
      await tx.update(siteAccounts).set(sealed(tokens, now)).where(eq(siteAccounts.id, accountId));
      return tokens.access;
    } catch (error) {
      if (!(error instanceof SiteUnreachable) || error.problem.code !== "key refused") throw error;
      await tx.update(siteAccounts).set({ endedAt: now }).where(eq(siteAccounts.id, accountId));
      return new SiteUnreachable({ code: "sign-in ended", at: now });
    }
  });
  if (result instanceof SiteUnreachable) throw result;
  return result;
}

export function sealed(tokens: Tokens, now: number) {
  return {
    accessToken: encrypt(tokens.access),
    refreshToken: encrypt(tokens.refresh),
    expiresAt: now + tokens.expiresInSeconds * 1000,
  };
}

async function accountIn(tx: Tx, scope: Scope, id: string): Promise<SiteAccount | undefined> {
  const [account] = await tx
    .select()
    .from(siteAccounts)
    .where(and(eq(siteAccounts.clientId, scope.clientId), eq(siteAccounts.id, id)));
  return account;
}

/**
 * Does something at a page. A token that the site does not take although it should still hold is renewed once: where
 * that is refused too, the sign-in has ended. Throws `SiteUnreachable`; gives null where the page has no connector.
 */
export async function atPage<T>(
  scope: Scope,
  listing: Opened,
  work: (access: SiteAccess) => Promise<T>,
): Promise<T | null> {
  const access = await openPage(scope, listing);
  if (!access) return null;
  try {
    return await work(access);
  } catch (error) {
    const isRefused = error instanceof SiteUnreachable && error.problem.code === "key refused";
    if (!isRefused || !listing.accountId) throw error;
    const renewed = await openPage(scope, listing, true);
    if (!renewed) return null;
    return work(renewed);
  }
}
