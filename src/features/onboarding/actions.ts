"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { type ClientFile, clientFile, type FileFault, type readClientFile } from "@/core/onboarding/clientFile";
import { copiedFile } from "@/core/onboarding/copy";
import { clientDraft, fieldOfFault, fileOf } from "@/core/onboarding/draft";
import { placeOf } from "@/features/accounts";
import { askForSender, numberRefusal } from "@/features/clients";
import { type AgencyAccess, atClient } from "@/platform/access";
import { action, atAgencyWith, before, form, text } from "@/platform/action";
import { ApartFailed, workApart } from "@/platform/apart";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { mayTextFrom } from "@/platform/texts";
import { type ActionResult, formText } from "@/ui/result";
import { exportClient } from "./exportClient";
import { endLink, makeLink, settleProposal } from "./link";
import { beginDraft, dropDraft, saveDraftValues, startClient } from "./service";

type Done = Exclude<ActionResult, null>;

const GONE: Done = { ok: false, message: "This draft no longer exists. Reload the page." };
const TAKEN = "A client of another agency already texts from this number.";

/** Begins a client and opens its page of blanks. */
export const beginClient = action(atAgencyWith("start clients"), [], async (access): Promise<void> => {
  const now = await clockNow();
  const id = await withAgency(access, (tx) => beginDraft(tx, access, access.user.name, now));
  redirect(`/agency/${access.seat.slug}/start/${id}`);
});

/** Keeps what was typed so far, right or not. */
export const saveDraft = action(
  atAgencyWith("start clients"),
  [text, z.unknown()],
  async (access, id, values): Promise<Done> => {
    const parsed = clientDraft.safeParse(values);
    if (!parsed.success || !z.uuid().safeParse(id).success)
      return { ok: false, message: "Something you typed is too long to save." };
    const now = await clockNow();
    const saved = await withAgency(access, (tx) => saveDraftValues(tx, access, access.user.name, id, parsed.data, now));
    return saved ? { ok: true } : GONE;
  },
);

/** Throws a draft away. */
export const throwAway = action(atAgencyWith("start clients"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const dropped = await withAgency(access, (tx) => dropDraft(tx, access, id));
  revalidatePath("/agency", "layout");
  return dropped ? { ok: true, message: "Draft deleted." } : GONE;
});

/** Makes the client of a draft, when nothing is wrong or missing; its plan then waits to be looked at and let run. */
export const makeClient = action(
  atAgencyWith("start clients"),
  [text, z.unknown()],
  async (access, id, values): Promise<Done> => {
    const draft = clientDraft.safeParse(values);
    if (!draft.success || !z.uuid().safeParse(id).success) return GONE;
    const parsed = clientFile.safeParse(fileOf(draft.data));
    if (!parsed.success) {
      const fields: Record<string, string> = {};
      for (const { path, message } of parsed.error.issues) fields[fieldOfFault(path.join("."))] ??= message;
      return { ok: false, message: "Some fields are missing or need fixing.", fields };
    }
    const refused = await start(access, parsed.data, id);
    return { ok: false, message: refused.words, fields: { [refused.field]: refused.words } };
  },
);

/** Makes the client, and goes to its plan. Gives what stands in the way. */
async function start(
  access: AgencyAccess,
  file: ClientFile,
  draftId: string | null,
): Promise<{ field: string; words: string }> {
  const refused = numberRefusal(await mayTextFrom(file.textNumber));
  if (refused) return { field: "textNumber", words: refused };
  const started = await startClient(access, file, draftId, await clockNow());
  if (started === "text number taken") return { field: "textNumber", words: TAKEN };
  if ("unreadable" in started) return { field: started.unreadable, words: "We can’t read this picture." };
  const { agencyId, name, colour } = access.seat;
  await askForSender("client", started.clientId, access.user.name, { id: agencyId, name, colour });
  revalidatePath("/", "layout");
  redirect(`/c/${started.slug}/asking/plans/${started.planId}`);
}

/** Reads a client file in a process of its own; null where that takes too long. */
async function readFileApart(owner: string, text: string): Promise<ReturnType<typeof readClientFile> | null> {
  try {
    return (await workApart(owner, "client file", text)) as ReturnType<typeof readClientFile>;
  } catch (error) {
    if (error instanceof ApartFailed) return null;
    throw error;
  }
}

