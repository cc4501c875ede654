"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { dayText } from "@/core/time/range";
import { DAY, fromLocal, parseDay } from "@/core/time/zone";
import { typedText } from "@/core/words/typed";
import { action, atClientWith, before, form } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { pauseClient, resumeClient } from "./pause";

const input = z.object({
  why: typedText(200, "Give a reason for your team.", "the reason"),
  until: z.union([z.literal(""), dayText], "Choose a day."),
});

/** Pauses everything of a client, until a day or until somebody goes on. */
export const pauseEverything = action(
  atClientWith("pause everything"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const parsed = input.safeParse({ why: formText(form, "why"), until: formText(form, "until") });
    if (!parsed.success) return refusal(parsed.error);
    const now = await clockNow();
    const { why, until } = parsed.data;
    const at = until ? fromLocal(access.seat.zone, parseDay(until) * DAY) : null;
    if (at !== null && at <= now) {
      const message = "Choose a date after today.";
      return { ok: false, message, fields: { until: message } };
    }
    await withClient(access, (tx) => pauseClient(tx, access, access.user.name, { until: at, why }, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Everything is paused. Nothing will go out." };
  },
);

/** Lets a client go on. */
export const goOn = action(
  atClientWith("pause everything"),
  [],
  async (access): Promise<Exclude<ActionResult, null>> => {
    const now = await clockNow();
    const resumed = await withClient(access, (tx) => resumeClient(tx, access, access.user.name, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return resumed
      ? { ok: true, message: "Resumed. Messages that aren’t too old go out in the send hours." }
      : { ok: false, message: "Nothing is paused." };
  },
);
