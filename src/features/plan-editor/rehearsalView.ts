import { z } from "zod";
import { dayText } from "@/core/time/range";
import { DAY, dayNumber, formatDay, fromLocal, parseDay, toLocal } from "@/core/time/zone";
import { calendarOf, loadSetting } from "@/features/clients";
import { recentIntakes } from "@/features/intake";
import { findPlan, listVersions, type Plan } from "@/features/plans";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { runRehearsal, sumUp } from "./rehearsal";
import { stageRehearsal } from "./rehearsalStage";
import type { RehearsalSource } from "./rehearsedVisits";

const day = dayText.nullable().catch(null);
const which = z
  .string()
  .regex(/^(draft|force|v\d{1,5})$/)
  .nullable()
  .catch(null);
/** What the address of a rehearsal chooses: on which visits, of which version, and what is listed. */
export const rehearsalQuery = z.object({
  on: z.enum(["past", "booked", "list"]).catch("past"),
  from: day,
  to: day,
  list: z.uuid().nullable().catch(null),
  version: which,
  against: which,
  day: z.coerce.number().int().min(0).max(99_999).nullable().catch(null),
  show: z.enum(["messages", "left out"]).catch("messages"),
  reason: z.string().max(60).nullable().catch(null),
});

export type RehearsalChoice = z.output<typeof rehearsalQuery>;

/** How many days back visits can be rehearsed on. */
const MOST_BACK = 730;

export type RehearsalView = NonNullable<Awaited<ReturnType<typeof loadRehearsal>>>;

/** A plan rehearsed as the address says, and beside another version if wanted; null where there is no such plan. */
export async function loadRehearsal(access: Access, planId: string, wanted: RehearsalChoice, now: number) {
  const { slug, zone } = access.seat;
  const today = dayNumber(toLocal(zone, now));
  const period = periodOf(wanted, today);
  const source = sourceOf(wanted, period, zone, now);
  const began = performance.now();
  const staged = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const plan = await findPlan(tx, access, planId);
    if (!plan) return null;
    const versions = await listVersions(tx, access, plan.id);
    const rules = rulesOf(plan, versions, wanted.version);
    const lists = (await recentIntakes(tx, access, 15)).filter(
      ({ state }) => state === "ready" || state === "imported",
    );
    return {
      setting,
      plan,
      versions,
      rules,
      against: wanted.against ? rulesOf(plan, versions, wanted.against) : null,
      stage: source && (await stageRehearsal(tx, access, setting, rules, source, now)),
      lists,
    };
  });
  if (!staged) return null;
  const { plan, stage, rules, against, setting } = staged;
  const dayOf = (at: number) => formatDay(dayNumber(toLocal(zone, at)));
  const rehearsal = stage && runRehearsal(stage, plan.id, rules);
  const other = stage && against && runRehearsal(stage, plan.id, against);
  return {
    ...staged,
    ...period,
    rehearsal,
    sum: stage && rehearsal && sumUp(stage, plan.id, rehearsal, dayOf),
    otherSum: stage && other && sumUp(stage, plan.id, other, dayOf),
    calendar: calendarOf(setting, setting.branches[0]?.id ?? "", now),
    seconds: (performance.now() - began) / 1000,
    base: `/c/${slug}/asking/plans/${plan.id}`,
    slug,
    zone,
    now,
    today,
    wanted,
  };
}

/** The days of past visits, whole local days since 1970: the last seven where none are chosen. */
function periodOf({ from, to }: RehearsalChoice, today: number) {
  const fromDay = Math.max(today - MOST_BACK, Math.min(today, from ? parseDay(from) : today - 7));
  return { fromDay, toDay: Math.max(fromDay, Math.min(today, to ? parseDay(to) : today)) };
}

function sourceOf(
  { on, list }: RehearsalChoice,
  { fromDay, toDay }: { fromDay: number; toDay: number },
  zone: string,
  now: number,
): RehearsalSource | null {
  const midnight = (day: number) => fromLocal(zone, day * DAY);
  if (on === "past") return { kind: "past", from: midnight(fromDay), to: Math.min(now, midnight(toDay + 1)) };
  if (on === "booked") return { kind: "booked", days: 14 };
  return list ? { kind: "list", id: list } : null;
}

/** The rules by the name of a version: "draft", "force" for what is in force, or "v" and its number. */
function rulesOf(plan: Plan, versions: Awaited<ReturnType<typeof listVersions>>, name: string | null) {
  if (name === "force") return plan.rules;
  if (name?.startsWith("v")) return versions.find(({ version }) => `v${version}` === name)?.rules ?? plan.rules;
  return plan.draft ?? plan.rules;
}
