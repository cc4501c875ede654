import type { Ref } from "react";
import type { ExampleMark } from "@/core/plans/example";
import { Shape } from "./DayRuler";

/** Where something lies on the line of a plan, in percent of its length. Days that open within it are white. */
export type PlanSpan = { from: number; to: number; days: number; open: { from: number; to: number }[] };

/** The place of an instant on the line, in percent, a little inside of both ends. */
export const placeOf = ({ from, to }: PlanSpan, at: number) =>
  Math.min(99.4, Math.max(0.4, ((at - from) / (to - from)) * 100));

/** Days, closed hours, the anchor as a tick and each message's mark. */
export function PlanLine({
  span,
  marks,
  anchor,
  current,
  ref,
}: {
  span: PlanSpan;
  marks: readonly ExampleMark[];
  anchor: { at: number; name: string };
  current: number;
  ref: Ref<HTMLDivElement>;
}) {
  const { from, to, days, open } = span;
  const every = days > 10 ? Math.ceil(days / 8) : 1;
  const place = (at: number) => placeOf(span, at);
  return (
    <>
      <div className="relative h-[20px]">
        {Array.from({ length: days }, (_, index) => index)
          .filter((index) => index % every === 0)
          .map((index) => (
            <span
              key={index}
              className="text-second absolute -translate-x-1/2 text-[12.5px] whitespace-nowrap"
              style={{ left: `${((index + 0.5) / days) * 100}%` }}
            >
              {index === 0 ? `${anchor.name} day` : index === 1 ? "1 day later" : `${index} days`}
            </span>
          ))}
      </div>
      <div ref={ref} className="relative mt-1 h-[84px]">
        <div className="hatched absolute inset-0" />
        {open.map((stretch) => (
          <div
            key={stretch.from}
            className="bg-sheet absolute inset-y-0"
            style={{
              left: `${((stretch.from - from) / (to - from)) * 100}%`,
              width: `${((Math.min(stretch.to, to) - stretch.from) / (to - from)) * 100}%`,
            }}
          />
        ))}
        {Array.from({ length: days - 1 }, (_, index) => index + 1).map((index) => (
          <div
            key={index}
            className="border-rule absolute inset-y-0 border-l"
            style={{ left: `${(index / days) * 100}%` }}
          />
        ))}
        <div className="border-second absolute inset-x-0 top-[42px] border-t-2" />
        <div
          className="absolute top-[4px] flex -translate-x-1/2 flex-col items-center"
          style={{ left: `${place(anchor.at)}%` }}
        >
          <span className="bg-sheet/80 px-1 text-[12px] leading-[14px] font-semibold">{anchor.name}</span>
          <span className="bg-ink h-[24px] w-[3px] rounded-full" />
        </div>
        {marks.map((mark) => (
          <span
            key={mark.step}
            aria-hidden="true"
            className="pointer-events-none absolute top-[33px] -translate-x-1/2"
            style={{ left: `${place(mark.at)}%` }}
          >
            <span className="flex">
              {mark.channels.map((channel) => (
                <Shape
                  key={channel}
                  channel={channel}
                  className={`!size-[20px] !border-[3px] border-mulberry ${mark.step === current ? "bg-mulberry" : "bg-sheet"} ${mark.channels.length > 1 ? "-mx-[2px]" : ""}`}
                />
              ))}
            </span>
            <span className="border-mulberry absolute top-[22px] left-1/2 h-[32px] border-l-2 border-dotted" />
          </span>
        ))}
      </div>
    </>
  );
}
