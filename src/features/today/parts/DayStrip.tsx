import { UNHAPPY_UP_TO } from "@/core/reviews/rating";
import { sayTime } from "@/core/time/say";
import { openStretches } from "@/core/time/sendHours";
import { DAY, formatDay, HOUR } from "@/core/time/zone";
import { STATE_WORDS, sayStep } from "@/features/asks";
import { nameOf } from "@/features/people";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { DayRuler, type RulerMessage } from "@/ui/ruler/DayRuler";
import type { TodayView } from "../todayView";

/** The day's ruler, with the way to other days and to one branch. */
export function DayStrip({ today }: { today: TodayView }) {
  const { zone, now, day, thisDay, base, branchId, setting, marks, calendar } = today;
  const link = (change: { day?: number; branch?: string | null }) => {
    const search = new URLSearchParams();
    const to = change.day ?? day;
    if (to !== thisDay) search.set("day", formatDay(to));
    const at = change.branch === undefined ? branchId : change.branch;
    if (at) search.set("branch", at);
    return `${base}/today${search.size ? `?${search}` : ""}`;
  };
  return (
    <div className="border-rule bg-sheet border-b">
      <div className="mx-auto w-full max-w-[1280px] px-4 pt-3 pb-2 sm:px-8">
        <div className="mb-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 text-[14px]">
          <span className="flex flex-wrap items-center gap-1">
            <Link href={link({ day: day - 1 })} className="button-quiet" aria-label="Previous day">
              ←
            </Link>
            <b>{day === thisDay ? "Today" : dayWords(day)}</b>
            <Link href={link({ day: day + 1 })} className="button-quiet" aria-label="Next day">
              →
            </Link>
            {day === thisDay ? null : (
              <Link href={link({ day: thisDay })} className="button-quiet">
                back to today
              </Link>
            )}
          </span>
          {setting.branches.length > 1 ? (
            <span className="flex flex-wrap gap-x-1">
              {[{ id: null as string | null, name: "All branches" }, ...setting.branches].map((one) => (
                <Link
                  key={one.name}
                  href={link({ branch: one.id })}
                  aria-current={one.id === branchId ? "true" : undefined}
                  className="text-second aria-[current]:text-ink inline-flex min-h-[32px] items-center px-2 no-underline aria-[current]:font-semibold aria-[current]:underline aria-[current]:decoration-mulberry aria-[current]:decoration-2 aria-[current]:underline-offset-4"
                >
                  {one.name}
                </Link>
              ))}
            </span>
          ) : null}
        </div>
        <DayRuler
          zone={zone}
          day={day}
          now={now}
          open={openStretches(day, "text", calendar)}
          bundleHref={`${base}/asking/log?day=${formatDay(day)}`}
          crowd={marks.crowd}
          visits={marks.visits.map((visit) => ({
            id: visit.id,
            at: visit.at,
            over: visit.at <= now,
            says: `${sayTime(zone, visit.at)} ${nameOf(visit)}${visit.about ? ` for ${visit.about}` : ""}: ${visit.service.toLowerCase()}${visit.outcome === "no-show" ? ", didn’t turn up" : ""}`,
            href: `${base}/people/${visit.personId}`,
          }))}
          messages={marks.messages.map((message) => ({
            id: message.id,
            at: message.at,
            channel: message.channel,
            tone: toneOf(message),
            says: `${sayTime(zone, message.at)} ${message.channel === "text" ? "Text" : "Email"} to ${nameOf(message)}, ${sayStep(message.step, message.stepName)}: ${message.rating ? `answered ${message.rating} of 5` : STATE_WORDS[message.state]}`,
            href: `${base}/people/${message.personId}`,
          }))}
        />
      </div>
    </div>
  );
}

function toneOf(message: { state: string; rating: number | null; answeredAt: number | null }): RulerMessage["tone"] {
  if (message.state === "bounced" || message.state === "failed") return "unhappy";
  if (message.state === "held") return "waiting";
  if (message.state === "planned") return "planned";
  if (message.rating) return message.rating <= UNHAPPY_UP_TO ? "unhappy" : "good";
  return message.answeredAt ? "good" : "sent";
}

function dayWords(day: number): string {
  return new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    day * DAY + HOUR,
  );
}
