import { notFound } from "next/navigation";
import { z } from "zod";
import { capital, sayDay, sayMoment, sayWhen } from "@/core/time/say";
import { STATE_WORDS, type WhyVisit, whyVisit } from "@/features/asks";
import { Remedies, Trace } from "@/features/asks/parts/Trace";
import { loadSetting, type Setting } from "@/features/clients";
import { nameOf } from "@/features/people";
import {
  endSentence,
  messageSentence,
  reasonWords,
  scheduleSentence,
  siteWords,
  stopSentence,
  traceSentence,
} from "@/locales/asking";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import type { VisitSource } from "@/schema/visits";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { Shape } from "@/ui/ruler/DayRuler";

export const metadata = { title: "Why" };

type Props = { params: Promise<{ client: string; visit: string }> };

const CAME_FROM: Record<VisitSource, string> = {
  "by hand": "Added by hand",
  "asked by hand": "Added when someone asked by hand",
  file: "Came from a list",
  "drop-off": "Came from the drop-off page",
  webhook: "Came from your connected software",
  calendar: "Came from a calendar",
  "end of day": "Came from the end-of-day file",
  API: "Came through the API",
};

export default async function Why({ params }: Props) {
  const { client, visit: visitId } = await params;
  const access = await requireAccess(client, "see asking");
  if (!z.uuid().safeParse(visitId).success) notFound();
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const why = await whyVisit(tx, access, setting, visitId, now);
    return why && { setting, why };
  });
  if (!seen) notFound();
  const { why } = seen;
  const { visit, person, ask, context } = why;
  const name = nameOf(person);
  const deciding = visit.decision === "left out" ? visit.trace?.find(({ objects }) => objects) : null;
  return (
    <Page margin={<WhyMargin seen={seen} slug={slug} zone={zone} now={now} />}>
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/people/${person.id}`} className="button-quiet -ml-2">
          ← {name}
        </Link>
      </p>
      <h1 className="title">{titleOf(why, name, now)}</h1>
      {visit.waitsFor ? (
        <p className="lead">
          Waiting for its turn in the daily batches of “{why.plans.find(({ id }) => id === visit.waitsFor)?.name}”.
        </p>
      ) : null}
      {visit.examineAt !== null && !visit.waitsFor ? (
        <p className="lead">We’ll decide about it {sayWhen(zone, visit.examineAt, now)}.</p>
      ) : null}
      {visit.trace && deciding ? <p className="lead">{traceSentence(deciding)}</p> : null}
      {visit.decision === "left out" || (visit.decision === null && why.objecting.length > 0) ? (
        <WhatWouldChange why={why} />
      ) : null}
      {ask && context ? <TheAsk why={why} ask={ask} context={context} zone={zone} now={now} /> : null}
      {visit.trace && visit.trace.length > 0 ? (
        <section className="mt-5" aria-label="How it was decided">
          <h2 className="text-[18px] font-semibold">
            What we checked{visit.examinedAt ? `, ${sayWhen(zone, visit.examinedAt, now)}` : ""}
          </h2>
          <div className="mt-2">
            <Trace lines={visit.trace} />
          </div>
        </section>
      ) : null}
    </Page>
  );
}

function titleOf({ visit, ask }: WhyVisit, name: string, now: number): string {
  if (visit.decision === "asked")
    return ask?.byHand ? `${name} was asked by hand.` : `${name} is being asked: no rule stood in the way.`;
  if (visit.decision === "left out" && visit.reason) return `${name} was left out: ${reasonWords(visit.reason)}.`;
  if (visit.waitsFor) return `${name} is waiting for a turn.`;
  return visit.endsAt > now ? `${name}’s visit isn’t over yet.` : `We haven’t looked at this visit of ${name}’s yet.`;
}

type Seen = { setting: Setting; why: WhyVisit };
type When = { zone: string; now: number };

function WhyMargin({ seen: { setting, why }, slug, zone, now }: { seen: Seen; slug: string } & When) {
  const { visit, person, context, plan } = why;
  const service = setting.services.find(({ id }) => id === visit.serviceId)?.name ?? "visit";
  const branch = setting.branches.find(({ id }) => id === visit.branchId)?.name ?? "";
  return (
    <>
      <Note title="The visit">
        <p>
          <b>
            {visit.about ? `${visit.about}, ` : ""}
            {service.toLowerCase()}
          </b>{" "}
          at {branch}, {visit.endsAt > now ? "ends" : "ended"} {sayWhen(zone, visit.endsAt, now)}.{" "}
          {CAME_FROM[visit.source]}.
        </p>
        <p>
          <Link href={`/c/${slug}/people/${person.id}`}>{nameOf(person)}’s full story</Link>
          <br />
          <Link href={`/c/${slug}/people/${person.id}/why`}>What each plan would decide about {person.given} now</Link>
        </p>
      </Note>
      {plan ? (
        <Note title="The plan">
          <p>
            <Link href={`/c/${slug}/asking/plans/${plan.id}`}>{plan.name}</Link> covers visits like this
            {why.alsoTakenBy.length > 0 ? `, ahead of ${why.alsoTakenBy.join(" and ")}` : ""}.
          </p>
          {context && context.plan.id === plan.id && context.ask.planVersion !== plan.version ? (
            <p>This ask uses version {context.ask.planVersion}.</p>
          ) : null}
        </Note>
      ) : null}
    </>
  );
}

function WhatWouldChange({ why: { objecting, person } }: { why: WhyVisit }) {
  return (
    <section className="mt-6" aria-label="What would need to change">
      <h2 className="text-[18px] font-semibold">What would need to change</h2>
      <div className="mt-2">
        {objecting.length > 0 ? (
          <Remedies lines={objecting} />
        ) : (
          <p>
            Nothing: no rule stands in the way now. Plans only look at a visit once, so ask {person.given} by hand with{" "}
            <b>Ask someone</b>.
          </p>
        )}
      </div>
    </section>
  );
}

type Ask = NonNullable<WhyVisit["ask"]>;

function TheAsk({
  why,
  ask,
  context,
  zone,
  now,
}: { why: WhyVisit; ask: Ask; context: NonNullable<WhyVisit["context"]> } & When) {
  return (
    <section className="mt-6" aria-label="The ask">
      <h2 className="text-[18px] font-semibold">
        The ask{ask.byHand ? `, sent by hand by ${ask.askedBy}` : ""}
        {ask.personId === why.visit.personId ? "" : `, together with ${nameOf(context.person)}`}
      </h2>
      <p className="text-second">
        {askState(ask, { zone, now })}
        {ask.siteWhy ? ` ${capital(siteWords(ask.siteWhy))}.` : ""}
      </p>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {why.sent.map((message) => (
          <li key={message.id} className="grid gap-x-4 py-2 sm:grid-cols-[150px_1fr_110px]">
            <span className="text-second text-[14px]">
              {sayMoment(zone, message.sentAt ?? message.dueAt ?? message.createdAt, now)}
            </span>
            <span>
              <Shape
                channel={message.channel}
                className={message.sentAt ? "border-ink bg-ink" : "border-second bg-sheet"}
              />{" "}
              {message.stepName ?? "message"}
              {message.wording ? `, wording ${message.wording.toUpperCase()}` : ""}:{" "}
              <span className="text-second">{messageSentence(message.reason)}</span>
            </span>
            <span className="text-second text-[14px] sm:text-right">{STATE_WORDS[message.state]}</span>
          </li>
        ))}
      </ul>
      {why.ahead.length > 0 ? (
        <>
          <h3 className="mt-3 font-sans text-[15px] font-semibold tracking-normal">If there’s no answer</h3>
          <ul className="mt-1 space-y-1">
            {why.ahead.map(({ send, why: says, name: step }) => (
              <li key={send.leg}>
                <Shape channel={send.channel} /> {step}, {send.channel} {sayWhen(zone, send.at, now)}:{" "}
                <span className="text-second">{scheduleSentence(says)}</span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}

function askState({ stop, ended, endedAt, heldBy, heldAt }: Ask, { zone, now }: When): string {
  const when = endedAt ? ` ${sayWhen(zone, endedAt, now)}` : "";
  if (stop) return `Stopped${when}. ${stopSentence(stop)}`;
  if (ended) return `Ended${when}. ${endSentence(ended)}`;
  return heldBy ? `Put on hold by ${heldBy} on ${sayDay(zone, heldAt ?? now, now)}.` : "It’s under way.";
}
