import { clockTime } from "@/core/time/delay";
import { Shape } from "./DayRuler";

const DAY = 86_400_000;

export type PlanMark = { name: string; channel: "text" | "email"; at: number; says: string; href: string; current: boolean };

/**
 * A plan drawn on the days after an example visit: closed hours hatched, the visit as a tick, each message where it would
 * really leave. `from` is the local midnight of the visit's day; `open` the stretches in which messages may leave.
 */
export function PlanRuler({
  from,
  days,
  visitAt,
  visitSays,
  open,
  marks,
  dayNames,
}: {
  from: number;
  days: number;
  visitAt: number;
  visitSays: string;
  open: { from: number; to: number }[];
  marks: PlanMark[];
  dayNames: string[];
}) {
  const to = from + days * DAY;
  const place = (at: number) => Math.min(99.4, Math.max(0.4, ((at - from) / (to - from)) * 100));
  return (
    <figure aria-label="The plan on the time ruler" className="overflow-x-auto pb-1">
      <div className="relative min-w-[620px]">
        <div className="relative h-[20px]">
          {dayNames.map((name, index) => (
            <span key={name} className="text-second absolute -translate-x-1/2 text-[12.5px] whitespace-nowrap" style={{ left: `${((index + 0.5) / days) * 100}%` }}>
              {name}
            </span>
          ))}
        </div>
        <div className="relative mt-1 h-[84px]">
          <div className="hatched absolute inset-0" />
          {open.map((stretch) => (
            <div
              key={stretch.from}
              className="bg-sheet absolute inset-y-0"
              style={{ left: `${((stretch.from - from) / (to - from)) * 100}%`, width: `${((Math.min(stretch.to, to) - stretch.from) / (to - from)) * 100}%` }}
            />
          ))}
          {dayNames.slice(1).map((name, index) => (
            <div key={name} className="border-rule absolute inset-y-0 border-l" style={{ left: `${((index + 1) / days) * 100}%` }} />
          ))}
          <div className="border-second absolute inset-x-0 top-[42px] border-t-2" />
          <div className="absolute top-[4px] flex -translate-x-1/2 flex-col items-center" style={{ left: `${place(visitAt)}%` }} title={visitSays}>
            <span className="bg-sheet/80 px-1 text-[12px] leading-[14px] font-semibold">visit</span>
            <span className="bg-ink h-[24px] w-[3px] rounded-full" />
          </div>
          {marks.map((mark) => (
            <span key={mark.name} aria-hidden="true" className="absolute top-[33px] -translate-x-1/2" style={{ left: `${place(mark.at)}%` }}>
              <Shape channel={mark.channel} className={`!size-[20px] !border-[3px] border-mulberry ${mark.current ? "bg-mulberry" : "bg-sheet"}`} />
              <span className="border-mulberry absolute top-[22px] left-1/2 h-[32px] border-l-2 border-dotted" />
            </span>
          ))}
        </div>
        <div className="relative h-[58px]">
          {marks.map((mark) => (
            <a
              key={mark.name}
              href={mark.href}
              aria-current={mark.current ? "true" : undefined}
              className={`absolute top-[4px] flex min-h-[46px] -translate-x-1/2 flex-col items-center justify-center rounded-[9px] border px-3 py-1 text-[13px] leading-[1.3] whitespace-nowrap no-underline ${mark.current ? "border-mulberry bg-mulberry-tint" : "border-edge bg-sheet hover:border-mulberry"}`}
              style={{ left: `clamp(64px, ${place(mark.at)}%, calc(100% - 64px))` }}
            >
              <b>{mark.name}</b>
              <span className="text-second">{mark.says}</span>
            </a>
          ))}
        </div>
      </div>
      <figcaption className="sr-only">
        {visitSays}. {marks.map((mark) => `${mark.name}: ${mark.channel}, ${mark.says}`).join(". ")}.
      </figcaption>
    </figure>
  );
}

/** Hours of a day in words: "9:00 to 19:00", "nothing leaves". */
export function sayHours(ranges: { open: number; close: number }[]): string {
  return ranges.length === 0 ? "nothing leaves" : ranges.map(({ open, close }) => `${clockTime(open)} to ${clockTime(close)}`).join(" and ");
}
