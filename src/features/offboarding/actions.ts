"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { typedText } from "@/core/words/typed";
import { type AgencyAccess, atClient } from "@/platform/access";
import { action, atAgencyWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { archiveClient, findOwnClient, type OwnClient, takeBack } from "./archive";
import { beginDeletion } from "./deletion";
import { acceptHandover, endHandover, offerClient } from "./handover";

type Done = Exclude<ActionResult, null>;

const GONE: Done = { ok: false, message: "That no longer exists. Reload the page." };

/** Does something with a client of the agency; one that is not its own is not there. */
async function withOwn(
  access: AgencyAccess,
  clientId: string,
  work: (access: AgencyAccess, client: OwnClient, now: number) => Promise<Done>,
): Promise<Done> {
  if (!z.uuid().safeParse(clientId).success) return GONE;
  const client = await withAgency(access, (tx) => findOwnClient(tx, access, { id: clientId }));
  if (!client || client.deletingAt !== null) return GONE;
  const done = await work(access, client, await clockNow());
  revalidatePath("/", "layout");
  return done;
}

/** Archives a client: nothing is asked or read any more, and its own people lose access. */
export const archive = action(atAgencyWith("end clients"), [text], async (access, clientId): Promise<Done> => {
  return withOwn(access, clientId, async (access, client, now) => {
    if (client.archivedAt !== null) return { ok: false, message: "It’s already archived." };
    const { stopped } = await archiveClient(access, atClient(access, client.id), access.user, client.name, now);
    return {
      ok: true,
      message: `Archived. ${stopped === 0 ? "No asks were under way." : `${stopped} asks were stopped.`}`,
    };
  });
});

/** Takes a client back from the archive; its plans and feeds wait until somebody lets them go on. */
export const unarchive = action(atAgencyWith("end clients"), [text], async (access, clientId): Promise<Done> => {
  return withOwn(access, clientId, async (access, client, now) => {
    if (client.archivedAt === null) return { ok: false, message: "It isn’t archived." };
    await takeBack(access, atClient(access, client.id), access.user, client.name, now);
    return { ok: true, message: "Restored. Its plans are paused and its feeds are off." };
  });
});

/** Deletes a client for good. Its name has to be typed. */
export const deleteForGood = action(
  atAgencyWith("end clients"),
  [text, before<ActionResult>(), form],
  async (access, clientId, _before, form): Promise<ActionResult> => {
    const typed = formText(form, "name").trim();
    const done = await withOwn(access, clientId, async (access, client, now) => {
      if (typed.toLowerCase() !== client.name.toLowerCase()) {
        const message = `Type ${client.name} exactly as shown here.`;
        return { ok: false, message, fields: { name: message } };
      }
      const scope = atClient(access, client.id);
      if (client.archivedAt === null) await archiveClient(access, scope, access.user, client.name, now);
      const begun = await beginDeletion(access, scope, access.user, client.name, now);
      return begun ? { ok: true } : GONE;
    });
    if (!done.ok) return done;
    redirect(`/agency/${access.seat.slug}`);
  },
);

const offerInput = z.object({ to: typedText(80, "Enter the other agency’s name as it appears in its web address.") });

/** Offers a client to another agency. Nothing changes before the other one takes it. */
export const offer = action(
  atAgencyWith("end clients"),
  [text, before<ActionResult>(), form],
  async (access, clientId, _before, form): Promise<ActionResult> => {
    const parsed = offerInput.safeParse({ to: formText(form, "to") });
    const done = await withOwn(access, clientId, async (access, client, now) => {
      if (!parsed.success) return refusal(parsed.error);
      if (client.archivedAt !== null) return { ok: false, message: "Restore it first." };
      const to = parsed.data.to.toLowerCase().replace(/^.*\/agency\//, "");
      const result = await offerClient(access, access.user, access.seat.name, client, to, now);
      if (result === "to itself") {
        const message = "It’s already yours.";
        return { ok: false, message, fields: { to: message } };
      }
      if (result === "offered before")
        return { ok: false, message: "It’s already on offer. Withdraw that offer first." };
      return { ok: true, message: "Offered. If that agency exists, it’ll see the offer on its Clients page." };
    });
    return done;
  },
);

/** Takes an offer back, or says no to one. */
export const endOffer = action(atAgencyWith("end clients"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const now = await clockNow();
  const ended = await withAgency(access, (tx) => endHandover(tx, access, access.user, id, now));
  revalidatePath("/", "layout");
  return ended ? { ok: true, message: "Offer ended. The client stays where it is." } : GONE;
});

/** Takes a client that another agency offers. */
export const acceptOffer = action(atAgencyWith("start clients"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success || access.group) return GONE;
  const taken = await acceptHandover(access, access.user, id, await clockNow());
  if (!taken) return GONE;
  if (taken === "shared number")
    return {
      ok: false,
      message: "Another client of that agency texts from the same number. Ask them to change one of the two first.",
    };
  revalidatePath("/", "layout");
  return { ok: true, message: "It’s yours now. Its own staff keep their access." };
});
