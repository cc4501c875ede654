"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { checkQuestion } from "@/core/plans/check";
import { sendHoursSchema } from "@/core/plans/planRules";
import { dayText } from "@/core/time/range";
import { WEEKDAYS } from "@/core/time/say";
import { readHours } from "@/core/time/sayHours";
import type { OpenHours } from "@/core/time/sendHours";
import { clearAllowances, replanAll } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { changeClient, loadSetting, regionsOf, type Setting, setRegion } from "@/features/clients";
import { action, atClientWith, before, form } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import type { clients } from "@/schema/clients";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { changedRules, emptyRules } from "./changes";

/** What holds for every plan of a client, and for the answers that no plan asked for. */

const text = (form: FormData, name: string) => formText(form, name).trim();

const whole = (most: number, name: string) =>
  z.coerce
    .number(`${name}: use a number.`)
    .int(`${name}: use a whole number.`)
    .min(0, `${name}: not below 0.`)
    .max(most, `${name}: at most ${most}.`);
const limit = (most: number, name: string) =>
  z.union([
    z.literal("").transform(() => null),
    whole(most, name).pipe(z.number().min(1, `${name}: at least 1, or blank for no limit.`)),
  ]);

const clientRules = {
  rest: z.object({ restDays: whole(3650, "Days") }),
  consent: z.object({ needsConsent: z.enum(["yes", "no"]) }),
  price: z.object({
    price: z.coerce
      .number("Enter a price like 0.04.")
      .min(0, "The price can’t be negative.")
      .max(100, "At most 100.")
      .transform((price) => Math.round(price * 1000)),
    mediaPrice: z.coerce
      .number("Enter a price like 0.12.")
      .min(0, "The price can’t be negative.")
      .max(100, "At most 100.")
      .transform((price) => Math.round(price * 1000)),
    currency: z.enum(["GBP", "EUR", "USD", "CAD", "AUD", "NZD", "CHF"]),
  }),
  gap: z.object({ gapMinutes: whole(20_160, "Minutes") }),
  ceiling: z.object({ textsAnHour: limit(100_000, "Texts"), emailsAnHour: limit(100_000, "Emails") }),
  allowance: z.object({
    textsAMonth: limit(10_000_000, "Texts"),
    emailsAMonth: limit(10_000_000, "Emails"),
    usedUp: z.enum(["hold", "leave out"]),
  }),
} as const;

/** Changes what holds for every plan of the client. Messages that have not left follow it. */
export const changeClientRules = action(
  atClientWith("change plans"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const part = z.enum(["rest", "consent", "gap", "ceiling", "allowance", "price"]).safeParse(formText(form, "part"));
    if (!part.success) return { ok: false, message: "This setting doesn’t exist." };
    const read = clientRules[part.data].safeParse(
      Object.fromEntries([...form.keys()].map((name) => [name, text(form, name)])),
    );
    if (!read.success) return refusal(read.error);
    const values = read.data as Partial<Setting["client"]> & {
      needsConsent?: unknown;
      usedUp?: unknown;
      price?: number;
    };
    const { usedUp, needsConsent, price, ...rest } = values;
    const change: Partial<typeof clients.$inferInsert> = {
      ...rest,
      ...(needsConsent === undefined ? {} : { needsConsent: needsConsent === ("yes" as unknown) }),
      ...(price === undefined ? {} : { partPrice: price }),
      ...(usedUp === undefined ? {} : { leavesOutWhenUsedUp: usedUp === "leave out" }),
    };
    const now = await clockNow();
    await withClient(access, async (tx) => {
      const { client } = await loadSetting(tx);
      const before = Object.fromEntries(Object.keys(change).map((name) => [name, client[name as keyof typeof client]]));
      await changeClient(tx, access, change);
      await recordAudit(tx, {
        clientId: access.clientId,
        at: now,
        who: access.user.name,
        action: "changed",
        subject: "rules for every plan",
        details: { before, after: change },
      });
      // A raised allowance lets go what waited for the next month.
      if (part.data === "allowance") await clearAllowances(tx, access);
      await replanAll(tx, access, await loadSetting(tx), now);
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Saved. It applies to messages that haven’t gone out yet." };
  },
);

/**
 * Sets the hours in which one channel may leave, and the closed days. An empty day is a day on which nothing leaves.
 */
export const changeHours = action(
  atClientWith("change plans"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const channel = z.enum(["text", "email"]).safeParse(formText(form, "channel"));
    if (!channel.success) return { ok: false, message: "That channel doesn’t exist." };
    const week: OpenHours[][] = [];
    const fields: Record<string, string> = {};
    for (const [day, name] of WEEKDAYS.entries()) {
      const read = readHours(text(form, `day-${day}`));
      if ("wrong" in read) fields[`day-${day}`] = `${name}: ${read.wrong}.`;
      else week.push(read.hours);
    }
    if (Object.keys(fields).length > 0) return { ok: false, message: Object.values(fields)[0], fields };
    const closed = text(form, "closedDates")
      .split(/[\s,;]+/)
      .filter(Boolean);
    const wrong = closed.find((date) => !dayText.safeParse(date).success);
    if (wrong)
      return {
        ok: false,
        message: `${wrong} isn’t a date.`,
        fields: { closedDates: `${wrong} isn’t a date. Enter dates like 2026-12-24.` },
      };
    const now = await clockNow();
    const result = await withClient(access, async (tx): Promise<ActionResult> => {
      const { client, branches } = await loadSetting(tx);
      const hours = sendHoursSchema.safeParse({ ...client.sendHours, [channel.data]: week });
      if (!hours.success) return refusal(hours.error);
      const regions = regionsOf(client.country);
      for (const branch of branches) {
        const region = formText(form, `region-${branch.id}`);
        if (regions.some(({ code }) => code === region)) await setRegion(tx, access, branch.id, region);
      }
      await changeClient(tx, access, {
        sendHours: hours.data,
        closedDates: closed,
        keepsHolidays: formText(form, "keepsHolidays") === "on",
      });
      await recordAudit(tx, {
        clientId: access.clientId,
        at: now,
        who: access.user.name,
        action: "changed",
        subject: "send hours",
        details: { before: client.sendHours, after: hours.data },
      });
      await replanAll(tx, access, await loadSetting(tx), now);
      return { ok: true, message: "Saved. It applies to messages that haven’t gone out yet." };
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return result;
  },
);

/** Changes what the page of every standing link asks, or what it opens. */
export const changeLinkRules = action(
  atClientWith("set up", "whole client", "see asking"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const part = z.enum(["question", "doors"]).safeParse(formText(form, "part"));
    if (!part.success) return { ok: false, message: "This setting doesn’t exist." };
    const now = await clockNow();
    const result = await withClient(access, async (tx): Promise<ActionResult> => {
      const { client } = await loadSetting(tx);
      const before = client.openAnswers ?? PLAIN_ANSWER_RULES;
      // Read and checked as a plan's own rules are.
      const { question, more, doors } = before;
      const wanted = changedRules({ ...emptyRules([]), question, more, doors }, part.data, form);
      if ("message" in wanted) return { ok: false, ...wanted };
      const after = { ...before, question: wanted.rules.question, more: wanted.rules.more, doors: wanted.rules.doors };
      const wrong = checkQuestion(after)[0];
      if (wrong) return { ok: false, message: wrong.says };
      await changeClient(tx, access, { openAnswers: after });
      await recordAudit(tx, {
        clientId: access.clientId,
        at: now,
        who: access.user.name,
        action: "changed",
        subject: "standing link",
        details: { name: part.data },
      });
      return { ok: true, message: "Saved." };
    });
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return result;
  },
);
