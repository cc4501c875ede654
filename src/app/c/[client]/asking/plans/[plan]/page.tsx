import Link from "next/link";
import { notFound } from "next/navigation";
import { Suspense } from "react";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { differences } from "@/core/plans/differences";
import type { PlanRules } from "@/core/plans/planRules";
import { sayCondition, sayStepChannel } from "@/core/plans/sayRules";
import { wordingsOf } from "@/core/plans/trial";
import { capital, sayCount, sayDay, sayWhen } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "@/core/time/zone";
import { composeAsk } from "@/core/words/compose";
import { PLACEHOLDERS } from "@/core/words/placeholders";
import { textParts } from "@/core/words/textParts";
import { forecastMove } from "@/features/asks";
import { calendarOf, hoursOf, loadSetting } from "@/features/clients";
import { tallyWordings } from "@/features/plan-editor";
import {
  FirstSentence,
  FreshSentence,
  HouseholdsSentence,
  PortionsSentence,
  RepeatSentence,
  TagsSentence,
} from "@/features/plan-editor/parts/AskedSentences.client";
import { HoursSentence } from "@/features/plan-editor/parts/ClientSentences.client";
import { DoorsSentence, SitesSentence } from "@/features/plan-editor/parts/DoorSentences.client";
import { Findings } from "@/features/plan-editor/parts/Findings";
import { LastWeek } from "@/features/plan-editor/parts/LastWeek";
import { StepButton, StepSentence, WordsSentence } from "@/features/plan-editor/parts/MessageSentences.client";
import { LookAgain, MovablePlan, PlanButtons, PutInForce } from "@/features/plan-editor/parts/PlanButtons.client";
import { BeginsSentence, NameSentence, StyleSentence } from "@/features/plan-editor/parts/PlanSentences.client";
import type { PlanRef } from "@/features/plan-editor/parts/planRef";
import { Trial } from "@/features/plan-editor/parts/Trial";
import { findPlan, type Plan } from "@/features/plans";
import { lastAbout } from "@/features/visits";
import { pauseWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { answerLink } from "@/platform/customerLinks";
import { withClient } from "@/platform/database";
import { Note, Page, Row } from "@/ui/Page";

export const metadata = { title: "Plan" };

type Props = {
  params: Promise<{ client: string; plan: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const ANCHORS: Record<PlanRules["begins"]["kind"], { name: string; says: string }> = {
  visit: { name: "visit", says: "the visit ends" },
  invoice: { name: "invoice", says: "the invoice is paid" },
  tag: { name: "tag", says: "they get the tag" },
  customer: { name: "anniversary", says: "that day" },
  list: { name: "list", says: "the list is dropped off" },
  "by hand": { name: "asked", says: "somebody asks" },
};

export default async function PlanPage({ params, searchParams }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "view");
  if (!z.uuid().safeParse(planId).success) notFound();
  const now = await clockNow();
  const { slug, zone, role } = access.seat;
  const mayChange = may(role, "change plans");
  const search = await searchParams;
  const seen = await withClient(access, async (tx) => {
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
      tallies: await tallyWordings(tx, access, plan.id, rules, now),
    };
  });
  if (!seen) notFound();
  const { setting, plan, rules } = seen;
  const wanted = z.coerce
    .number()
    .int()
    .min(0)
    .max(rules.steps.length - 1)
    .catch(0)
    .parse(search.step ?? 0);
  const step = rules.steps[wanted];
  const wordings = wordingsOf(step);
  const wording = wordings.find(({ key }) => key === search.wording) ?? wordings[0];
  const base = `/c/${slug}/asking/plans/${plan.id}`;
  const stepHref = (index: number, key?: string) =>
    `${base}?step=${index}${key && key !== "a" ? `&wording=${key}` : ""}`;
  const ref: PlanRef = { slug, planId: plan.id, revision: plan.revision, mayChange };
  const calendar = calendarOf(setting, setting.branches[0]?.id ?? "", now);
  const anchor = ANCHORS[rules.begins.kind];
  const day = dayNumber(toLocal(zone, now));
  const anchorAt = fromLocal(zone, day * DAY + 11 * HOUR);
  const facts = {
    person: { given: "Odette", family: "Marsh" },
    business: setting.client.name,
    branch: setting.branches[0]?.name ?? "",
    service: setting.services.find(({ neverAsk }) => !neverAsk)?.name ?? "visit",
    about: seen.about,
    teamMember: setting.team[0]?.name ?? null,
  };
  const shownChannel = step.channel === "email" ? "email" : "text";
  const shown = search.as === "email" || search.as === "text" ? search.as : shownChannel;
  const words = composeAsk(wording, shown, facts, answerLink("k7q2m9wx4tzr3n", wanted));
  const parts = shown === "text" ? textParts(words.body) : null;
  const names = {
    services: setting.services.filter(({ retired }) => !retired).map(({ id, name }) => ({ id, name })),
    branches: setting.branches.map(({ id, name }) => ({ id, name })),
    tags: setting.tags.map(({ name }) => name),
  };
  const nameOf = (id: string) =>
    [...names.services, ...names.branches].find((one) => one.id === id)?.name ?? "something gone";
  const isFeeling = rules.style === "how it went first";
  const last = rules.steps.length - 1;
  return (
    <Page
      margin={
        <>
          <Note title="Before it can run">
            <Suspense fallback={<p className="text-second">Following the review links …</p>}>
              <Findings access={access} planId={plan.id} looks={mayChange} stepHref={stepHref} />
            </Suspense>
            {mayChange ? <LookAgain slug={slug} /> : null}
          </Note>
          {rules.begins.kind === "by hand" ? null : (
            <Note title="If it had run last week">
              <Suspense fallback={<p className="text-second">Rehearsing the last seven days …</p>}>
                <LastWeek access={access} planId={plan.id} now={now} />
              </Suspense>
              <p>
                <Link href={`${base}/rehearsal`}>Rehearse it on other days</Link>
              </p>
            </Note>
          )}
          <Note title="What stops it">
            <p>
              The rest of an ask is dropped at once when the person answers, goes on to a review site, writes back, opts
              out, writes a review, or their visit is cancelled.
            </p>
          </Note>
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/asking`} className="button-quiet -ml-2">
          ← All plans
        </Link>
      </p>
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div className="min-w-0 flex-1 basis-[320px]">
          <h1 className="title">{titleOf(plan)}</h1>
          <p className="lead">
            {stateOf(plan, zone, now)} {mayChange ? <NameSentence plan={ref} name={plan.name} /> : null}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link href={`${base}/rehearsal`} className="button">
            Rehearse
          </Link>
          {mayChange ? <PlanButtons slug={slug} planId={plan.id} state={plan.state} /> : null}
        </div>
      </div>
      {plan.draft && seen.move ? (
        <PutInForce
          plan={ref}
          facts={{
            ...seen.move,
            differences: differences(plan.rules, plan.draft, nameOf),
            by: plan.draftBy,
            examples: seen.move.examples.map(({ personId, ...example }) => ({
              ...example,
              href: `/c/${slug}/people/${personId}`,
            })),
            rehearsal: `${base}/rehearsal?against=force`,
          }}
        />
      ) : null}
      <p className="mt-5 text-[16.5px] leading-[1.75]">
        When <BeginsSentence plan={ref} begins={rules.begins} names={names} />, this plan{" "}
        <StyleSentence plan={ref} rules={rules} />.
      </p>
      <div className="mt-3">
        <MovablePlan
          plan={ref}
          rules={rules}
          calendar={{ ...calendar, closedDays: [...calendar.closedDays] }}
          anchorAt={anchorAt}
          anchorName={anchor.name}
          gapMinutes={setting.client.gapMinutes}
          current={wanted}
          hrefs={rules.steps.map((_, index) => stepHref(index))}
        />
      </div>
      <section className="sheet mt-4 grid gap-6 p-5 md:grid-cols-[1fr_280px]" aria-label={step.name}>
        <div>
          <h2 className="font-sans text-[16px] font-semibold tracking-normal">
            {step.name}{" "}
            <span className="tag bg-paper text-second border-rule ml-1 border">{sayStepChannel(step.channel)}</span>
            {isFeeling ? (
              <span className="tag bg-paper text-second border-rule ml-1 border">
                {step.part === "review" ? "asks the happy for a review" : "asks how it went"}
              </span>
            ) : null}
          </h2>
          <p className="mt-2 text-[16.5px] leading-[1.75]">
            Goes out <StepSentence plan={ref} step={step} index={wanted} /> after{" "}
            {afterWords(rules, wanted, anchor.says)}
            {step.delay.amount === 0
              ? ", or when the hours next open."
              : ", at once if the hours are open, else when they next open."}{" "}
            It goes to {sayCondition(step.onlyIf)}
            {step.from === "team member" ? ", and emails carry the team member’s name" : ""}.
          </p>
          <p className="text-second mt-2">{insteadWords(step.channel)}</p>
          <p className="mt-3">
            <WordsSentence
              plan={ref}
              step={step}
              index={wanted}
              wording={wording}
              words={`Change the words${wordings.length > 1 ? ` of ${wording.key.toUpperCase()}` : ""}`}
              placeholders={[...PLACEHOLDERS]}
            />
          </p>
          <Trial
            plan={ref}
            step={step}
            index={wanted}
            wording={wording}
            tallies={seen.tallies.get(step.key) ?? []}
            href={(key) => stepHref(wanted, key)}
          />
          {mayChange ? (
            <div className="border-rule mt-4 -ml-2 flex flex-wrap gap-x-1 border-t pt-3">
              <StepButton plan={ref} part="move step" fields={{ step: wanted, to: wanted - 1 }} disabled={wanted === 0}>
                Move earlier
              </StepButton>
              <StepButton
                plan={ref}
                part="move step"
                fields={{ step: wanted, to: wanted + 1 }}
                disabled={wanted === last}
              >
                Move later
              </StepButton>
              <StepButton
                plan={ref}
                part="remove step"
                fields={{ step: wanted }}
                disabled={last === 0}
                sure={`Take “${step.name}” out of the plan?`}
              >
                Take out
              </StepButton>
              {rules.steps.length < 6 ? (
                <StepButton plan={ref} part="add step" fields={{ in: "first" }}>
                  Add a message
                </StepButton>
              ) : null}
              {rules.steps.length < 6 && isFeeling ? (
                <StepButton plan={ref} part="add step" fields={{ in: "review" }}>
                  Add one that asks for a review
                </StepButton>
              ) : null}
            </div>
          ) : null}
        </div>
        <div>
          <div className="bg-paper rounded-[12px] p-3.5">
            <div
              className="bg-sheet border-rule max-h-[260px] overflow-y-auto rounded-[10px] border px-3.5 py-2.5 text-[14px] whitespace-pre-wrap [overflow-wrap:anywhere]"
              // biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reachable by keyboard
              tabIndex={0}
              role="region"
              aria-label="How it reads"
            >
              {words.subject ? <p className="mb-1.5 font-semibold">{words.subject}</p> : null}
              {words.body}
            </div>
            <p className="text-second mt-2 flex flex-wrap justify-between gap-x-2 text-[13px]">
              <span>
                {parts
                  ? `${sayCount(parts.parts, "part")}, ${parts.units} of ${parts.parts * parts.perPart} characters`
                  : "An email, as it would read"}
              </span>
              <Link
                href={`${stepHref(wanted, wording.key)}&as=${shown === "text" ? "email" : "text"}`}
                scroll={false}
                className="text-ink underline underline-offset-[3px]"
              >
                as {shown === "text" ? "an email" : "a text"}
              </Link>
            </p>
          </div>
        </div>
      </section>
      <dl className="divide-rule border-rule mt-6 divide-y border-y">
        <Row name="Who is asked">
          Everyone it begins for, <TagsSentence plan={ref} rules={rules} choices={names.tags} />
          {setting.services.some(({ neverAsk }) => neverAsk) ? (
            <>
              ; never about{" "}
              <Link href={`/c/${slug}/set-up`} className="words-link">
                {setting.services
                  .filter(({ neverAsk }) => neverAsk)
                  .map(({ name }) => name.toLowerCase())
                  .join(" or ")}
              </Link>
            </>
          ) : null}
          .
        </Row>
        <Row name="Households">
          Several visits of one household on one day give <HouseholdsSentence plan={ref} value={rules.households} />
          {"; "}for a minor the guardian is written to.
        </Row>
        <Row name="How often">
          A person is asked <RepeatSentence plan={ref} repeat={rules.repeat} />; being asked by hand counts
          {setting.client.restDays > 0 ? `, and no plan asks within ${setting.client.restDays} days of another` : ""}.
        </Row>
        <Row name="While it is fresh">
          A message that could not leave within <FreshSentence plan={ref} days={rules.freshDays} /> of its time is not
          sent any more.
        </Row>
        {rules.begins.kind === "list" ? (
          <Row name="Its list">
            Asks <PortionsSentence plan={ref} portions={rules.portions} />
            {rules.portions
              ? `; stops by itself above ${rules.portions.mostBounced} % back or ${rules.portions.mostOptedOut} % opted out`
              : ""}
            .
          </Row>
        ) : null}
        <Row name="Its turn">
          Where not everything may leave at once, its messages leave{" "}
          <FirstSentence plan={ref} goesFirst={rules.goesFirst} />.
        </Row>
        <Row name="When texts leave">
          <HoursSentence {...hoursOf(setting, "text")} slug={slug} mayChange={mayChange} />
          {setting.client.keepsHolidays ? ", not on public holidays" : ""}; and never before 8:00 or after 21:00 where
          the person is.
        </Row>
        <Row name="When emails leave">
          <HoursSentence {...hoursOf(setting, "email")} slug={slug} mayChange={mayChange} />
          {setting.client.keepsHolidays ? ", not on public holidays" : ""}. The hours hold for every plan.
        </Row>
        <Row name="What opens">
          <DoorsSentence plan={ref} doors={rules.doors} />.
          {rules.doors.mode === "private only" ? ` ${rules.doors.acknowledgedBy} answers for it.` : ""}
        </Row>
        <Row name="Review sites">
          <SitesSentence
            plan={ref}
            sites={rules.sites}
            known={[...new Set(setting.listings.map(({ site }) => site))]}
            accounts={Object.fromEntries(setting.listings.map(({ site, accountDomains }) => [site, accountDomains]))}
          />
        </Row>
      </dl>
    </Page>
  );
}

function titleOf({ name, state, pausedWhy }: Plan): string {
  const says = {
    draft: "has never run.",
    running: "is running.",
    paused: pausedWhy ? "paused by itself." : "is paused.",
    archived: "is archived.",
  };
  return `${name} ${says[state]}`;
}

function stateOf(plan: Plan, zone: string, now: number): string {
  if (plan.state === "draft") return "Nobody is asked by it until you let it run.";
  if (plan.state === "archived") return "It begins nothing new; asks under way go on to their end.";
  if (plan.state === "paused")
    return plan.pausedWhy
      ? `${capital(pauseWords(plan.pausedWhy))}. What was planned is held.`
      : "Nothing leaves; what was planned is held.";
  return `Since ${sayDay(zone, plan.runningSince, now)}, version ${plan.version}. Changes wait until you put them in force.`;
}

function afterWords(rules: PlanRules, index: number, anchor: string): string {
  const { part } = rules.steps[index];
  if (part === "review" && rules.steps[index - 1]?.part !== "review") return "a happy answer";
  return index === 0 ? anchor : "the message before it";
}

function insteadWords(channel: PlanRules["steps"][number]["channel"]): string {
  if (channel === "text") return "No mobile number? An email goes in its place.";
  if (channel === "email") return "No email address? A text goes in its place.";
  if (channel === "both")
    return "The email follows right behind the text; whoever has only one of the two gets that one.";
  return "As a text where nobody knows what the person prefers.";
}
