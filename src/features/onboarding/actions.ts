"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { type ClientFile, clientFile, type FileFault, readClientFile } from "@/core/onboarding/clientFile";
import { clientDraft, fieldOfFault, fileOf } from "@/core/onboarding/draft";
import { type AgencyAccess, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import type { ActionResult } from "@/ui/result";
import { beginDraft, dropDraft, saveDraftValues, startClient } from "./service";

type Done = Exclude<ActionResult, null>;

const GONE: Done = { ok: false, message: "This draft is not there any more. Reload the page." };
const TAKEN = "Another client sends its texts from this number.";

/** Begins a client and opens its page of blanks. */
export async function beginClient(slug: string): Promise<void> {
  const access = await requireAgency(slug, "start clients");
  const now = await clockNow();
  const id = await withAgency(access, (tx) => beginDraft(tx, access, access.user.name, now));
  redirect(`/agency/${access.seat.slug}/start/${id}`);
}

/** Keeps what was typed so far, right or not. */
export async function saveDraft(slug: string, id: string, values: unknown): Promise<Done> {
  const access = await requireAgency(slug, "start clients");
  const parsed = clientDraft.safeParse(values);
  if (!parsed.success || !z.uuid().safeParse(id).success)
    return { ok: false, message: "Something typed is too long to be kept." };
  const now = await clockNow();
  const saved = await withAgency(access, (tx) => saveDraftValues(tx, access, access.user.name, id, parsed.data, now));
  return saved ? { ok: true } : GONE;
}

/** Throws a draft away. */
export async function throwAway(slug: string, id: string): Promise<Done> {
  const access = await requireAgency(slug, "start clients");
  if (!z.uuid().safeParse(id).success) return GONE;
  const dropped = await withAgency(access, (tx) => dropDraft(tx, access, id));
  revalidatePath("/agency", "layout");
  return dropped ? { ok: true, message: "Thrown away." } : GONE;
}

/** Makes the client of a draft, when nothing is wrong or missing; its plan then waits to be looked at and let run. */
export async function makeClient(slug: string, id: string, values: unknown): Promise<Done> {
  const access = await requireAgency(slug, "start clients");
  const draft = clientDraft.safeParse(values);
  if (!draft.success || !z.uuid().safeParse(id).success) return GONE;
  const parsed = clientFile.safeParse(fileOf(draft.data));
  if (!parsed.success) {
    const fields: Record<string, string> = {};
    for (const { path, message } of parsed.error.issues) fields[fieldOfFault(path.join("."))] ??= message;
    return { ok: false, message: "A few blanks are left, or are not right yet.", fields };
  }
  const refused = await start(access, parsed.data, id);
  return { ok: false, message: refused, fields: { textNumber: refused } };
}

/** Makes the client, and goes to its plan. Gives what stands in the way. */
async function start(access: AgencyAccess, file: ClientFile, draftId: string | null): Promise<string> {
  const started = await startClient(access, file, draftId, await clockNow());
  if (started === "text number taken") return TAKEN;
  revalidatePath("/", "layout");
  redirect(`/c/${started.slug}/asking/plans/${started.planId}`);
}

/** As large as a client file may be. */
const MOST_LETTERS = 500_000;

export type ImportResult = { faults: FileFault[]; more: number } | null;

/** Makes a client from a JSON file; tells what is wrong in it, each with its line. */
export async function importClient(slug: string, text: string): Promise<ImportResult> {
  const access = await requireAgency(slug, "start clients");
  if (typeof text !== "string" || text.length > MOST_LETTERS)
    return { faults: [{ line: 1, path: "", message: "This file is too large for one client." }], more: 0 };
  const read = readClientFile(text);
  if ("faults" in read) return { faults: read.faults.slice(0, 20), more: Math.max(0, read.faults.length - 20) };
  const refused = await start(access, read.file, null);
  return { faults: [{ line: 1, path: "textNumber", message: refused }], more: 0 };
}
