import type { ReactNode } from "react";
import { capital, MOST_COUNTED, sayAgo, sayCount, sayCounted, sayTime, sayWhen } from "@/core/time/say";
import { dayNumber, toLocal } from "@/core/time/zone";
import { RatingNow } from "@/features/concerns/parts/RatingNow";
import { writerName } from "@/features/conversations/parts/ConversationCard";
import { sayTold } from "@/features/notices";
import { nameOrUnknown } from "@/features/people";
import { pauseWords, siteProblemHelp } from "@/locales/operations";
import { Bars } from "@/ui/Bars";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { TodayView } from "../todayView";

/** What needs somebody, the unhappiest first, each with the one thing to do. Nothing where nothing does. */
export function Needs({ today }: { today: TodayView }) {
  const { base, needs, needing, zone, now, thisDay } = today;
  if (needs === 0) return null;
  const { counts, open, waiting, letters, countLetters } = needing;
  const elsewhere = counts.open + counts.waiting + countLetters - open.length - waiting.length - letters.length;
  const by = (at: number) => (dayNumber(toLocal(zone, at)) === thisDay ? sayTime(zone, at) : sayWhen(zone, at, now));
  return (
    <ul className="divide-rule border-rule mt-6 divide-y border-y">
      {needing.open.map((concern) => (
        <Need
          key={concern.id}
          when={sayAgo(concern.at, now)}
          go={{ href: `${base}/heard/concerns/${concern.id}`, words: "Read and reply" }}
        >
          <p className="said">{concern.words ? `“${concern.words}”` : "Rating only, no comment."}</p>
          <Said>
            <RatingNow rating={concern.rating} ratings={concern.ratings} zone={zone} now={now} />
            <span>
              concern · {nameOrUnknown(concern)}
              {concern.about ? `, for ${concern.about}` : ""} · {concern.service.toLowerCase()}
              {concern.member ? ` with ${concern.member}` : ""}
            </span>
            <span className="tag bg-vermilion-tint text-vermilion-deep">
              {concern.answerBy < now ? "overdue since" : "answer by"} {by(concern.answerBy)}
            </span>
            {concern.takenBy ? (
              <span>
                {concern.state === "new" ? "assigned to" : "handled by"} {concern.takenBy}
              </span>
            ) : null}
          </Said>
        </Need>
      ))}
      {needing.letters.map((it) => (
        <Need
          key={it.conversation.id}
          when={sayAgo(it.conversation.waitingSince ?? it.conversation.lastAt, now)}
          go={{ href: `${base}/heard/conversations/${it.conversation.id}`, words: "Answer" }}
        >
          <p className="said line-clamp-3">“{it.last?.body || "A picture, no message."}”</p>
          <Said>
            <span>
              {it.conversation.channel} · {writerName(it)}
              {it.branch ? ` · ${it.branch}` : ""}
            </span>
            <span className="tag bg-ochre-tint text-ochre-deep">waiting for an answer</span>
            {it.conversation.assignedTo ? <span>{it.conversation.assignedTo} is handling it</span> : null}
          </Said>
        </Need>
      ))}
      {needing.waiting.map((review) => (
        <Need
          key={review.id}
          when={sayAgo(review.at, now)}
          go={{ href: `${base}/heard?open=${review.id}#review-${review.id}`, words: "Reply" }}
        >
          <p className="said">{review.words ? `“${review.words}”` : "Rating only, no comment."}</p>
          <Said>
            <Bars rating={review.rating} words={`${review.rating} of 5 on ${review.site}`} />
            <span>
              {review.author} · {review.branch}
            </span>
            <span className="tag bg-ochre-tint text-ochre-deep">
              {review.replyState === "failed" ? "your reply didn’t get through" : "no reply yet"}
            </span>
          </Said>
        </Need>
      ))}
      <RunningProblems today={today} />
      {elsewhere > 0 ? (
        <li className="py-4 sm:pl-[106px]">
          <Link href={`${base}/heard`} className="underline underline-offset-[3px]">
            {elsewhere >= MOST_COUNTED
              ? `${sayCounted(elsewhere)} more are waiting`
              : capital(sayCount(elsewhere, "more is waiting", "more are waiting"))}{" "}
            for an answer in Heard
          </Link>
        </li>
      ) : null}
    </ul>
  );
}

/** What stopped working: messages given up, plans that paused, the allowance, feeds and sites. */
function RunningProblems({ today }: { today: TodayView }) {
  const { base, zone, now, problems, unread, stopped, standing, waiting, told, feedProblems } = today;
  return (
    <>
      {problems.failed > 0 ? (
        <Need
          when="lately"
          title={`${capital(sayCount(problems.failed, "message was", "messages have"))} failed`}
          go={{ href: `${base}/asking/log?state=failed`, words: "See them" }}
        >
          Our sending service didn’t accept them. The log says why for each one.
        </Need>
      ) : null}
      {stopped.map((plan) => (
        <Need
          key={plan.id}
          when="asking"
          title={`“${plan.name}” has paused itself`}
          go={{ href: `${base}/asking/plans/${plan.id}`, words: "Check the plan" }}
        >
          {capital(pauseWords(plan.pausedWhy))}. Its planned messages are on hold; nothing is lost.
          {sayTold(plan.notice, zone, now)}
        </Need>
      ))}
      {standing.held.map((plan) => (
        <Need
          key={plan.id}
          when="asking"
          title={`“${plan.name}” is paused`}
          go={{ href: `${base}/asking/plans/${plan.id}`, words: "Check the plan" }}
        >
          {capital(sayCount(plan.waiting, "message waits", "messages wait"))} for it to resume, and it won’t ask anyone
          until then.
        </Need>
      ))}
      {waiting > 0 ? (
        <Need
          when="asking"
          title="This month’s allowance is used up"
          go={{ href: `${base}/asking`, words: "See the allowance" }}
        >
          {capital(sayCount(waiting, "message is", "messages are"))} waiting for next month. Raise the allowance, or
          leave them to wait.{sayTold(told, zone, now)}
        </Need>
      ) : null}
      {feedProblems.map((each) => (
        <Need
          key={each.title}
          when="incoming"
          title={capital(each.title)}
          go={{ href: `${base}/${each.path}`, words: each.button }}
        >
          {each.words}
        </Need>
      ))}
      {unread.map(({ site, problem }) => {
        const { says, button } = siteProblemHelp(problem);
        return (
          <Need
            key={site}
            when="incoming"
            title={`We can’t reach ${site}`}
            go={{ href: `${base}/set-up/pages`, words: button }}
          >
            {says}
          </Need>
        );
      })}
    </>
  );
}

/** One thing: since when or where, what it is, and the one thing to do about it. */
function Need({
  when,
  title,
  go,
  children,
}: {
  when: string;
  title?: string;
  go?: { href: string; words: string };
  children: ReactNode;
}) {
  return (
    <li className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
      <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">{when}</span>
      <div className="min-w-0 flex-1">
        {title ? (
          <>
            <p className="font-semibold [overflow-wrap:anywhere]">{title}</p>
            <p className="text-second text-[14px]">{children}</p>
          </>
        ) : (
          children
        )}
      </div>
      {go ? (
        <Link href={go.href} className="button self-start">
          {go.words}
        </Link>
      ) : null}
    </li>
  );
}

function Said({ children }: { children: ReactNode }) {
  return <div className="text-second mt-1 flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[14px]">{children}</div>;
}