/** As large as a client file may be. */
const MOST_BYTES = 1_400_000;

export type ImportResult = { faults: FileFault[]; more: number } | null;

/** Makes a client from a JSON file; tells what is wrong in it, each with its line. */
export const importClient = action(
  atAgencyWith("start clients"),
  [form],
  async (access, form): Promise<ImportResult> => {
    const file = form.get("file");
    if (!(file instanceof File)) return { faults: [{ line: 1, path: "", message: "Choose a file." }], more: 0 };
    if (file.size > MOST_BYTES)
      return { faults: [{ line: 1, path: "", message: "The file is bigger than 1.4 MB." }], more: 0 };
    const read = await readFileApart(access.agencyId, await file.text());
    if (read === null)
      return {
        faults: [{ line: 1, path: "", message: "This file takes too long to read, so nothing was created." }],
        more: 0,
      };
    if ("faults" in read) return { faults: read.faults.slice(0, 20), more: Math.max(0, read.faults.length - 20) };
    const refused = await start(access, read.file, null);
    return { faults: [{ line: 1, path: refused.field, message: refused.words }], more: 0 };
  },
  { faults: [{ line: 1, path: "", message: "We couldn’t read this file, so nothing was created." }], more: 0 },
);

/** Makes a client like another of the agency's: what is the other one's own stays there (`copiedFile`). */
export const copyClient = action(
  atAgencyWith("start clients"),
  [text, before<ActionResult>(), form],
  async (access, clientId, _before, form): Promise<ActionResult> => {
    if (!z.uuid().safeParse(clientId).success) return GONE_CLIENT;
    const isOwn = await withAgency(access, async (tx) => (await placeOf(tx, access, `client ${clientId}`)) !== null);
    if (!isOwn) return GONE_CLIENT;
    const scope = atClient(access, clientId);
    const file = await withClient(scope, (tx) => exportClient(tx, scope));
    const parsed = clientFile.safeParse(
      copiedFile(file, {
        name: formText(form, "name"),
        textNumber: formText(form, "textNumber"),
        senderEmail: formText(form, "senderEmail"),
        postalAddress: formText(form, "postalAddress"),
      }),
    );
    if (!parsed.success) {
      const fields: Record<string, string> = {};
      for (const { path, message } of parsed.error.issues) fields[String(path[0])] ??= message;
      return { ok: false, message: parsed.error.issues[0].message, fields };
    }
    const refused = await start(access, parsed.data, null);
    return { ok: false, message: refused.words, fields: { [refused.field]: refused.words } };
  },
);

const GONE_CLIENT: Done = { ok: false, message: "This client no longer exists." };

export type LinkMade = { ok: false; message: string } | { ok: true; link: string };

/** Makes a link by which the client fills the draft in. */
export const letClientFill = action(atAgencyWith("start clients"), [text], async (access, id): Promise<LinkMade> => {
  if (!z.uuid().safeParse(id).success) return { ok: false, message: GONE.message ?? "" };
  const now = await clockNow();
  const token = await withAgency(access, (tx) => makeLink(tx, access, access.user.name, id, now));
  revalidatePath("/agency", "layout");
  return token
    ? { ok: true, link: `${environment().APP_URL}/fill/${token}` }
    : { ok: false, message: GONE.message ?? "" };
});

/** Ends that link. */
export const endClientLink = action(atAgencyWith("start clients"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const ended = await withAgency(access, (tx) => endLink(tx, access, id));
  revalidatePath("/agency", "layout");
  return ended ? { ok: true, message: "Ended. The link no longer works." } : GONE;
});

/** Takes over what the client filled in, or lays it aside. */
export const settleFilled = action(
  atAgencyWith("start clients"),
  [text, z.boolean()],
  async (access, id, isTaken): Promise<Done> => {
    if (!z.object({ id: z.uuid(), isTaken: z.boolean() }).safeParse({ id, isTaken }).success) return GONE;
    const now = await clockNow();
    const settled = await withAgency(access, (tx) => settleProposal(tx, access, access.user.name, id, isTaken, now));
    revalidatePath("/agency", "layout");
    if (!settled) return GONE;
    return { ok: true, message: isTaken ? "Copied into your draft." : "Ignored. Your draft stays as it is." };
  },
);
