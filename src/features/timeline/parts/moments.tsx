import type { TraceLine } from "@/core/asks/findings";
import { UNHAPPY_UP_TO } from "@/core/reviews/rating";
import { sayAgo } from "@/core/time/say";
import { isLanguage, LANGUAGE_NAMES } from "@/core/words/languages";
import { SaidBeside } from "@/features/answers/parts/SaidBeside";
import { STATE_WORDS, sayStep } from "@/features/asks";
import { endSentence, findingWords, messageSentence, reasonWords, stopSentence, traceSentence } from "@/locales/asking";
import { concernOutcomeWords } from "@/locales/operations";
import { Bars } from "@/ui/Bars";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { Timeline } from "../queries";
import type { Moment } from "./UprightRuler";
import { OutcomeForm } from "./VisitForms.client";

type Facts = { slug: string; now: number; mayChange: boolean };

/** Turns what happened into moments on the ruler, each in plain words. */
export function momentsOf(story: Timeline, facts: Facts): Moment[] {
  return [
    ...visitMoments(story, facts),
    ...messageMoments(story),
    ...answerMoments(story, facts),
    ...endMoments(story),
  ];
}

function visitMoments(story: Timeline, { slug, now, mayChange }: Facts): Moment[] {
  return story.visits.map(({ visit, service, branch, member }) => ({
    id: visit.id,
    at: visit.endsAt,
    shape: "visit" as const,
    filled: visit.endsAt <= now && visit.outcome !== "cancelled",
    tone: "ink" as const,
    content: (
      <div>
        <b>
          {visit.about ? `${visit.about}, ` : ""}
          {service.toLowerCase()} at {branch}
          {member ? `, with ${member}` : ""}
        </b>
        {visit.outcome === "finished" || (visit.outcome === "booked" && visit.endsAt > now) ? null : (
          <span className="text-second"> · {visit.outcome === "no-show" ? "didn’t turn up" : visit.outcome}</span>
        )}
        {visit.outcome === "booked" && visit.endsAt > now ? (
          <span className="text-second"> · booked, ends {sayAgo(visit.endsAt, now)}</span>
        ) : null}
        <Decision
          decision={visit.decision}
          reason={visit.reason ? reasonWords(visit.reason) : null}
          trace={visit.trace}
          href={`/c/${slug}/asking/why/${visit.id}`}
        />
        {mayChange && visit.endsAt > now - 14 * 86_400_000 ? (
          <details className="text-[14px]">
            <summary className="text-second">
              {visit.endsAt > now ? "Change the booking" : "Change the outcome"}
            </summary>
            <OutcomeForm slug={slug} visitId={visit.id} outcome={visit.outcome} />
          </details>
        ) : null}
      </div>
    ),
  }));
}

function Decision({
  decision,
  reason,
  trace,
  href,
}: {
  decision: "asked" | "left out" | null;
  reason: string | null;
  trace: TraceLine[] | null;
  href: string;
}) {
  if (!decision) return null;
  const last = trace?.at(-1);
  return (
    <details className="text-[14px]">
      <summary className="text-second">
        {decision === "asked"
          ? "Being asked: no rule stood in the way"
          : `Left out: ${reason}${last ? ` (${findingWords(last.finding)})` : ""}`}
      </summary>
      <ol className="border-rule mt-1 mb-2 ml-1 border-l pl-4">
        {(trace ?? []).map((line) => (
          <li key={line.rule} className={line.objects ? "font-semibold" : "text-second"}>
            {traceSentence(line)}
          </li>
        ))}
      </ol>
      <Link href={href} className="underline underline-offset-[3px]">
        Why, and what would need to change
      </Link>
    </details>
  );
}

