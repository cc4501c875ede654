"use server";

import { eq } from "drizzle-orm";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { DOORS, type PlanRules, planRulesSchema, sendHoursSchema } from "@/core/plans/planRules";
import { parseClockTime } from "@/core/time/delay";
import { cleanText } from "@/core/words/clean";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { replanAll } from "../asks";
import { note } from "../audit";
import { clients, loadSetting } from "../clients";
import { changeRules, findPlan, setPlanState } from "../plans";

const text = (form: FormData, name: string) => formText(form, name).trim();
const number = (form: FormData, name: string) => (text(form, name) === "" ? Number.NaN : Number(text(form, name)));

const part = z.enum(["delay", "words", "rest", "fresh", "doors", "tags"]);

/** Changes one sentence of a plan. What has not left yet is planned anew; what has left stays as it was. */
export async function changePlan(slug: string, planId: string, version: number, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "change plans");
  const which = part.safeParse(form.get("part"));
  if (!which.success || !z.uuid().safeParse(planId).success) return { ok: false, message: "There is no such setting." };
  const now = await clockNow();
  const result = await withClient(access, async (tx): Promise<ActionResult> => {
    const plan = await findPlan(tx, access, planId);
    if (!plan) return { ok: false, message: "This plan is not there any more." };
    const wanted = changed(plan.rules, which.data, form);
    if ("problem" in wanted) return { ok: false, message: wanted.problem, fields: { [wanted.field]: wanted.problem } };
    const rules = planRulesSchema.safeParse(wanted.rules);
    if (!rules.success) {
      const fields: Record<string, string> = {};
      for (const issue of rules.error.issues) fields[String(issue.path.at(-1))] ??= issue.message;
      return { ok: false, message: rules.error.issues[0].message, fields };
    }
    const kept = await changeRules(tx, access, access.user.name, planId, version, rules.data, now);
    if (!kept) return { ok: false, message: "Somebody else changed this plan meanwhile. Close this, look at it, and try again." };
    await replanAll(tx, access, await loadSetting(tx), now);
    return { ok: true, message: "Kept. Messages that have not left follow it." };
  });
  revalidatePath(`/c/${slug}/asking`);
  return result;
}

type Wanted = { rules: PlanRules } | { problem: string; field: string };

function changed(rules: PlanRules, which: z.infer<typeof part>, form: FormData): Wanted {
  const index = number(form, "step");
  const step = rules.steps[index];
  const withStep = (change: Partial<PlanRules["steps"][number]>): Wanted => ({
    rules: { ...rules, steps: rules.steps.map((one, at) => (at === index ? { ...one, ...change } : one)) },
  });
  if (which === "rest") return { rules: { ...rules, restDays: number(form, "restDays") } };
  if (which === "fresh") return { rules: { ...rules, freshDays: number(form, "freshDays") } };
  if (which === "tags") return { rules: { ...rules, excludeTags: form.getAll("excludeTags").map((tag) => cleanText(String(tag)).slice(0, 60)) } };
  if (which === "doors") {
    const mode = z.enum(DOORS).safeParse(text(form, "mode"));
    if (!mode.success) return { problem: "Choose what opens.", field: "mode" };
    return {
      rules: {
        ...rules,
        doors: { mode: mode.data, threshold: number(form, "threshold"), acknowledgedBy: mode.data === "private only" ? text(form, "acknowledgedBy") || null : null },
      },
    };
  }
  if (!step) return { problem: "This message is not there any more.", field: "step" };
  if (which === "words") return withStep({ text: text(form, "text"), subject: text(form, "subject"), email: text(form, "email").replace(/\r\n/g, "\n") });
  const unit = z.enum(["minutes", "hours", "days", "weeks"]).safeParse(text(form, "unit"));
  const channel = z.enum(["text", "email"]).safeParse(text(form, "channel"));
  if (!unit.success || !channel.success) return { problem: "Choose from the list.", field: "unit" };
  const isDays = unit.data === "days" || unit.data === "weeks";
  const at = text(form, "at");
  const minutes = at ? parseClockTime(at) : null;
  if (isDays && at && (minutes === null || minutes > 1439)) return { problem: "Write the time like 10:00, or leave it empty.", field: "at" };
  return withStep({ channel: channel.data, delay: { amount: number(form, "amount"), unit: unit.data, at: isDays ? minutes : null } });
}

/** Pauses or resumes a plan. Resuming plans what was held anew. */
export async function switchPlan(slug: string, planId: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "change plans");
  const state = z.enum(["running", "paused"]).safeParse(form.get("state"));
  if (!state.success || !z.uuid().safeParse(planId).success) return { ok: false, message: "There is no such plan." };
  const now = await clockNow();
  await withClient(access, async (tx) => {
    await setPlanState(tx, access, access.user.name, planId, state.data, now);
    await replanAll(tx, access, await loadSetting(tx), now);
  });
  revalidatePath(`/c/${slug}`, "layout");
  return { ok: true, message: state.data === "paused" ? "Paused. What was planned is held." : "Running again." };
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** Sets the hours in which one channel may leave, and the closed days. An empty day is a day on which nothing leaves. */
export async function changeHours(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "change plans");
  const channel = z.enum(["text", "email"]).safeParse(form.get("channel"));
  if (!channel.success) return { ok: false, message: "There is no such channel." };
  const week: { open: number; close: number }[][] = [];
  const fields: Record<string, string> = {};
  for (const [day, name] of DAYS.entries()) {
    const typed = [text(form, `open-${day}`), text(form, `close-${day}`)];
    const [open, close] = typed.map(parseClockTime);
    if (!typed[0] && !typed[1]) week.push([]);
    else if (open === null || close === null) fields[`day-${day}`] = `${name}: write both times, like 9:00 and 19:00, or leave both empty.`;
    else if (open >= close) fields[`day-${day}`] = `${name}: closing must come after opening.`;
    else week.push([{ open, close }]);
  }
  if (Object.keys(fields).length > 0) return { ok: false, message: Object.values(fields)[0], fields };
  const closed = text(form, "closedDates")
    .split(/[\s,;]+/)
    .filter(Boolean);
  const wrong = closed.find((date) => !z.iso.date().safeParse(date).success);
  if (wrong) return { ok: false, message: `${wrong} is not a date.`, fields: { closedDates: `${wrong} is not a date. Write dates like 2026-12-24.` } };
  const now = await clockNow();
  const result = await withClient(access, async (tx): Promise<ActionResult> => {
    const { client } = await loadSetting(tx);
    const hours = sendHoursSchema.safeParse({ ...client.sendHours, [channel.data]: week });
    if (!hours.success) return refusal(hours.error);
    await tx
      .update(clients)
      .set({ sendHours: hours.data, closedDates: closed, keepsHolidays: form.get("keepsHolidays") === "on" })
      .where(eq(clients.id, access.clientId));
    await note(tx, { clientId: access.clientId, at: now, who: access.user.name, deed: "changed", subject: "send hours", details: { before: client.sendHours, after: hours.data } });
    await replanAll(tx, access, await loadSetting(tx), now);
    return { ok: true, message: "Kept. Messages that have not left follow it." };
  });
  revalidatePath(`/c/${slug}`, "layout");
  return result;
}
