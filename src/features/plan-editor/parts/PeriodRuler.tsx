import { sayDay, sayFigure } from "@/core/time/say";
import { type Channel, openStretches, type SendCalendar } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import { Shape } from "@/ui/ruler/DayRuler";

export type PeriodMark = { at: number; channel: Channel };

/**
 * What would leave over some weeks, day by day: closed days hatched, the messages of a day as two bars below the line,
 * one for each channel, as high as there are many. Each day is a link to its messages.
 */
export function PeriodRuler({
  marks,
  calendar,
  href,
  chosen,
}: {
  marks: readonly PeriodMark[];
  calendar: SendCalendar;
  href: (day: number) => string;
  chosen: number | null;
}) {
  if (marks.length === 0) return null;
  const dayOf = (at: number) => dayNumber(toLocal(calendar.zone, at));
  const first = dayOf(marks[0].at);
  const last = Math.min(
    first + 62,
    marks.reduce((most, { at }) => Math.max(most, dayOf(at)), first),
  );
  const days = Array.from({ length: Math.max(7, last - first + 1) }, (_, index) => first + index);
  const counts = new Map<number, { text: number; email: number }>();
  for (const { at, channel } of marks) {
    const found = counts.get(dayOf(at)) ?? { text: 0, email: 0 };
    found[channel] += 1;
    counts.set(dayOf(at), found);
  }
  const most = Math.max(1, ...[...counts.values()].flatMap(({ text, email }) => [text, email]));
  const nameOf = (day: number) => sayDay(calendar.zone, fromLocal(calendar.zone, day * DAY + DAY / 2));
  const every = Math.max(1, Math.ceil(days.length / 10));
  return (
    <figure aria-label="The rehearsal on the timeline" className="overflow-x-auto">
      <p className="text-second text-[13px]">
        <Shape channel="text" className="border-mulberry bg-mulberry" /> texts{" "}
        <Shape channel="email" className="border-leaf bg-leaf ml-2" /> emails. Nothing goes out in hatched times. Click
        a day to see its messages.
      </p>
      <div className="mt-1 flex h-[104px] min-w-[620px]">
        {days.map((day) => {
          const count = counts.get(day) ?? { text: 0, email: 0 };
          const isOpen = openStretches(day, "text", calendar).length + openStretches(day, "email", calendar).length > 0;
          const says = `${nameOf(day)}: ${sayFigure(count.text, "text")}, ${sayFigure(count.email, "email")}`;
          const bar = (channel: Channel) => (
            <span
              key={channel}
              className={`w-[38%] max-w-[14px] rounded-t-[2px] ${channel === "text" ? "bg-mulberry" : "bg-leaf"}`}
              style={{ height: count[channel] === 0 ? 0 : Math.max(3, (count[channel] / most) * 74) }}
            />
          );
          return (
            <a
              key={day}
              href={href(day)}
              title={says}
              aria-label={says}
              aria-current={day === chosen ? "true" : undefined}
              className={`border-rule flex h-full min-w-[9px] flex-1 flex-col justify-end border-l first:border-l-0 ${day === chosen ? "bg-mulberry-tint" : isOpen ? "bg-sheet hover:bg-mulberry-tint" : "hatched"}`}
            >
              <span className="flex items-end justify-center gap-[1px]">{(["text", "email"] as const).map(bar)}</span>
              <span className="border-second border-t-2" />
            </a>
          );
        })}
      </div>
      <div className="text-second flex min-w-[620px] text-[12px]" aria-hidden="true">
        {days.map((day, index) => (
          <span key={day} className="w-0 flex-1 overflow-visible whitespace-nowrap">
            {index % every === 0 ? nameOf(day) : ""}
          </span>
        ))}
      </div>
    </figure>
  );
}
