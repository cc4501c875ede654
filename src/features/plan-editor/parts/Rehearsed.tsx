import type { Reason } from "@/core/asks/findings";
import type { RehearsedMessage, RehearsedVerdict } from "@/core/asks/rehearsal";
import { whyThen } from "@/core/asks/whyThen";
import { sayPrice } from "@/core/money";
import { differences } from "@/core/plans/differences";
import { legsOf } from "@/core/plans/legs";
import type { PlanRules } from "@/core/plans/planRules";
import { sayCount, sayDay, sayMoment } from "@/core/time/say";
import { wordsOfRehearsed } from "@/features/asks";
import { findingWords, reasonWords, remedySentence, scheduleSentence } from "@/locales/asking";
import { Counted } from "@/ui/Counted";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { Shape } from "@/ui/ruler/DayRuler";
import type { RehearsalSum } from "../rehearsal";
import type { RehearsalStage } from "../rehearsalStage";

/** What a rehearsal says: its numbers, its messages, whom it leaves out, and two versions side by side. */

/** The numbers of a rehearsal, for the margin. */
export function RehearsalMargin({
  sum,
  currency,
  seconds,
  leftOutHref,
}: {
  sum: RehearsalSum;
  currency: string;
  seconds: number;
  leftOutHref: (reason: Reason) => string;
}) {
  return (
    <>
      <Note title="Total">
        <p>
          <Counted count={sum.messages} one="message" />: <Counted count={sum.texts} one="text" /> in{" "}
          <Counted count={sum.parts} one="part" />, <Counted count={sum.emails} one="email" />.
        </p>
        <p>
          The texts would cost <b>{sayPrice(Math.round(sum.cost * 1000), currency)}</b>.
        </p>
        <p>Rehearsed in {seconds.toFixed(seconds < 1 ? 2 : 1)} seconds. Nothing was sent or saved.</p>
      </Note>
      <Note title="Left out">
        {sum.leftOut.length === 0 ? <p>Nobody.</p> : null}
        {sum.leftOut.map(({ reason, count }) => (
          <p key={reason}>
            <Link href={leftOutHref(reason)}>
              <b>{count}</b> {reasonWords(reason)}
            </Link>
          </p>
        ))}
        {sum.elsewhere > 0 ? (
          <p>
            <b>{sum.elsewhere}</b> {sum.elsewhere === 1 ? "visit is" : "visits are"} for other plans.
          </p>
        ) : null}
        {sum.unsent > 0 ? (
          <p>
            <b>{sum.unsent}</b> {sum.unsent === 1 ? "ask" : "asks"} would end without sending anything.
          </p>
        ) : null}
        {sum.waiting > 0 ? (
          <p>
            <b>{sum.waiting}</b> would still be waiting for their batch.
          </p>
        ) : null}
      </Note>
      {sum.days.length > 0 ? (
        <Note title="Day by day">
          <table className="w-full text-[14px]">
            <thead className="sr-only">
              <tr>
                <th>Day</th>
                <th>Texts</th>
                <th>Emails</th>
              </tr>
            </thead>
            <tbody>
              {sum.days.slice(0, 31).map(({ day: name, text, email }) => (
                <tr key={name}>
                  <td>{sayDay("UTC", Date.parse(name))}</td>
                  <td className="text-right">
                    {text} {text === 1 ? "text" : "texts"}
                  </td>
                  <td className="text-right">
                    {email} {email === 1 ? "email" : "emails"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Note>
      ) : null}
    </>
  );
}

type Version = { name: string; rules: PlanRules; sum: RehearsalSum };

/** What two versions would do on the same visits; what differs comes first. */
export function SideBySide({
  shown,
  other,
  currency,
  zone,
  now,
}: {
  shown: Version;
  other: Version;
  currency: string;
  zone: string;
  now: number;
}) {
  return (
    <section className="mt-5" aria-label="Two versions side by side">
      <p className="text-second mb-3 [overflow-wrap:anywhere]">
        {differences(other.rules, shown.rules)
          .map(({ place, before, after }) => `${place}: ${cut(before)} → ${cut(after)}`)
          .join("; ") || "The two are the same."}
      </p>
      <table className="w-full text-[15px]">
        <thead>
          <tr className="border-rule border-b text-left">
            <th className="py-1.5 font-semibold"> </th>
            <th className="py-1.5 font-semibold">{shown.name}</th>
            <th className="py-1.5 font-semibold">{other.name}</th>
          </tr>
        </thead>
        <tbody className="divide-rule divide-y">
          {comparison(shown.sum, other.sum, currency, zone, now).map(([name, a, b]) => (
            <tr key={name} className={a === b ? "text-second" : ""}>
              <th className="py-1.5 text-left font-normal">{name}</th>
              <td className={a === b ? "" : "font-semibold"}>{a}</td>
              <td>{b}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function cut(text: string): string {
  return text.length > 80 ? `${text.slice(0, 78)} …` : text;
}

function comparison(
  a: RehearsalSum,
  b: RehearsalSum,
  currency: string,
  zone: string,
  now: number,
): [string, string, string][] {
  const row = (name: string, of: (sum: RehearsalSum) => string | number): [string, string, string] => [
    name,
    String(of(a)),
    String(of(b)),
  ];
  const reasons = [...new Set([...a.leftOut, ...b.leftOut].map(({ reason }) => reason))];
  const rows = [
    row("asked", ({ asked }) => asked),
    row("asked together with others", ({ joined }) => joined),
    row("messages", ({ messages }) => messages),
    row("texts", ({ texts }) => texts),
    row("text parts", ({ parts }) => parts),
    row("cost", ({ cost }) => sayPrice(Math.round(cost * 1000), currency)),
    row("emails", ({ emails }) => emails),
    row("last message goes out", ({ lastAt }) => (lastAt ? sayMoment(zone, lastAt, now) : "never")),
    ...reasons.map((reason) =>
      row(
        `left out: ${reasonWords(reason)}`,
        ({ leftOut }) => leftOut.find((one) => one.reason === reason)?.count ?? 0,
      ),
    ),
  ];
  // What differs comes first.
  return [...rows.filter(([, left, right]) => left !== right), ...rows.filter(([, left, right]) => left === right)];
}

/** Everybody who would be left out, with the reason and what would have to change. */
export function LeftOutList({
  stage,
  leftOut,
  slug,
  zone,
  now,
}: {
  stage: RehearsalStage;
  leftOut: readonly RehearsedVerdict[];
  slug: string;
  zone: string;
  now: number;
}) {
  return (
    <ul className="divide-rule border-rule mt-3 divide-y border-y">
      {leftOut.map(({ visitId, personId, reason, trace, at }) => (
        <li key={visitId} className="grid gap-x-4 py-2.5 sm:grid-cols-[150px_1fr]">
          <span className="text-second text-[14px]">{sayMoment(zone, at, now)}</span>
          <div>
            <Link href={`/c/${slug}/people/${personId}`} className="name-link">
              {stage.people.get(personId)?.name}
            </Link>{" "}
            {reason ? reasonWords(reason) : ""}{" "}
            <span className="text-second">
              ({trace.length > 0 ? findingWords(trace[trace.length - 1].finding) : ""})
            </span>
            <p className="text-second text-[14px]">{reason ? remedySentence(reason) : ""}</p>
          </div>
        </li>
      ))}
    </ul>
  );
}

/** The messages that would leave, one by one, each as it would read. */
export function MessageList({
  stage,
  messages,
  slug,
  zone,
  now,
}: {
  stage: RehearsalStage;
  messages: readonly RehearsedMessage[];
  slug: string;
  zone: string;
  now: number;
}) {
  if (messages.length === 0) return <p className="text-second mt-4">Nothing would go out.</p>;
  return (
    <ul className="divide-rule border-rule mt-3 divide-y border-y">
      {messages.map((message) => {
        const words = wordsOfRehearsed(stage, message);
        const leg = legsOf(message.rules)[message.leg];
        const opensReview = leg.part === "review" && legsOf(message.rules)[message.leg - 1]?.part !== "review";
        const calendar = stage.client.calendars[message.branchId] ?? Object.values(stage.client.calendars)[0];
        const why = whyThen(message.why, message.at, {
          delay: leg.delay,
          after: opensReview ? "answer" : message.leg === 0 ? "visit" : "message",
          begins: message.rules.begins.kind,
          channel: message.channel,
          calendar,
        });
        return (
          <li
            key={`${message.visitIds[0]} ${message.leg} ${message.at}`}
            className="grid gap-x-4 py-2.5 sm:grid-cols-[150px_1fr]"
          >
            <span className="text-second text-[14px]">{sayMoment(zone, message.at, now)}</span>
            <div className="min-w-0">
              <Shape channel={message.channel} /> {message.channel === "text" ? "Text to" : "Email to"}{" "}
              <Link href={`/c/${slug}/people/${message.personId}`} className="name-link">
                {stage.people.get(message.personId)?.name}
              </Link>{" "}
              <span className="text-second">
                {message.rules.steps[message.step].name}
                {message.parts ? `, ${sayCount(message.parts, "part")}` : ""}
              </span>
              <p className="text-second text-[14px]">{scheduleSentence(why)}</p>
              <details className="text-[14px]">
                <summary className="text-second">See the message</summary>
                <div className="border-rule bg-sheet mt-1 mb-1 rounded-[9px] border px-3.5 py-2.5 whitespace-pre-wrap [overflow-wrap:anywhere]">
                  {words.subject ? <p className="mb-1 font-semibold">{words.subject}</p> : null}
                  {words.body}
                </div>
              </details>
            </div>
          </li>
        );
      })}
    </ul>
  );
}
