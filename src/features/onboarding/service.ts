import { and, desc, eq } from "drizzle-orm";
import type { ClientFile } from "@/core/onboarding/clientFile";
import { type ClientDraft, clientDraft, draftFor } from "@/core/onboarding/draft";
import { STARTERS } from "@/core/plans/starters";
import { loadAgency, recordAccountEntry, slugFor } from "@/features/accounts";
import { createClient } from "@/features/clients";
import { installPlan } from "@/features/plans";
import { withAgencyWords } from "@/features/words";
import { type AgencyScope, StatementFailed, type Tx, withAgency, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { clientDrafts } from "@/schema/onboarding";
import { type FilePictures, installParts, installPictures, picturesOf } from "./exportClient";

/** Clients being started: drafts that are kept as one goes, and the making of a client from a checked file. */

export type Draft = typeof clientDrafts.$inferSelect;

const own = (scope: AgencyScope, id: string) => and(eq(clientDrafts.agencyId, scope.agencyId), eq(clientDrafts.id, id));

/** The clients that somebody has begun to fill in, the last touched first. */
export function listDrafts(tx: Tx, scope: AgencyScope): Promise<Draft[]> {
  return tx
    .select()
    .from(clientDrafts)
    .where(eq(clientDrafts.agencyId, scope.agencyId))
    .orderBy(desc(clientDrafts.updatedAt), desc(clientDrafts.id));
}

/** One draft, or null where the agency has none of this id. */
export async function findDraft(tx: Tx, scope: AgencyScope, id: string): Promise<Draft | null> {
  const [draft] = await tx.select().from(clientDrafts).where(own(scope, id));
  if (!draft) return null;
  // One from before a blank was added has it as it is usual.
  const { values, proposed } = draft;
  return { ...draft, values: clientDraft.parse(values), proposed: proposed && clientDraft.parse(proposed) };
}

/** Begins a draft, with country and zone as the agency chose them last. Gives its identifier. */
export async function beginDraft(tx: Tx, scope: AgencyScope, who: string, now: number): Promise<string> {
  const [last] = await listDrafts(tx, scope);
  const id = newId();
  await tx
    .insert(clientDrafts)
    .values({ id, agencyId: scope.agencyId, values: draftFor("other", last?.values ?? null), by: who, updatedAt: now });
  return id;
}

/** Keeps what was typed. False where the draft is gone. */
export async function saveDraftValues(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  id: string,
  values: ClientDraft,
  now: number,
): Promise<boolean> {
  const saved = await tx.update(clientDrafts).set({ values, by: who, updatedAt: now }).where(own(scope, id));
  return Boolean(saved.rowCount);
}

/** Throws a draft away; false where it is gone already. */
export async function dropDraft(tx: Tx, scope: AgencyScope, id: string): Promise<boolean> {
  return Boolean((await tx.delete(clientDrafts).where(own(scope, id))).rowCount);
}

export type Started =
  | { slug: string; clientId: string; planId: string }
  | "text number taken"
  | { unreadable: keyof FilePictures };

/** PostgreSQL's error code for a value that must be unique. */
const NOT_UNIQUE = "23505";

const MOST_SLUGS = 50;

/**
 * Makes a client from its file. Its plan has never run: nothing is sent before somebody lets it. With `draftId` the draft
 * goes in the same breath.
 */
export async function startClient(
  scope: AgencyScope & { user: { id: string; name: string } },
  file: ClientFile,
  draftId: string | null,
  now: number,
): Promise<Started> {
  const pictures = await picturesOf(scope.agencyId, file);
  if ("unreadable" in pictures) return pictures;
  const { clientLook } = await withAgency(scope, (tx) => loadAgency(tx, scope));
  const settings = { ...file.settings, look: file.settings.look ?? clientLook };
  const plain = slugFor(file.name, "client");
  for (let turn = 1; ; turn++) {
    const slug = turn === 1 ? plain : `${plain.slice(0, 36)}-${turn}`;
    const made = await tryClient(scope, slug, { ...file, settings }, pictures, now);
    if (made === "slug taken") {
      if (turn === MOST_SLUGS) throw new Error("No web address is free for this name. Try a slightly different one.");
      continue;
    }
    if (typeof made === "string") return made;
    await withAgency(scope, async (tx) => {
      if (draftId) await dropDraft(tx, scope, draftId);
      await recordAccountEntry(tx, scope, {
        at: now,
        who: scope.user.name,
        action: "started",
        subject: "client",
        name: file.name,
        aboutClient: made.clientId,
      });
    });
    return { slug, ...made };
  }
}

async function tryClient(
  { agencyId, user }: AgencyScope & { user: { id: string; name: string } },
  slug: string,
  file: ClientFile,
  pictures: FilePictures,
  now: number,
): Promise<{ clientId: string; planId: string } | "slug taken" | "text number taken"> {
  const scope = { clientId: newId(), user };
  const starter = STARTERS.find(({ key }) => key === file.plan) ?? STARTERS[0];
  try {
    const planId = await withClient(scope, async (tx) => {
      const ids = await createClient(tx, scope, agencyId, slug, file);
      await installPictures(tx, scope, agencyId, user.name, pictures, now);
      const first = await installParts(tx, scope, user.name, file, ids, now);
      if (first) return first;
      const plan = await installPlan(tx, scope, {
        name: starter.name,
        rules: await withAgencyWords(tx, starter.rules(["do-not-ask"]), "en"),
        runningSince: now,
        state: "draft",
        by: user.name,
      });
      return plan.id;
    });
    return { clientId: scope.clientId, planId };
  } catch (error) {
    if (!(error instanceof StatementFailed)) throw error;
    if (error.code === NOT_UNIQUE && error.constraint === "clients_slug_unique") return "slug taken";
    // Clients of one agency may share a number.
    if (error.constraint === "clients_number_of_one_agency") return "text number taken";
    throw error;
  }
}
