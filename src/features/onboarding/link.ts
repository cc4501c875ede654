import { createHash } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import type { ClientDraft } from "@/core/onboarding/draft";
import { takenOver } from "@/core/onboarding/proposal";
import { DAY } from "@/core/time/zone";
import { loadAgency, recordAccountEntry } from "@/features/accounts";
import { type AgencyScope, rowsOf, type Tx, withAgency } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { clientDrafts } from "@/schema/onboarding";
import { type Draft, findDraft } from "./service";

/**
 * A link by which a client fills a draft in themselves, without an account. What they write waits beside the draft until
 * somebody of the agency takes it over. Only a hash of the link's token is kept.
 */

export const LINK_DAYS = 14;

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");
const own = (scope: AgencyScope, id: string) => and(eq(clientDrafts.agencyId, scope.agencyId), eq(clientDrafts.id, id));

/** Makes a link, good for two weeks; one made before leads nowhere. Gives its token, which is nowhere else. */
export async function makeLink(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  id: string,
  now: number,
): Promise<string | null> {
  const token = newToken(24);
  const [draft] = await tx
    .update(clientDrafts)
    .set({ linkHash: hashOf(token), linkExpiresAt: now + LINK_DAYS * DAY, doneAt: null })
    .where(own(scope, id))
    .returning();
  if (!draft) return null;
  const name = draft.values.name.trim() || "a client without a name";
  await recordAccountEntry(tx, scope, { at: now, who, action: "sent a link for", subject: "client", name });
  return token;
}

/** Ends the link of a draft. */
export async function endLink(tx: Tx, scope: AgencyScope, id: string): Promise<boolean> {
  const ended = await tx.update(clientDrafts).set({ linkHash: null, linkExpiresAt: null }).where(own(scope, id));
  return Boolean(ended.rowCount);
}

export type FilledDraft = {
  scope: AgencyScope;
  id: string;
  agency: { name: string; colour: string; logoId: string | null; helpEmail: string };
  values: ClientDraft;
  isDone: boolean;
};

/** The draft behind a link, as the client left it; null for a link that never was, was ended or has run out. */
export async function draftOfLink(token: string, now: number): Promise<FilledDraft | null> {
  const [row] = await rowsOf<{ agency_id: string; id: string }>(
    sql`select * from estima_draft_link(${hashOf(token)}, ${new Date(now).toISOString()})`,
  );
  if (!row) return null;
  const scope = { agencyId: row.agency_id };
  return withAgency(scope, async (tx) => {
    const draft = await findDraft(tx, scope, row.id);
    if (!draft) return null;
    const { name, colour, logoId, helpEmail } = await loadAgency(tx, scope);
    return {
      scope,
      id: draft.id,
      agency: { name, colour, logoId, helpEmail },
      values: draft.proposed ?? draft.values,
      isDone: draft.doneAt !== null,
    };
  });
}

/** Keeps what the client wrote; with `isDone` they said that this is all. */
export async function saveProposal(
  { scope, id }: FilledDraft,
  values: ClientDraft,
  isDone: boolean,
  now: number,
): Promise<void> {
  await withAgency(scope, (tx) =>
    tx
      .update(clientDrafts)
      .set({ proposed: values, proposedAt: now, ...(isDone ? { doneAt: now } : {}) })
      .where(own(scope, id)),
  );
}

/** Takes what the client wrote into the draft, or lays it aside. Gives the draft as it is then. */
export async function settleProposal(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  id: string,
  isTaken: boolean,
  now: number,
): Promise<Draft | null> {
  const draft = await findDraft(tx, scope, id);
  if (!draft?.proposed) return null;
  const [after] = await tx
    .update(clientDrafts)
    .set({
      proposed: null,
      proposedAt: null,
      doneAt: null,
      ...(isTaken ? { values: takenOver(draft.values, draft.proposed), by: who, updatedAt: now } : {}),
    })
    .where(own(scope, id))
    .returning();
  if (isTaken)
    await recordAccountEntry(tx, scope, {
      at: now,
      who,
      action: "took over what was filled in for",
      subject: "client",
      name: after.values.name.trim() || "a client without a name",
    });
  return after;
}
