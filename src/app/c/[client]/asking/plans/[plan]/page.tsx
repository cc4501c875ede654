import { notFound } from "next/navigation";
import { z } from "zod";
import { capital, sayDay } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "@/core/time/zone";
import { calendarOf } from "@/features/clients";
import { loadPlanView, type PlanView } from "@/features/plan-editor";
import { ANCHOR_WORDS } from "@/features/plan-editor/parts/anchorWords";
import { MovablePlan, PlanButtons } from "@/features/plan-editor/parts/PlanButtons.client";
import { PlanDraft } from "@/features/plan-editor/parts/PlanDraft";
import { PlanMargin } from "@/features/plan-editor/parts/PlanMargin";
import { BeginsSentence, NameSentence, StyleSentence } from "@/features/plan-editor/parts/PlanSentences.client";
import { RuleRows } from "@/features/plan-editor/parts/RuleRows";
import { StepSheet } from "@/features/plan-editor/parts/StepSheet";
import type { Plan } from "@/features/plans";
import { pauseWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Plan" };

type Props = {
  params: Promise<{ client: string; plan: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({
  step: z.coerce.number().int().min(0).catch(0),
  wording: z.string().optional().catch(undefined),
  as: z.enum(["email", "text"]).optional().catch(undefined),
});

export default async function PlanPage({ params, searchParams }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "see asking");
  if (!z.uuid().safeParse(planId).success) notFound();
  const now = await clockNow();
  const { step, wording, as } = query.parse(await searchParams);
  const view = await loadPlanView(access, planId, { step, wording }, now);
  if (!view) notFound();
  const { plan, rules, ref, names, zone } = view;
  return (
    <Page margin={<PlanMargin access={access} view={view} />}>
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${ref.slug}/asking`} className="button-quiet -ml-2">
          ← All plans
        </Link>
      </p>
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div className="min-w-0 flex-1 basis-[320px]">
          <h1 className="title">{titleOf(plan)}</h1>
          <p className="lead">
            {stateOf(plan, zone, now)} {ref.mayChange ? <NameSentence plan={ref} name={plan.name} /> : null}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link href={`${view.base}/words`} className="button">
            What customers see
          </Link>
          <Link href={`${view.base}/rehearsal`} className="button">
            Rehearse
          </Link>
          {ref.mayChange ? <PlanButtons slug={ref.slug} planId={plan.id} state={plan.state} /> : null}
        </div>
      </div>
      <PlanDraft view={view} />
      <p className="mt-5 text-[16.5px] leading-[1.75]">
        When <BeginsSentence plan={ref} begins={rules.begins} names={names} />, this plan{" "}
        <StyleSentence plan={ref} rules={rules} />.
      </p>
      <div className="mt-3">
        <PlanOnRuler view={view} />
      </div>
      <StepSheet view={view} as={as} />
      <RuleRows view={view} />
    </Page>
  );
}

/** The plan drawn for a visit that ends at eleven today. */
function PlanOnRuler({ view: { rules, ref, setting, zone, now, index, stepHref } }: { view: PlanView }) {
  const calendar = calendarOf(setting, setting.branches[0]?.id ?? "", now);
  return (
    <MovablePlan
      plan={ref}
      rules={rules}
      calendar={{ ...calendar, closedDays: [...calendar.closedDays] }}
      anchorAt={fromLocal(zone, dayNumber(toLocal(zone, now)) * DAY + 11 * HOUR)}
      anchorName={ANCHOR_WORDS[rules.begins.kind].name}
      gapMinutes={setting.client.gapMinutes}
      current={index}
      hrefs={rules.steps.map((_, each) => stepHref(each))}
    />
  );
}

function titleOf({ name, state, pausedWhy }: Plan): string {
  const says = {
    draft: "hasn’t started yet.",
    running: "is running.",
    paused: pausedWhy ? "has paused itself." : "is paused.",
    archived: "is archived.",
  };
  return `${name} ${says[state]}`;
}

function stateOf(plan: Plan, zone: string, now: number): string {
  if (plan.state === "draft") return "It won’t ask anyone until you start it.";
  if (plan.state === "archived") return "It won’t start any new asks; those under way will finish.";
  if (plan.state === "paused")
    return plan.pausedWhy
      ? `${capital(pauseWords(plan.pausedWhy))}. Planned messages are on hold.`
      : "Nothing goes out; planned messages are on hold.";
  return `Since ${sayDay(zone, plan.runningSince, now)}, version ${plan.version}. Changes aren’t live until you apply them.`;
}
