"use server";

import { revalidatePath } from "next/cache";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayPhone } from "@/core/contacts/phone";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { nameOf, searchPeople } from "@/features/people";
import { action, anyone, atClientWith, before, form, readAction, signedInUser, text } from "@/platform/action";
import { endAtPhone } from "@/platform/atPhone";
import { auth } from "@/platform/auth";
import { beginSkip, demoClockState } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { addJob } from "@/platform/jobs";
import { endSeenAs } from "@/platform/seenAs";
import { type ActionResult, formText } from "@/ui/result";
import { nextMessageDue } from "./nextMessage";

export const signOut = readAction(anyone, [], async (): Promise<void> => {
  await (await auth()).api.signOut({ headers: await headers() });
  redirect("/sign-in");
});

/** Ends every session of this person, on every device. */
export const signOutEverywhere = readAction(anyone, [], async (): Promise<void> => {
  await (await auth()).api.revokeSessions({ headers: await headers() });
  redirect("/sign-in");
});

/** Looks as oneself again. */
export const stopLooking = readAction(anyone, [], async (): Promise<void> => {
  await endSeenAs();
  redirect("/");
});

/** Gives a shared phone back: it only asks again. */
export const giveBack = readAction(anyone, [], async (): Promise<void> => {
  await endAtPhone();
  redirect("/");
});

const skipInput = z.object({ by: z.enum(["hour", "message", "morning"]) });

/** Sends the demo clock ahead. Only in demo mode; two clicks at once are one skip. */
export const skipClock = action(
  signedInUser,
  [before<ActionResult>(), form],
  async ({ seats }, _before, form): Promise<ActionResult> => {
    if (!environment().ESTIMA_DEMO || !seats.some((seat) => may(seat, "move the demo clock")))
      return { ok: false, message: "There’s no demo clock here." };
    const parsed = skipInput.safeParse({ by: formText(form, "by") });
    if (!parsed.success) return { ok: false, message: "Choose how far to skip." };
    const { now, skippingTo } = await demoClockState();
    if (skippingTo !== null) return { ok: true };
    const zone = seats[0].zone;
    let to = now + HOUR;
    if (parsed.data.by === "morning") to = fromLocal(zone, (dayNumber(toLocal(zone, now)) + 1) * DAY + 9 * HOUR);
    if (parsed.data.by === "message") {
      const due = await nextMessageDue();
      if (due === null) return { ok: false, message: "No messages are planned." };
      to = Math.max(now + 1000, due + 1000);
    }
    if (await beginSkip(to)) await addJob("skip", { from: now, to }, "skip");
    revalidatePath("/", "layout");
    return { ok: true };
  },
);

/** People for the palette: at most eight that match what is typed. */
export const findPeople = readAction(
  atClientWith("see people"),
  [text],
  async (access, typed): Promise<{ id: string; name: string; reach: string }[]> => {
    const query = z.string().max(100).transform(cleanText).catch("").parse(typed);
    const found = await withClient(access, (tx) => searchPeople(tx, query, 8));
    return found.map((person) => ({
      id: person.id,
      name: nameOf(person),
      reach: [person.phone && sayPhone(person.phone), person.email].filter(Boolean).join(" · "),
    }));
  },
  [],
);

/** What the demo clock shows, for the masthead while it skips. */
export const readClock = readAction(
  signedInUser,
  [],
  async (): Promise<{ now: number; skippingTo: number | null; skipFrom: number | null }> => {
    return demoClockState();
  },
);
