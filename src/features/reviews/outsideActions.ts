"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { OutsideRequest } from "@/core/replies/outsideDraft";
import { webAddress } from "@/core/web/address";
import { action, atClientWith, before, form, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { draftFromOutside, type OutsideDraft, outsideRequestFor, setTextService } from "./outside";

const isKey = (id: string) => z.uuid().safeParse(id).success;

/** What would be sent to the text service for a review; null where there is no such review. */
export const showOutside = readAction(
  atClientWith("draft replies"),
  [text],
  async (access, reviewId): Promise<OutsideRequest | null> => {
    return isKey(reviewId) ? outsideRequestFor(access, reviewId) : null;
  },
  null,
);

/** A draft from the text service, or why there is none. */
export const askOutside = action(
  atClientWith("draft replies"),
  [text],
  async (access, reviewId): Promise<OutsideDraft> => {
    return isKey(reviewId) ? draftFromOutside(access, reviewId) : { problem: "not set up" };
  },
  { problem: "not reached" },
);

/** Sets up an outside text service, or switches it off. */
export const changeTextService = action(
  atClientWith("set up", "whole client", "see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const now = await clockNow();
    const who = access.user.name;
    if (formText(form, "isOn") !== "yes") {
      await withClient(access, (tx) => setTextService(tx, access, who, null, now));
      revalidatePath(`/c/${access.seat.slug}/heard`, "layout");
      return { ok: true, message: "Turned off. Nothing more is sent." };
    }
    const read = z
      .object({
        address: z.string().transform((typed, context) => {
          const address = webAddress(typed);
          if (address) return address;
          context.addIssue({ code: "custom", message: "Enter an address that begins with https://." });
          return z.NEVER;
        }),
        key: z.string().trim().max(500, "Keep the key under 500 characters."),
      })
      .safeParse({ address: formText(form, "address"), key: formText(form, "key") });
    if (!read.success) return refusal(read.error);
    const isDone = await withClient(access, (tx) => setTextService(tx, access, who, read.data, now));
    revalidatePath(`/c/${access.seat.slug}/heard`, "layout");
    if (isDone) return { ok: true, message: "Set up. Nothing is sent until someone asks for a draft." };
    const message = "Paste the key the service gave you.";
    return { ok: false, message, fields: { key: message } };
  },
);
