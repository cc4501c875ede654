import { createHash } from "node:crypto";
import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { may, narrowed, type Permission, type PlacePermission, type Rights } from "@/core/access/permissions";
import { recordAudit } from "@/features/audit";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { apiKeys } from "@/schema/api";
import { newId } from "@/schema/columns";

/** Keys for programs: shown once, kept as a hash, each with what it may do. */

export const SCOPES = [
  "people:read",
  "people:write",
  "visits:read",
  "visits:write",
  "asks:read",
  "asks:write",
  "messages:read",
  "answers:read",
  "feeds:read",
  "feeds:write",
] as const;
export type ApiScope = (typeof SCOPES)[number];

/** What one may do oneself who makes a key with a scope: nobody gives a program more than that. */
export const SCOPE_NEEDS: Record<ApiScope, Permission> = {
  "people:read": "see people",
  "people:write": "edit people",
  "visits:read": "see people",
  "visits:write": "edit people",
  "asks:read": "see asking",
  "asks:write": "ask many",
  "messages:read": "see asking",
  "answers:read": "see heard",
  "feeds:read": "set up",
  "feeds:write": "set up",
};

/** Which scopes somebody may give a key. */
export const scopesFor = (rights: Rights): ApiScope[] => SCOPES.filter((scope) => may(rights, SCOPE_NEEDS[scope]));

export type ApiKey = typeof apiKeys.$inferSelect;

const hashOf = (key: string) => createHash("sha256").update(key).digest("hex");

/** Makes a key and gives it, this once. */
export async function makeKey(
  tx: Tx,
  scope: Scope,
  who: string,
  name: string,
  scopes: ApiScope[],
  now: number,
  isOfClient = false,
): Promise<{ key: string; id: string }> {
  const key = `estima_${newToken(40)}`;
  const id = newId();
  await tx.insert(apiKeys).values({
    id,
    clientId: scope.clientId,
    name,
    hint: key.slice(0, 12),
    hash: hashOf(key),
    scopes,
    madeBy: who,
    isOfClient,
    createdAt: now,
  });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "made",
    subject: "API key",
    subjectId: id,
    details: { name, scopes },
  });
  return { key, id };
}

/** Keys that have not been ended, newest first. */
export function listKeys(tx: Tx, scope: Scope): Promise<ApiKey[]> {
  return tx
    .select()
    .from(apiKeys)
    .where(and(eq(apiKeys.clientId, scope.clientId), isNull(apiKeys.endedAt)))
    .orderBy(desc(apiKeys.createdAt));
}

/** Ends a key at once. */
export async function endKey(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  const ended = await tx
    .update(apiKeys)
    .set({ endedAt: now })
    .where(and(eq(apiKeys.clientId, scope.clientId), eq(apiKeys.id, id), isNull(apiKeys.endedAt)))
    .returning({ id: apiKeys.id });
  if (ended.length > 0)
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who,
      action: "ended key",
      subject: "API key",
      subjectId: id,
    });
  return ended.length > 0;
}

/** Whose key it is and what it may do; null for one that is unknown or ended. */
export async function readKey(
  key: string,
  now: number,
): Promise<{ scope: Scope; keyId: string; scopes: string[] } | null> {
  if (!/^estima_[0-9A-Za-z]{40}$/.test(key)) return null;
  const [row] = await rowsOf<{
    client_id: string;
    key_id: string;
    scopes: ApiScope[];
    shown: PlacePermission[] | null;
  }>(sql`select * from estima_api_key(${hashOf(key)}, ${new Date(now).toISOString()})`);
  if (!row) return null;
  // What the client's own people are no longer shown, no key of theirs opens.
  const scopes = row.scopes.filter((one) => narrowed([SCOPE_NEEDS[one]], row.shown).length > 0);
  return { scope: { clientId: row.client_id }, keyId: row.key_id, scopes };
}
