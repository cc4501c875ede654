"use client";

import { useMemo } from "react";
import { whyThen } from "@/core/asks/whyThen";
import { type ExampleMark, exampleOf } from "@/core/plans/example";
import type { PlanRules } from "@/core/plans/planRules";
import { addDelay } from "@/core/time/delay";
import { sayWhen } from "@/core/time/say";
import { openStretches, type SendHours } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import { scheduleSentence } from "@/locales/asking";
import { PlanLine, type PlanSpan, placeOf } from "./PlanLine";
import { type SaveMove, useMoves } from "./useMoves.client";

export type RulerCalendar = { zone: string; hours: SendHours; closedDays: number[] };

type Props = {
  rules: PlanRules;
  calendar: RulerCalendar;
  anchorAt: number;
  anchorName: string;
  gapMinutes: number;
  current: number;
  hrefs: string[];
  /** Saves a moved message; null where nobody may move any. */
  save: SaveMove | null;
};

/**
 * A plan drawn on the days after an example visit, by the very function that sends: closed hours hatched, the visit as
 * a tick, each message where it would really leave. Messages are dragged along the line, or moved with the arrow keys:
 * a quarter of an hour, with Shift a day; Enter saves, Escape takes it back.
 */
export function PlanRuler({ rules, calendar, anchorAt, anchorName, gapMinutes, current, hrefs, save }: Props) {
  const cal = useMemo(() => ({ ...calendar, closedDays: new Set(calendar.closedDays) }), [calendar]);
  // The line keeps its length while something is dragged along it.
  const span = useMemo(() => {
    const marks = exampleOf(rules, anchorAt, cal, gapMinutes);
    return spanOf(marks.at(-1)?.at ?? anchorAt, anchorAt, cal);
  }, [rules, anchorAt, cal, gapMinutes]);
  const moves = useMoves(rules, cal.zone, span.to - span.from, save);
  const { moved, saving, wrong } = moves;
  const shown = useMemo(
    () =>
      moved
        ? {
            ...rules,
            steps: rules.steps.map((step, index) => (index === moved.step ? { ...step, delay: moved.delay } : step)),
          }
        : rules,
    [rules, moved],
  );
  const marks = useMemo(() => exampleOf(shown, anchorAt, cal, gapMinutes), [shown, anchorAt, cal, gapMinutes]);
  const why = (mark: ExampleMark) => {
    const leg = shown.steps[mark.step];
    const opensReview = leg.part === "review" && shown.steps[mark.step - 1]?.part !== "review";
    const after = opensReview ? "answer" : mark.baseAt === anchorAt ? "visit" : "message";
    const channel = mark.channels[0];
    const begins = shown.begins.kind;
    return scheduleSentence(whyThen(mark.why, mark.at, { delay: leg.delay, after, begins, channel, calendar: cal }));
  };
  const when = (at: number) => sayWhen(cal.zone, at, anchorAt);
  const held = moved ? marks.find(({ step }) => step === moved.step) : null;
  return (
    <figure aria-label="The plan on a timeline">
      <p className="text-second min-h-[24px] text-[13.5px]" aria-live="polite">
        {held && moved ? (
          <span className="text-ink">
            <b>{shown.steps[moved.step].name}</b>: set for {when(addDelay(held.baseAt, moved.delay, cal.zone))}, goes
            out <b>{when(held.at)}</b>. {why(held)} {saving ? "Saving…" : "Press Enter to save, Escape to undo."}
          </span>
        ) : wrong ? (
          <span className="text-vermilion-deep">{wrong}</span>
        ) : save ? (
          "Drag a message along the line, or use the arrow keys (hold Shift to move it by a day)."
        ) : (
          "Each message is shown when it would really go out."
        )}
      </p>
      <div className="overflow-x-auto pb-1">
        <div className="relative min-w-[620px]">
          <PlanLine
            ref={moves.line}
            span={span}
            marks={marks}
            anchor={{ at: anchorAt, name: anchorName }}
            current={current}
          />
          <PlanCards
            rules={shown}
            marks={marks}
            span={span}
            when={when}
            current={current}
            hrefs={hrefs}
            moves={moves}
            mayMove={save !== null}
          />
        </div>
      </div>
      <PlanTable rules={shown} marks={marks} when={when} why={why} />
    </figure>
  );
}

