import Link from "next/link";
import { may } from "@/core/access/roles";
import { sayBegins } from "@/core/plans/sayRules";
import { STARTERS } from "@/core/plans/starters";
import { capital, sayCount } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { countHeld, tallyPlans } from "@/features/asks";
import { allowanceOf, hoursOf, loadSetting, monthOf, usageOf } from "@/features/clients";
import {
  AllowanceSentence,
  CeilingSentence,
  ConsentSentence,
  GapSentence,
  HoursSentence,
  PriceSentence,
  RestSentence,
} from "@/features/plan-editor/parts/ClientSentences.client";
import { PlanList, StartFrom } from "@/features/plan-editor/parts/PlanList.client";
import { listPlans, type Plan } from "@/features/plans";
import * as today from "@/features/today";
import { reasonWords } from "@/locales/asking";
import { pauseWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page, Row } from "@/ui/Page";

export const metadata = { title: "Asking" };

type Props = { params: Promise<{ client: string }> };

export default async function Asking({ params }: Props) {
  const access = await requireAccess((await params).client, "view");
  const now = await clockNow();
  const { slug, role } = access.seat;
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    return {
      setting,
      plans: await listPlans(tx, access),
      tallies: await tallyPlans(tx, access, now - 7 * DAY),
      held: await countHeld(tx, access),
      usage: await usageOf(tx, access, monthOf(setting, now)),
      leftOut: await today.leftOut(tx, access, { from: now - 7 * DAY, to: now, branchId: null }),
      tally: await today.tally(tx, access, now - 7 * DAY, now + 1),
    };
  });
  const { setting, plans } = seen;
  const { client } = setting;
  const mayChange = may(role, "change plans");
  const living = plans.filter(({ state }) => state !== "archived");
  const archived = plans.filter(({ state }) => state === "archived");
  const total = seen.leftOut.reduce((sum, { count }) => sum + count, 0);
  const who = { slug, mayChange };
  const nameOf = (id: string) =>
    [...setting.services, ...setting.branches].find((one) => one.id === id)?.name ?? "something gone";
  const row = (plan: Plan) => (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-0.5">
      <div className="min-w-0 flex-1 basis-[340px]">
        <Link href={`/c/${slug}/asking/plans/${plan.id}`} className="name-link text-[16.5px] font-semibold">
          {plan.name}
        </Link>{" "}
        <StateTag plan={plan} />
        <p className="text-second [overflow-wrap:anywhere]">{planWords(plan, nameOf)}</p>
        {plan.pausedWhy ? <p className="text-vermilion-deep">Paused by itself: {pauseWords(plan.pausedWhy)}.</p> : null}
      </div>
      <p className="text-second text-[14px]">{tallyWords(seen.tallies.get(plan.id))}</p>
    </div>
  );
  const heldFor = (hold: string) => seen.held.find((one) => one.hold === hold)?.count ?? 0;
  return (
    <Page
      margin={
        <>
          <Note title="The last seven days">
            <p>
              <b>{seen.tally.asked}</b> people were asked and <b>{seen.tally.answered}</b> of them answered.
            </p>
            {total > 0 ? (
              <p>
                <b>{total}</b> visits were left out:{" "}
                {seen.leftOut.map(({ reason, count }) => `${count} ${reasonWords(reason)}`).join(", ")}.
              </p>
            ) : null}
            <p>
              <Link href={`/c/${slug}/asking/stages`}>Where everyone stands</Link>
            </p>
          </Note>
          <Note title="This month’s messages">
            <Used what="emails" used={seen.usage.email.used} most={allowanceOf(setting, "email")} />
            <Used what="parts of texts" used={seen.usage.text.used} most={allowanceOf(setting, "text")} />
            {heldFor("allowance") > 0 ? (
              <p className="text-ochre-deep">
                <Link href={`/c/${slug}/asking/log?state=held`}>
                  <b>{capital(sayCount(heldFor("allowance"), "message"))}</b>{" "}
                  {heldFor("allowance") === 1 ? "waits" : "wait"} for next month’s allowance
                </Link>
                .
              </p>
            ) : null}
            {heldFor("by hand") + heldFor("plan paused") > 0 ? (
              <p>
                <Link href={`/c/${slug}/asking/log?state=held`}>
                  <b>{heldFor("by hand") + heldFor("plan paused")}</b> are held
                </Link>
                {heldFor("plan paused") > 0 ? `, ${heldFor("plan paused")} of them because their plan is paused` : ""}.
              </p>
            ) : null}
          </Note>
          <Note title="Two plans, one visit">
            <p>
              The first plan in the list that begins with a visit takes it. The visit’s own trace says which others
              would have.
            </p>
          </Note>
        </>
      }
    >
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h1 className="title">{titleOf(living)}</h1>
          <p className="lead">In the order in which they take visits.</p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link href={`/c/${slug}/asking/stages`} className="button">
            Where everyone stands
          </Link>
          <Link href={`/c/${slug}/asking/log`} className="button">
            Planned and sent
          </Link>
        </div>
      </div>
      <div className="mt-5">
        {living.length === 0 ? (
          <Empty>No plan is set up yet. Start from one of those below.</Empty>
        ) : (
          <PlanList
            slug={slug}
            mayChange={mayChange}
            items={living.map((plan) => ({ key: plan.id, name: plan.name, content: row(plan) }))}
          />
        )}
      </div>
      {archived.length > 0 ? (
        <details className="mt-3">
          <summary className="text-second">{sayCount(archived.length, "archived plan")}</summary>
          <ul className="divide-rule divide-y">
            {archived.map((plan) => (
              <li key={plan.id} className="py-2">
                {row(plan)}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {mayChange ? (
        <section className="mt-8" aria-label="Start another plan">
          <h2 className="text-[19px] font-semibold">Start another plan</h2>
          <ul className="divide-rule border-rule mt-2 divide-y border-y">
            {STARTERS.map((starter) => (
              <li key={starter.key} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
                <div className="min-w-0 flex-1 basis-[300px]">
                  <b>{starter.name}</b>
                  <p className="text-second">{starter.says}</p>
                </div>
                <StartFrom slug={slug} from={starter.key}>
                  Start from this <span className="sr-only">: {starter.name}</span>
                </StartFrom>
              </li>
            ))}
            <li className="flex flex-wrap items-center justify-between gap-3 py-2.5">
              <div className="min-w-0 flex-1 basis-[300px]">
                <b>From nothing</b>
                <p className="text-second">One message, and everything else as you set it.</p>
              </div>
              <StartFrom slug={slug} from="nothing">
                Start from nothing
              </StartFrom>
            </li>
          </ul>
        </section>
      ) : null}
      <section className="mt-8" aria-label="For every plan">
        <h2 className="text-[19px] font-semibold">For every plan</h2>
        <dl className="divide-rule border-rule mt-2 divide-y border-y">
          <Row name="Rest">
            Whoever was asked or wrote a review rests from every plan for{" "}
            <RestSentence {...who} days={client.restDays} />.
          </Row>
          <Row name="Consent">
            Messages go to <ConsentSentence {...who} needed={client.needsConsent} />.
          </Row>
          <Row name="Distance">
            Between any two messages to one person lie at least <GapSentence {...who} minutes={client.gapMinutes} />.
          </Row>
          <Row name="Pace">
            Within an hour leave <CeilingSentence {...who} texts={client.textsAnHour} emails={client.emailsAnHour} />.
          </Row>
          <Row name="Allowance">
            In a month:{" "}
            <AllowanceSentence
              {...who}
              texts={client.textsAMonth}
              emails={client.emailsAMonth}
              leavesOut={client.leavesOutWhenUsedUp}
            />
            . A part of a text counts as <PriceSentence {...who} price={client.partPrice} currency={client.currency} />.
          </Row>
          <Row name="Texts leave">
            <HoursSentence {...hoursOf(setting, "text")} {...who} />
            {client.keepsHolidays ? ", not on public holidays" : ""}; never before 8:00 or after 21:00 where the person
            is.
          </Row>
          <Row name="Emails leave">
            <HoursSentence {...hoursOf(setting, "email")} {...who} />
            {client.keepsHolidays ? ", not on public holidays" : ""}.
          </Row>
        </dl>
      </section>
    </Page>
  );
}

const NUMBERS = ["No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten"];

function titleOf(plans: Plan[]): string {
  const running = plans.filter(({ state }) => state === "running").length;
  const selfPaused = plans.filter(({ state, pausedWhy }) => state === "paused" && pausedWhy).length;
  if (selfPaused > 0)
    return `${NUMBERS[selfPaused] ?? selfPaused} ${selfPaused === 1 ? "plan" : "plans"} paused by ${selfPaused === 1 ? "itself" : "themselves"}.`;
  return `${NUMBERS[running] ?? running} ${running === 1 ? "plan is" : "plans are"} running.`;
}

function planWords({ rules, draft }: Plan, nameOf: (id: string) => string): string {
  const { steps, style } = draft ?? rules;
  return `When ${sayBegins((draft ?? rules).begins, nameOf)}: ${style === "straight away" ? "" : "how it went first, then the happy, "}${sayCount(steps.length, "message")}.`;
}

function tallyWords(tally: { open: number; asked: number; waiting: number } | undefined): string {
  if (!tally) return "";
  const words = [`${tally.asked} asked this week`, `${tally.open} under way`];
  return (tally.waiting > 0 ? [...words, `${tally.waiting} wait their turn`] : words).join(" · ");
}

function StateTag({ plan }: { plan: Plan }) {
  const tone = {
    draft: "border-rule bg-sheet text-second border",
    running: "bg-leaf-tint text-leaf",
    paused: "bg-ochre-tint text-ochre-deep",
    archived: "border-rule bg-paper text-second border",
  };
  const says = { draft: "has never run", running: "running", paused: "paused", archived: "archived" };
  return (
    <>
      <span className={`tag ${tone[plan.state]}`}>{says[plan.state]}</span>
      {plan.draft ? <span className="tag bg-ochre-tint text-ochre-deep ml-1">changes not in force</span> : null}
    </>
  );
}

function Used({ what, used, most }: { what: string; used: number; most: number | null }) {
  return (
    <p>
      <b>{used}</b> {what}
      {most === null ? " so far, without a limit" : ` of ${most}`}.
      {most !== null && used >= most ? (
        <span className="text-ochre-deep"> Used up: asks are held until next month.</span>
      ) : null}
    </p>
  );
}
