import type { ReactNode } from "react";
import { sayDay, sayTime } from "@/core/time/say";

export type Moment = {
  id: string;
  at: number;
  shape: "visit" | "email" | "text" | "answer" | "note";
  filled: boolean;
  tone: "ink" | "leaf" | "vermilion" | "ochre";
  content: ReactNode;
};

const TONE = { ink: "border-ink", leaf: "border-leaf", vermilion: "border-vermilion", ochre: "border-ochre" };
const FILL = { ink: "bg-ink", leaf: "bg-leaf", vermilion: "bg-vermilion", ochre: "bg-ochre" };

/**
 * A person's story on an upright ruler: what is to come on top, then now, then what was. Same shapes as on the lying
 * one.
 */
export function UprightRuler({ zone, moments, now }: { zone: string; moments: Moment[]; now: number }) {
  const ordered = [...moments].sort((a, b) => b.at - a.at);
  const firstPast = ordered.findIndex(({ at }) => at <= now);
  let day = "";
  return (
    <ol className="relative">
      <span aria-hidden="true" className="bg-edge absolute top-2 bottom-2 left-[104px] w-[2px] max-sm:left-[9px]" />
      {ordered.map((moment, index) => {
        const thisDay = sayDay(zone, moment.at, now);
        const isNewDay = thisDay !== day;
        day = thisDay;
        return (
          <li key={moment.id} className="relative">
            {index === firstPast && index > 0 ? <NowLine zone={zone} now={now} /> : null}
            <div className="grid grid-cols-[92px_28px_1fr] items-start gap-x-0 py-1.5 max-sm:grid-cols-[28px_1fr]">
              <span className="text-second pt-px text-right text-[13px] leading-[1.35] max-sm:col-start-2 max-sm:text-left">
                {isNewDay ? <b className="text-ink block font-semibold">{thisDay}</b> : null}
                {sayTime(zone, moment.at)}
              </span>
              <span className="flex justify-center pt-[5px] max-sm:col-start-1 max-sm:row-start-1" aria-hidden="true">
                <Mark {...moment} />
              </span>
              <div className="min-w-0 pb-2 max-sm:col-start-2">{moment.content}</div>
            </div>
          </li>
        );
      })}
    </ol>
  );
}

function NowLine({ zone, now }: { zone: string; now: number }) {
  return (
    <div className="relative my-1 grid grid-cols-[92px_28px_1fr] items-center max-sm:grid-cols-[28px_1fr]">
      <span className="text-right max-sm:col-start-2 max-sm:text-left">
        <span className="bg-pistachio text-on-pistachio rounded-full px-2.5 text-[12.5px] leading-[20px] font-semibold">
          now, {sayTime(zone, now)}
        </span>
      </span>
      <span className="bg-mulberry h-[3px] max-sm:hidden" aria-hidden="true" />
      <span className="bg-mulberry h-[3px] max-sm:hidden" aria-hidden="true" />
    </div>
  );
}

function Mark({ shape, filled, tone }: Pick<Moment, "shape" | "filled" | "tone">) {
  const fill = filled ? FILL[tone] : "bg-paper";
  if (shape === "visit")
    return <span className={`mt-[5px] h-[3px] w-[22px] rounded-full ${filled ? FILL[tone] : "bg-edge"}`} />;
  if (shape === "note") return <span className="border-second bg-paper mt-[3px] size-[7px] rotate-45 border-[1.5px]" />;
  const form =
    shape === "text"
      ? "rounded-[3px]"
      : shape === "email"
        ? "rounded-full"
        : "rounded-full ring-2 ring-offset-2 ring-offset-[var(--paper)] ring-current";
  return (
    <span
      className={`size-[11px] border-2 ${form} ${TONE[tone]} ${fill} ${shape === "answer" ? (tone === "leaf" ? "text-leaf" : "text-vermilion") : ""}`}
    />
  );
}
