"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { action, atClientWith, text } from "@/platform/action";
import { withClient } from "@/platform/database";
import type { ActionResult } from "@/ui/result";
import { settleAutomated } from "./openAnswers";

/** Says of an answer that looked automated whether a person wrote it. */
export const settle = action(
  atClientWith("answer concerns"),
  [text, z.boolean()],
  async (access, id, isPerson): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "There’s no such answer." };
    const isDone = await withClient(access, (tx) => settleAutomated(tx, access, id, isPerson === true));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!isDone) return { ok: false, message: "Someone has already decided about this answer." };
    return { ok: true, message: isPerson === true ? "Counted as a person’s answer." : "Taken off this list." };
  },
);
