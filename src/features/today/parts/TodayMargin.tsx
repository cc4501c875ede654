import { sayAverage } from "@/core/reviews/rating";
import { capital, pluralOf, sayAgo, sayCount } from "@/core/time/say";
import { nameOrUnknown } from "@/features/people";
import { Counted } from "@/ui/Counted";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { TodayView } from "../todayView";
import { AnswersLine } from "./AnswersLine.client";

/** The beginning of what was written. */
function firstOf({ words, more }: { words: string | null; more: Record<string, string> }): string {
  const text = words || Object.values(more)[0] || "";
  return text.length > 160 ? `${text.slice(0, 159).trimEnd()}…` : text;
}

/** The week so far, what the sites show, and how many were left out. */
export function TodayMargin({ today }: { today: TodayView }) {
  const { base, day, thisDay, tally, perDay, averages, leftOut } = today;
  return (
    <>
      <Note title="This week so far">
        <p>
          {tally.asked === 0 ? (
            "Nobody was"
          ) : (
            <>
              <Link href={`${base}/asking/log?state=sent`}>
                <Counted count={tally.asked} one="person" many="people" />
              </Link>{" "}
              {pluralOf(tally.asked, "was", "were")}
            </>
          )}{" "}
          asked. {tally.answered === 0 ? "Nobody" : <b>{tally.answered}</b>} answered, and{" "}
          {tally.followed === 0 ? "nobody" : <b>{tally.followed}</b>} went on to a review site.
        </p>
        <AnswersLine days={perDay} />
      </Note>
      {today.latestNote ? (
        <Note title="Kind words">
          <p className="said !text-[16px] [overflow-wrap:anywhere]">“{firstOf(today.latestNote.answer)}”</p>
          <p>
            {nameOrUnknown(today.latestNote.person)}, {sayAgo(today.latestNote.answer.wordsAt ?? 0, today.now)}.{" "}
            <Link href={`${base}/heard?show=kind&state=unread`}>
              {capital(sayCount(today.unreadNotes, "kind note", "kind notes"))} to read
            </Link>
          </p>
        </Note>
      ) : null}
      {averages.map(({ site, sum, scale, reviews }) => (
        <Note key={site} title={site}>
          <p>
            {site} shows <b>{sayAverage(sum, reviews, scale)}</b> from{" "}
            <Link href={`${base}/heard?${new URLSearchParams({ show: "reviews", site })}`}>
              <Counted count={reviews} one="review" />
            </Link>
            .
          </p>
        </Note>
      ))}
      <Note title="Left out">
        <p>
          {leftOut.length === 0
            ? "Nobody’s been left out "
            : `${capital(
                sayCount(
                  leftOut.reduce((sum, { count }) => sum + count, 0),
                  "person was",
                  "people were",
                ),
              )} left out `}
          {day === thisDay ? "today" : "that day"}. You’ll find the reason for each visit in the person’s story, and the
          rules under <Link href={`${base}/asking`}>Asking</Link>.
        </p>
      </Note>
    </>
  );
}
