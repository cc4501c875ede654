import { sayTime, sayWhen } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { sayStep } from "@/features/asks";
import { nameOf } from "@/features/people";
import { reasonWords } from "@/locales/asking";
import { Empty } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { TodayView } from "../todayView";

/** What leaves next, whichever day is shown. */
export function GoingOutNext({ today }: { today: TodayView }) {
  const { zone, now, thisDay, base, next, isPaused, setting } = today;
  // Nothing of a plan goes out before the pause is over.
  const until = setting.client.pausedUntil;
  const at = (due: number) => (isPaused ? (until === null ? null : Math.max(due, until)) : due);
  const says = (due: number | null) => {
    if (due === null) return "on hold";
    if (dayNumber(toLocal(zone, due)) === thisDay) return sayTime(zone, due);
    return sayWhen(zone, due, now).replace(" at", "");
  };
  return (
    <section>
      <h2 className="font-sans text-[15px] font-semibold tracking-normal">
        {isPaused ? "Waiting for the pause to end" : "Going out next"}
      </h2>
      {next.length === 0 ? (
        <div className="mt-3">
          <Empty>{isPaused ? "Nothing is waiting." : "Nothing planned. Record a visit, or ask someone."}</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-1.5 divide-y border-t">
          {next.map((message) => (
            <li key={message.id} className="grid grid-cols-[86px_1fr] gap-2 py-2">
              <span className="text-second">{says(at(message.at ?? now))}</span>
              <span>
                {message.channel === "text" ? "Text" : "Email"} to{" "}
                <Link href={`${base}/people/${message.personId}`} className="name-link">
                  {nameOf(message)}
                </Link>
                , {sayStep(message.step, message.stepName)}
                <span className="text-second">
                  {message.service
                    ? ` · ${message.about ? `${message.about}, ` : ""}${message.service.toLowerCase()} at ${message.branch}`
                    : ""}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
      <Link href={`${base}/asking/log?state=planned`} className="button-quiet mt-1 -ml-2">
        See everything planned
      </Link>
    </section>
  );
}

/** How many of the day's visits led to no ask, by reason. */
export function LeftOut({ today }: { today: TodayView }) {
  const { base, day, thisDay, leftOut } = today;
  return (
    <section>
      <h2 className="font-sans text-[15px] font-semibold tracking-normal">
        Left out {day === thisDay ? "today" : "that day"}, and why
      </h2>
      {leftOut.length === 0 ? (
        <p className="text-second mt-2">Nobody so far.</p>
      ) : (
        <ul className="divide-rule border-rule mt-1.5 divide-y border-t">
          {leftOut.map(({ reason, count }) => (
            <li key={reason}>
              <Link
                href={`${base}/people?leftout=${encodeURIComponent(reason)}&day=${formatDay(day)}`}
                className="grid min-h-[40px] grid-cols-[40px_1fr] items-center gap-2 py-1.5 no-underline hover:underline"
              >
                <b>{count}</b>
                <span>{reasonWords(reason)}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
