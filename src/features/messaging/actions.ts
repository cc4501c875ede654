"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { agencyClients } from "@/features/accounts";
import { bringSharedTexts } from "@/features/conversations";
import { action, atAgencyWith, before, form, text } from "@/platform/action";
import { withAgency } from "@/platform/database";
import { type ActionResult, formText } from "@/ui/result";
import { receiveTextAt } from "./incoming";

/** Says which client a text to a shared number is for: it becomes a conversation there, with all that came after it. */
export const bringSharedText = action(
  atAgencyWith("answer concerns", "own clients"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const clientId = formText(form, "clientId");
    const clients = await withAgency(access, (tx) => agencyClients(tx, access));
    const client = clients.find((one) => one.id === clientId);
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "There is no such text." };
    if (!client) return { ok: false, message: "Choose the client it is for." };
    const isDone = await bringSharedTexts(access, id, (text) => receiveTextAt(client.id, text));
    revalidatePath(`/agency/${access.seat.slug}`);
    return isDone
      ? { ok: true, message: `It stands under Heard of ${client.name} now.` }
      : { ok: false, message: "Somebody has said meanwhile whom it is for." };
  },
);