function messageMoments(story: Timeline): Moment[] {
  return story.messages.map((message) => {
    const gone = ["sent", "delivered", "bounced"].includes(message.state);
    const isIn = message.direction === "in";
    const tone =
      message.state === "bounced" || message.state === "failed"
        ? ("vermilion" as const)
        : message.state === "held"
          ? ("ochre" as const)
          : ("ink" as const);
    const seen = [
      message.openedAt ? "opened" : null,
      message.followedAt ? "link clicked" : null,
      message.machineAt && !message.followedAt ? "opened by an email scanner, not counted" : null,
    ].filter(Boolean);
    const language = message.variant?.split("@")[0] ?? "";
    return {
      id: message.id,
      at: message.sentAt ?? message.endedAt ?? message.dueAt ?? message.createdAt,
      shape: message.channel,
      filled: gone || isIn,
      tone,
      content: (
        <div>
          {isIn ? (
            <>
              <b>They wrote by {message.channel}</b>
              {message.reason ? <span className="text-second"> · {messageSentence(message.reason)}</span> : null}
              <p className="said">“{message.body}”</p>
            </>
          ) : (
            <>
              <span className={message.state === "stopped" ? "text-second" : ""}>
                {message.channel === "text" ? "Text" : "Email"}, {sayStep(message.step, message.stepName)}:{" "}
                <b>{STATE_WORDS[message.state]}</b>
                {seen.length > 0 ? `, ${seen.join(", ")}` : ""}
                {isLanguage(language) ? `, in ${LANGUAGE_NAMES[language]}` : ""}
              </span>
              {message.writtenBy ? <span className="text-second"> · written by {message.writtenBy}</span> : null}
              {message.reason ? (
                <span className="text-second block text-[14px]">{messageSentence(message.reason)}</span>
              ) : null}
              {message.picture === null || message.body === null ? null : (
                <span className="text-second block text-[14px]">
                  With a picture{message.picture ? ` that says “${message.picture}”` : ", with no name"}
                  {message.state === "delivered" && message.gatewaySaid ? `. ${message.gatewaySaid}` : ""}
                </span>
              )}
              {message.body ? (
                <details className="text-[14px]">
                  <summary className="text-second">What it says</summary>
                  <div className="sheet mt-1 max-w-[560px] px-4 py-3 whitespace-pre-wrap [overflow-wrap:anywhere]">
                    {message.subject ? <p className="mb-1 font-semibold">{message.subject}</p> : null}
                    {message.body}
                  </div>
                </details>
              ) : null}
            </>
          )}
        </div>
      ),
    };
  });
}

/** Each rating in its own time; what was written is with the last one at or before it. */
function answerMoments(story: Timeline, { slug }: Facts): Moment[] {
  const given = story.answers.flatMap(({ answer }) => {
    const ratings = answer.ratings.length > 0 ? answer.ratings : [{ rating: answer.rating, at: answer.givenAt }];
    const writtenWith = Math.max(
      0,
      ratings.findLastIndex(({ at }) => at <= (answer.wordsAt ?? answer.givenAt)),
    );
    return ratings.map(({ rating, at }, index) => ({
      id: index === 0 ? answer.id : `${answer.id}-${index}`,
      at,
      shape: "answer" as const,
      filled: true,
      tone: (rating ?? 1) > UNHAPPY_UP_TO ? ("leaf" as const) : ("vermilion" as const),
      content: (
        <div>
          <b className="inline-flex flex-wrap items-baseline gap-2">
            {index === 0 ? "They answered" : "They changed it to"} {rating ? <Bars rating={rating} /> : null}
          </b>
          {index === writtenWith ? <Written story={story} answer={answer} slug={slug} /> : null}
        </div>
      ),
    }));
  });
  const followed = story.followed.map(({ id, at, site }) => ({
    id,
    at,
    shape: "answer" as const,
    filled: false,
    tone: "leaf" as const,
    content: <span>They went to {site}</span>,
  }));
  return [...given, ...followed];
}

type Given = Timeline["answers"][number]["answer"];

/** What they wrote, what they said beside it, and the concern that came of it. */
function Written({ story, answer, slug }: { story: Timeline; answer: Given; slug: string }) {
  const concern = story.concerns.find(({ answerId }) => answerId === answer.id);
  const beside = story.beside.get(answer.id);
  return (
    <>
      {answer.words ? <p className="said">“{answer.words}”</p> : null}
      {beside ? <SaidBeside said={beside} slug={slug} /> : null}
      {concern ? (
        <Link href={`/c/${slug}/heard/concerns/${concern.id}`} className="words-link text-[14px]">
          The concern:{" "}
          {concern.state === "closed"
            ? `closed, ${concern.outcome ? concernOutcomeWords(concern.outcome) : ""}`
            : concern.state === "taken"
              ? `${concern.takenBy} is handling it`
              : "nobody’s picked it up"}
        </Link>
      ) : null}
    </>
  );
}

function endMoments(story: Timeline): Moment[] {
  return story.asks.flatMap((ask) =>
    ask.endedAt &&
    (ask.ended || ask.stop === "opted out" || ask.stop === "visit cancelled" || ask.stop === "cancelled by hand")
      ? [
          {
            id: `${ask.id}-end`,
            at: ask.endedAt,
            shape: "note" as const,
            filled: false,
            tone: "ink" as const,
            content: (
              <span className="text-second">
                The ask ended. {ask.stop ? stopSentence(ask.stop) : endSentence(ask.ended ?? "all sent")}
              </span>
            ),
          },
        ]
      : [],
  );
}
