import { notFound } from "next/navigation";
import { z } from "zod";
import { sayCount } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { MOST_REHEARSED } from "@/features/asks";
import { loadRehearsal, type RehearsalSum, type RehearsalView, rehearsalQuery } from "@/features/plan-editor";
import { PeriodRuler } from "@/features/plan-editor/parts/PeriodRuler";
import { LeftOutList, MessageList, RehearsalMargin, SideBySide } from "@/features/plan-editor/parts/Rehearsed";
import {
  isOwnPeriod,
  type RehearsalLink,
  rehearsalFilters,
  versionName,
} from "@/features/plan-editor/parts/rehearsalFilters";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { chip } from "@/ui/chip";
import { DayField } from "@/ui/DayField.client";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Rehearsal" };

type Props = {
  params: Promise<{ client: string; plan: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

/** How many messages or left-out visits one page tells one by one. */
const SHOWN = 200;

export default async function RehearsalPage({ params, searchParams }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  if (!z.uuid().safeParse(planId).success) notFound();
  const search = await searchParams;
  const wanted = rehearsalQuery.parse({
    ...Object.fromEntries(Object.keys(rehearsalQuery.shape).map((key) => [key, search[key] ?? null])),
    on: search.on,
    show: search.show,
  });
  const view = await loadRehearsal(access, planId, wanted, await clockNow());
  if (!view) notFound();
  const { plan, setting, sum, otherSum, against, stage } = view;
  const link = linkOf(view);
  return (
    <Page
      margin={
        sum ? (
          <RehearsalMargin
            sum={sum}
            currency={setting.client.currency}
            seconds={view.seconds}
            leftOutHref={(reason) => link({ show: "left out", reason, day: null })}
          />
        ) : undefined
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={view.base} className="button-quiet -ml-2">
          ← {plan.name}
        </Link>
      </p>
      <h1 className="title">{titleOf(sum, wanted.on)}</h1>
      <p className="lead">
        A rehearsal of {versionName(plan, wanted.version)}, assuming every message arrives and nobody answers.
      </p>
      <FilterSentence parts={rehearsalFilters(view, link)} />
      {isOwnPeriod(view) ? <OwnPeriod view={view} /> : null}
      {wanted.on === "list" ? <WhichList view={view} /> : null}
      {sum && otherSum && against ? (
        <SideBySide
          shown={{ name: versionName(plan, wanted.version), rules: view.rules, sum }}
          other={{ name: versionName(plan, wanted.against), rules: against, sum: otherSum }}
          currency={setting.client.currency}
          zone={view.zone}
          now={view.now}
        />
      ) : null}
      {stage ? <Result view={view} link={link} /> : null}
      {stage || wanted.on === "list" ? null : (
        <div className="mt-6">
          <Empty>There’s nothing to rehearse on.</Empty>
        </div>
      )}
    </Page>
  );
}

/** The address with something of the choice changed; what is usual is not named in it. */
function linkOf({ base, wanted }: RehearsalView): RehearsalLink {
  return (change) => {
    const to = new URLSearchParams();
    const all: Record<string, string | number | null> = { ...wanted, ...change };
    if (all.on === "past") all.list = null;
    const usual: Record<string, string> = { show: "messages", on: "past" };
    for (const [name, value] of Object.entries(all))
      if (value !== null && value !== "" && usual[name] !== value) to.set(name, String(value));
    return `${base}/rehearsal${to.size > 0 ? `?${to}` : ""}`;
  };
}

function titleOf(sum: RehearsalSum | null, on: string): string {
  if (!sum) return on === "list" ? "Choose a list to rehearse on." : "There’s nothing to rehearse on.";
  if (sum.visits === 0) return "This plan wouldn’t have asked anyone.";
  return `${sayCount(sum.asked, "person", "people")} would be asked, with ${sayCount(sum.messages, "message")} in all.`;
}

function OwnPeriod({ view: { fromDay, toDay, today, wanted } }: { view: RehearsalView }) {
  return (
    <form className="mb-4 flex flex-wrap items-end gap-2" key={`${fromDay} ${toDay}`}>
      <div>
        <label className="label" htmlFor="rehearse-from">
          Visits from
        </label>
        <DayField
          id="rehearse-from"
          name="from"
          label="Visits from"
          defaultValue={formatDay(fromDay)}
          today={formatDay(today)}
        />
      </div>
      <div>
        <label className="label" htmlFor="rehearse-to">
          to
        </label>
        <DayField id="rehearse-to" name="to" label="to" defaultValue={formatDay(toDay)} today={formatDay(today)} />
      </div>
      {wanted.version ? <input type="hidden" name="version" value={wanted.version} /> : null}
      {wanted.against ? <input type="hidden" name="against" value={wanted.against} /> : null}
      <button type="submit" className="button">
        Rehearse
      </button>
    </form>
  );
}

function WhichList({ view: { lists, slug, wanted, stage } }: { view: RehearsalView }) {
  return (
    <p className="text-second mb-4 text-[14px]">
      {lists.length === 0 ? "You haven’t imported a list yet. " : ""}
      <Link href={`/c/${slug}/people/import`} className="underline">
        Import a file
      </Link>
      , then come back before you finish importing it: a rehearsal doesn’t save anything.
      {wanted.list && !stage ? (
        <span className="text-vermilion-deep block">We can no longer read this list. Choose another.</span>
      ) : null}
    </p>
  );
}

function Result({ view, link }: { view: RehearsalView; link: RehearsalLink }) {
  const { stage, rehearsal, sum, plan, wanted, calendar, slug, zone, now } = view;
  if (!stage || !rehearsal || !sum) return null;
  const own = rehearsal.messages.filter((message) => message.planId === plan.id && !message.underWay);
  const onDay = wanted.day === null ? own : own.filter(({ at }) => dayNumber(toLocal(zone, at)) === wanted.day);
  const leftOut = rehearsal.verdicts.filter(
    ({ planId, reason }) => planId === plan.id && reason !== null && (!wanted.reason || reason === wanted.reason),
  );
  return (
    <>
      {stage.visits.length >= MOST_REHEARSED ? (
        <p className="text-ochre-deep mt-4">
          This covers only the first {MOST_REHEARSED} visits. Choose a shorter period.
        </p>
      ) : null}
      <div className="mt-5">
        <PeriodRuler
          marks={own}
          calendar={calendar}
          href={(number) => link({ day: number === wanted.day ? null : number, show: "messages" })}
          chosen={wanted.day}
        />
      </div>
      <nav aria-label="What to show" className="mt-5 flex gap-2">
        {chip(link({ show: "messages", reason: null }), wanted.show === "messages", `${sum.messages} would go out`)}
        {chip(
          link({ show: "left out", day: null }),
          wanted.show === "left out",
          `${sum.leftOut.reduce((total, { count }) => total + count, 0)} left out`,
        )}
      </nav>
      {wanted.show === "messages" ? (
        <MessageList stage={stage} messages={onDay.slice(0, SHOWN)} slug={slug} zone={zone} now={now} />
      ) : (
        <LeftOutList stage={stage} leftOut={leftOut.slice(0, SHOWN)} slug={slug} zone={zone} now={now} />
      )}
      {(wanted.show === "messages" ? onDay.length : leftOut.length) > SHOWN ? (
        <p className="text-second mt-3">Showing the first {SHOWN}; the totals include everyone.</p>
      ) : null}
    </>
  );
}
