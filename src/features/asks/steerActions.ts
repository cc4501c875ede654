"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { capital, sayCount } from "@/core/time/say";
import { action, atClientWith, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import type { ActionResult } from "@/ui/result";
import { MOST_STEERED, outsideHours, STEERS, type Steer, steer } from "./steer";

const wanted = z
  .array(z.uuid())
  .min(1, "Select at least one.")
  .max(MOST_STEERED, `No more than ${MOST_STEERED} at a time.`);

const DONE: Record<Steer, (count: string) => string> = {
  "send now": (count) => `${count} will go out as soon as the send hours allow.`,
  "send now at any hour": (count) => `${count} will go out now.`,
  hold: (count) => `${count} put on hold.`,
  release: (count) => `${count} released.`,
  cancel: (count) => `${count} cancelled.`,
  "send again": (count) => `${count} will be sent again.`,
};

/** How many of these asks lie outside the send hours now: asked before somebody sends them. */
export const lookAtHours = readAction(
  atClientWith("ask many"),
  [z.array(text)],
  async (access, askIds): Promise<{ asks: number; outside: number } | null> => {
    const ids = wanted.safeParse(askIds);
    if (!ids.success) return null;
    const now = await clockNow();
    return withClient(access, (tx) => outsideHours(tx, access, ids.data, now));
  },
  null,
);

/** Does one action with these asks, and says what it could not be done with. */
export const steerAsks = action(
  atClientWith("ask many"),
  [z.enum(STEERS), z.array(text)],
  async (access, action, askIds): Promise<Exclude<ActionResult, null>> => {
    const ids = wanted.safeParse(askIds);
    if (!ids.success) return { ok: false, message: ids.error.issues[0].message };
    const now = await clockNow();
    const result = await withClient(access, (tx) => steer(tx, access, access.user.name, action, ids.data, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    const passed = result.passed.map(({ why, count }) => `${count} ${why}`).join(", ");
    if (result.done === 0) return { ok: false, message: `Nothing was changed: ${passed || "these no longer exist"}.` };
    return {
      ok: true,
      message: `${capital(DONE[action](sayCount(result.done, "ask")))}${passed ? ` Skipped: ${passed}.` : ""}`,
    };
  },
);
