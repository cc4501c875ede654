import type { Rehearsal, RehearsedMessage, RehearsedPlan, RehearsedVerdict } from "@/core/asks/rehearsal";
import { rehearse } from "@/core/asks/rehearse";
import { beginsAtMoment, type PlanRules } from "@/core/plans/planRules";
import { carriesPicture } from "@/core/words/namedPicture";
import { partsOfRehearsed } from "@/features/asks";
import type { Setting } from "@/features/clients";
import type { RehearsalStage } from "./rehearsalStage";

export { type RehearsalStage, stageRehearsal } from "./rehearsalStage";
export type { RehearsalSource } from "./rehearsedVisits";

/** Runs one version of a plan, in its place among the others, on the stage. */
export function runRehearsal(stage: RehearsalStage, planId: string, rules: PlanRules): Rehearsal {
  const plans = stage.plans
    .filter(({ id, state }) => id === planId || state === "running" || state === "paused")
    .map(({ id, name, state, rules: own }): RehearsedPlan => {
      if (id !== planId) return { id, name, state, rules: own };
      // A plan that begins with a tag, with time or by hand is shown on the visits that the stage made for it.
      const onVisits = beginsAtMoment(rules.begins.kind) || rules.begins.kind === "by hand";
      return {
        id,
        name,
        state: "running",
        rules: onVisits
          ? {
              ...rules,
              begins: { kind: "visit", services: [], branches: [], kinds: [] },
              asksAgain: rules.begins.kind === "put right",
            }
          : rules,
      };
    });
  const alone = beginsAtMoment(rules.begins.kind) || rules.begins.kind === "by hand";
  return rehearse({
    plans: alone ? plans.filter(({ id }) => id === planId) : plans,
    visits: stage.visits,
    people: stage.people,
    client: stage.client,
    underWay: stage.underWay,
    now: stage.now,
    until: stage.until,
    partsOf: (message) => partsOfRehearsed(stage, message),
  });
}

/** What a text costs, in thousandths of the client's currency. */
function costOf({ rules, step, parts }: RehearsedMessage, { client }: Setting): number {
  const isMedia = carriesPicture(rules.picture, rules.steps[step].key, "text");
  return isMedia ? client.mediaPrice : (parts ?? 1) * client.partPrice;
}

/** The numbers of a rehearsal of one plan. */
export type RehearsalSum = {
  visits: number;
  asked: number;
  joined: number;
  messages: number;
  texts: number;
  emails: number;
  parts: number;
  /** In the client's currency. */
  cost: number;
  leftOut: { reason: NonNullable<RehearsedVerdict["reason"]>; count: number }[];
  elsewhere: number;
  unsent: number;
  waiting: number;
  lastAt: number | null;
  days: { day: string; text: number; email: number }[];
};

/** Sums up what a rehearsal says of one plan. */
export function sumUp(
  stage: RehearsalStage,
  planId: string,
  rehearsal: Rehearsal,
  dayOf: (at: number) => string,
): RehearsalSum {
  const own = rehearsal.messages.filter((message) => message.planId === planId && !message.underWay);
  const verdicts = rehearsal.verdicts.filter((verdict) => verdict.planId === planId);
  const days = new Map<string, { text: number; email: number }>();
  for (const { at, channel } of own) {
    const day = dayOf(at);
    const found = days.get(day) ?? { text: 0, email: 0 };
    found[channel] += 1;
    days.set(day, found);
  }
  const reasons = new Map<NonNullable<RehearsedVerdict["reason"]>, number>();
  for (const { reason } of verdicts) if (reason) reasons.set(reason, (reasons.get(reason) ?? 0) + 1);
  const texts = own.filter(({ channel }) => channel === "text");
  const parts = texts.reduce((sum, message) => sum + (message.parts ?? 1), 0);
  const mine = new Set(verdicts.map(({ visitId }) => visitId));
  return {
    visits: verdicts.length,
    asked: verdicts.filter(({ reason, joins }) => !reason && !joins).length,
    joined: verdicts.filter(({ joins }) => joins).length,
    messages: own.length,
    texts: texts.length,
    emails: own.length - texts.length,
    parts,
    cost: texts.reduce((sum, message) => sum + costOf(message, stage.setting), 0) / 1000,
    leftOut: [...reasons].map(([reason, count]) => ({ reason, count })).sort((a, b) => b.count - a.count),
    elsewhere: rehearsal.verdicts.length - verdicts.length,
    unsent: rehearsal.unsent.filter(({ visitIds }) => visitIds.some((id) => mine.has(id))).length,
    waiting: rehearsal.waiting,
    lastAt: own.at(-1)?.at ?? null,
    days: [...days].map(([day, counts]) => ({ day, ...counts })).sort((a, b) => (a.day < b.day ? -1 : 1)),
  };
}
