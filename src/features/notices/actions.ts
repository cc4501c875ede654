"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { TOLD_CHOICE, TOLD_WAYS, type ToldChoice } from "@/core/notices/choices";
import { toldPath } from "@/core/notices/told";
import { toldLine } from "@/locales/told";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, readAction } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";
import { choiceOf, keepChoice, recentTellings } from "./tell";

/** "21:30" as minutes after midnight. */
const clock = z
  .string()
  .regex(/^([01]?\d|2[0-3]):[0-5]\d$/, "Enter a time, such as 8:00.")
  .transform((text) => {
    const [hours, minutes] = text.split(":").map(Number);
    return hours * 60 + minutes;
  });

/** The parts of what one is told, each as its form gives it. */
const PARTS = {
  about: (form: FormData) =>
    z
      .object({
        about: z.array(z.enum(["concerns", "notes", "conversations", "approvals", "sites"])),
        reviewsUpTo: z.coerce.number().int().min(0).max(5),
      })
      .transform(({ about, reviewsUpTo }) => ({
        concerns: about.includes("concerns"),
        notes: about.includes("notes"),
        conversations: about.includes("conversations"),
        approvals: about.includes("approvals"),
        sites: about.includes("sites"),
        reviewsUpTo,
      }))
      .safeParse({ about: formTexts(form, "about"), reviewsUpTo: formText(form, "reviewsUpTo") }),
  branches: (form: FormData) =>
    z.object({ branchIds: z.array(z.uuid()).max(200) }).safeParse({ branchIds: formTexts(form, "branchIds") }),
  ways: (form: FormData) =>
    z.object({ ways: z.array(z.enum(TOLD_WAYS)) }).safeParse({ ways: [...new Set(formTexts(form, "ways"))] }),
  when: (form: FormData) =>
    z
      .object({ when: z.enum(["at once", "hourly", "daily"], "Choose when."), dailyAt: clock })
      .safeParse({ when: formText(form, "when"), dailyAt: formText(form, "dailyAt") || "8:00" }),
  quiet: (form: FormData) =>
    formText(form, "isQuiet") === "yes"
      ? z
          .object({ from: clock, to: clock })
          .transform((quiet) => ({ quiet }))
          .safeParse({ from: formText(form, "from"), to: formText(form, "to") })
      : z
          .object({})
          .transform(() => ({ quiet: null }))
          .safeParse({}),
} as const;

/** Who somebody is at a client, as what they are told goes by it. */
const asStaff = ({ user, seat }: Access) => ({
  id: user.id,
  permissions: seat.permissions,
  isOfAgency: seat.kind === "agency" || seat.kind === "group",
});

/** Changes one part of what one is told oneself; nobody changes it for another. */
export const changeTold = action(
  atClientWith("see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const part = z.enum(Object.keys(PARTS) as (keyof typeof PARTS)[]).safeParse(formText(form, "part"));
    if (!part.success) return { ok: false, message: "That isn’t one of the choices." };
    const read = PARTS[part.data](form);
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    await withClient(access, async (tx: Tx) => {
      const before = await choiceOf(tx, access, asStaff(access));
      const choice: ToldChoice = TOLD_CHOICE.parse({ ...before, ...read.data });
      await keepChoice(tx, access, access.user.id, choice, now);
    });
    revalidatePath(`/c/${access.seat.slug}/heard/told`);
    return { ok: true, message: "Saved." };
  },
);

export type BrowserNotice = { id: string; line: string; path: string; at: number };

/** What somebody who lets their browser notify them is told since an instant (milliseconds since the epoch). */
export const newForBrowser = readAction(
  atClientWith("see heard"),
  [z.number()],
  async (access, since): Promise<BrowserNotice[]> => {
    if (!Number.isFinite(since)) return [];
    const now = await clockNow();
    return withClient(access, async (tx) => {
      const choice = await choiceOf(tx, access, asStaff(access));
      if (!choice.ways.includes("browser")) return [];
      const list = await recentTellings(tx, access, access.user.id, 5);
      return list.flatMap(({ id, seen, told, createdAt }) =>
        seen && createdAt > since
          ? [
              {
                id,
                line: toldLine(seen, { zone: access.seat.zone, now }),
                path: `/c/${access.seat.slug}${toldPath(told)}`,
                at: createdAt,
              },
            ]
          : [],
      );
    });
  },
  [],
);
