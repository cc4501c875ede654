import { may } from "@/core/access/permissions";
import { wordingsOf } from "@/core/plans/trial";
import { sayWhen } from "@/core/time/say";
import { forecastMove } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { findPlan } from "@/features/plans";
import { lastAbout } from "@/features/visits";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import type { PlanRef } from "./parts/planRef";
import { sentInMonth } from "./sentInMonth";
import { tallyWordings } from "./trials";

/** What the page of a plan chooses to show: which of its messages, and which wording of it. */
export type PlanChoice = { step: number; wording: string | undefined };

export type PlanView = NonNullable<Awaited<ReturnType<typeof loadPlanView>>>;

/**
 * A plan with its changes, as its page shows it, or null where the client has none of this id. A message that the plan
 * does not have shows the first.
 */
export async function loadPlanView(access: Access, planId: string, choice: PlanChoice, now: number) {
  const { slug, zone } = access.seat;
  const found = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const plan = await findPlan(tx, access, planId);
    if (!plan) return null;
    const rules = plan.draft ?? plan.rules;
    return {
      setting,
      plan,
      rules,
      about: await lastAbout(tx, access),
      move: plan.draft
        ? await forecastMove(tx, access, setting, plan, plan.draft, now, (at) => sayWhen(zone, at, now))
        : null,
      // What it costs is told of texts alone.
      monthly: rules.picture?.texts.length ? await sentInMonth(tx, access, plan.id, rules, now) : {},
      tallies: await tallyWordings(tx, access, plan.id, rules, now),
    };
  });
  if (!found) return null;
  const { setting, plan, rules } = found;
  const index = choice.step < rules.steps.length ? choice.step : 0;
  const step = rules.steps[index];
  const wordings = wordingsOf(step);
  const base = `/c/${slug}/asking/plans/${plan.id}`;
  const ref: PlanRef = { slug, planId: plan.id, revision: plan.revision, mayChange: may(access.seat, "change plans") };
  return {
    ...found,
    now,
    zone,
    ref,
    base,
    index,
    step,
    wordings,
    wording: wordings.find(({ key }) => key === choice.wording) ?? wordings[0],
    /** The address of the plan's page with another of its messages open. */
    stepHref: (index: number, key?: string) => `${base}?step=${index}${key && key !== "a" ? `&wording=${key}` : ""}`,
    names: {
      services: setting.services.filter(({ retired }) => !retired).map(({ id, name }) => ({ id, name })),
      branches: setting.branches.map(({ id, name }) => ({ id, name })),
      tags: setting.tags.map(({ name }) => name),
    },
  };
}