/** The line from the anchor's day to two days after the last message, at least five days and at most sixty. */
function spanOf(
  lastAt: number,
  anchorAt: number,
  calendar: { zone: string; hours: SendHours; closedDays: ReadonlySet<number> },
): PlanSpan {
  const firstDay = dayNumber(toLocal(calendar.zone, anchorAt));
  const from = fromLocal(calendar.zone, firstDay * DAY);
  const days = Math.min(60, Math.max(5, Math.ceil((lastAt - from) / DAY) + 2));
  const open = Array.from({ length: days }, (_, index) => openStretches(firstDay + index, "text", calendar)).flat();
  return { from, to: from + days * DAY, days, open };
}

/** A card below each mark, which opens the message and is what one drags. */
function PlanCards({
  rules,
  marks,
  span,
  when,
  current,
  hrefs,
  moves,
  mayMove,
}: {
  rules: PlanRules;
  marks: readonly ExampleMark[];
  span: PlanSpan;
  when: (at: number) => string;
  current: number;
  hrefs: string[];
  moves: ReturnType<typeof useMoves>;
  mayMove: boolean;
}) {
  const lanes = lanesOf(marks.map(({ at }) => placeOf(span, at)));
  return (
    <div className="relative" style={{ height: 58 + 50 * Math.max(0, ...lanes) }}>
      {marks.map((mark, index) => (
        <a
          key={mark.step}
          href={hrefs[mark.step]}
          draggable={false}
          aria-current={mark.step === current ? "true" : undefined}
          aria-label={`${rules.steps[mark.step].name}: ${mark.channels.join(" and ")}, ${when(mark.at)}`}
          {...moves.handlersOf(mark)}
          className={`absolute flex min-h-[46px] -translate-x-1/2 touch-none flex-col items-center justify-center rounded-[9px] border px-3 py-1 text-[13px] leading-[1.3] whitespace-nowrap no-underline select-none ${mayMove ? "cursor-grab active:cursor-grabbing" : ""} ${mark.step === current ? "border-mulberry bg-mulberry-tint" : "border-edge bg-sheet hover:border-mulberry"}`}
          style={{
            left: `clamp(92px, ${placeOf(span, mark.at)}%, calc(100% - 92px))`,
            top: 4 + 50 * lanes[index],
          }}
        >
          <b>{rules.steps[mark.step].name}</b>
          <span className="text-second">
            {mark.channels.join(" and ")}, {when(mark.at).replace(/^today at/, "that day at")}
          </span>
        </a>
      ))}
    </div>
  );
}

/** The same for whoever cannot see the line. */
function PlanTable({
  rules,
  marks,
  when,
  why,
}: {
  rules: PlanRules;
  marks: readonly ExampleMark[];
  when: (at: number) => string;
  why: (mark: ExampleMark) => string;
}) {
  return (
    <div className="sr-only">
      <table>
        <caption>The plan as a table</caption>
        <thead>
          <tr>
            <th>Message</th>
            <th>Goes out</th>
            <th>Why at that time</th>
          </tr>
        </thead>
        <tbody>
          {marks.map((mark) => (
            <tr key={mark.step}>
              <td>{rules.steps[mark.step].name}</td>
              <td>{when(mark.at)}</td>
              <td>{why(mark)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Cards that would lie on each other stand on lines below; places in percent, in order. */
function lanesOf(places: readonly number[]): number[] {
  const ends: number[] = [];
  return places.map((at) => {
    const lane = ends.findIndex((end) => at - end > 22);
    const free = lane === -1 ? ends.length : lane;
    ends[free] = at;
    return free;
  });
}
