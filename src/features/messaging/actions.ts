"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { agencyClients } from "@/features/accounts";
import { bringSharedTexts } from "@/features/conversations";
import { action, atAgencyWith, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { type ActionResult, formText } from "@/ui/result";
import { receiveTextAt, settleStopWish } from "./incoming";

/** Says which client a text to a shared number is for: it becomes a conversation there, with all that came after it. */
export const bringSharedText = action(
  atAgencyWith("answer concerns", "own clients"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const clientId = formText(form, "clientId");
    const clients = await withAgency(access, (tx) => agencyClients(tx, access));
    const client = clients.find((one) => one.id === clientId);
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This text no longer exists." };
    if (!client) return { ok: false, message: "Choose which client it’s for." };
    const isDone = await bringSharedTexts(access, id, (text) => receiveTextAt(client.id, text));
    revalidatePath(`/agency/${access.seat.slug}`);
    return isDone
      ? { ok: true, message: `It’s now in ${client.name}’s Heard.` }
      : { ok: false, message: "Someone has already said who it’s for." };
  },
);

/** Says whether the writer of a conversation wants no more messages. */
export const settleStop = action(
  atClientWith("answer concerns"),
  [text, z.boolean()],
  async (access, id, stops): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This conversation doesn’t exist." };
    const now = await clockNow();
    const refused = await withClient(access, (tx) => settleStopWish(tx, access, access.user.name, id, stops, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (refused) return { ok: false, message: refused.refused };
    return { ok: true, message: stops ? "They won’t get any more messages." : "They’ll keep getting messages." };
  },
);
