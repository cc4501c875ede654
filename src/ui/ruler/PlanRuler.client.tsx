"use client";

import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { whyThen } from "@/core/asks/whyThen";
import { delayTo, type ExampleMark, exampleOf } from "@/core/plans/example";
import type { PlanRules } from "@/core/plans/planRules";
import { addDelay, type Delay, describeDelay } from "@/core/time/delay";
import { sayWhen } from "@/core/time/say";
import { openStretches, type SendHours } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import { scheduleSentence } from "@/locales/asking";
import { Shape } from "./DayRuler";

export type RulerCalendar = { zone: string; hours: SendHours; closedDays: number[] };

type Moved = { step: number; delay: Delay };

/**
 * A plan drawn on the days after an example visit, by the very function that sends: closed hours hatched, the visit as
 * a tick, each message where it would really leave. Messages are dragged along the line, or moved with the arrow keys:
 * a quarter of an hour, with Shift a day; Enter keeps, Escape takes it back.
 */
export function PlanRuler({
  rules,
  calendar,
  anchorAt,
  anchorName,
  gapMinutes,
  current,
  hrefs,
  keep,
}: {
  rules: PlanRules;
  calendar: RulerCalendar;
  anchorAt: number;
  anchorName: string;
  gapMinutes: number;
  current: number;
  hrefs: string[];
  /** Keeps a moved message; null where nobody may move any. Gives what was wrong, or null. */
  keep: ((step: number, delay: Delay) => Promise<string | null>) | null;
}) {
  const [moved, setMoved] = useState<Moved | null>(null);
  const [keeping, setKeeping] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const drag = useRef<{ step: number; startX: number; startAt: number; far: boolean } | null>(null);
  const cal = useMemo(() => ({ ...calendar, closedDays: new Set(calendar.closedDays) }), [calendar]);
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
  // biome-ignore lint/correctness/useExhaustiveDependencies: a kept change arrives as new rules
  useEffect(() => setMoved(null), [rules]);

  const firstDay = dayNumber(toLocal(cal.zone, anchorAt));
  const from = fromLocal(cal.zone, firstDay * DAY);
  // The line keeps its length while something is dragged along it.
  const still = useMemo(() => exampleOf(rules, anchorAt, cal, gapMinutes), [rules, anchorAt, cal, gapMinutes]);
  const days = Math.min(60, Math.max(5, Math.ceil(((still.at(-1)?.at ?? anchorAt) - from) / DAY) + 2));
  const to = from + days * DAY;
  const place = (at: number) => Math.min(99.4, Math.max(0.4, ((at - from) / (to - from)) * 100));
  const open = Array.from({ length: days }, (_, index) => openStretches(firstDay + index, "text", cal)).flat();
  const every = days > 10 ? Math.ceil(days / 8) : 1;

  const begin = (event: PointerEvent<HTMLElement>, mark: ExampleMark) => {
    if (!keep || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { step: mark.step, startX: event.clientX, startAt: mark.wantedAt, far: false };
  };
  const along = (event: PointerEvent<HTMLElement>, mark: ExampleMark) => {
    const it = drag.current;
    const width = box.current?.clientWidth ?? 1;
    if (!it || it.step !== mark.step) return;
    if (Math.abs(event.clientX - it.startX) > 3) it.far = true;
    if (it.far)
      setMoved({
        step: it.step,
        delay: delayTo(mark.baseAt, it.startAt + ((event.clientX - it.startX) / width) * (to - from), cal.zone),
      });
  };
  const finish = async (event: PointerEvent<HTMLElement>) => {
    const it = drag.current;
    drag.current = null;
    if (!it?.far) return;
    event.preventDefault();
    await settle();
  };
  const settle = async () => {
    if (!moved || !keep) return;
    const before = rules.steps[moved.step].delay;
    if (describeDelay(before) === describeDelay(moved.delay)) return setMoved(null);
    setKeeping(true);
    const trouble = await keep(moved.step, moved.delay).catch(
      () => "Nothing was saved: the connection is lost. Try again.",
    );
    setKeeping(false);
    setWrong(trouble);
    if (trouble) setMoved(null);
  };
  const key = (event: KeyboardEvent, mark: ExampleMark) => {
    if (!keep) return;
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) {
      event.preventDefault();
      const now = moved?.step === mark.step ? moved.delay : rules.steps[mark.step].delay;
      setMoved({ step: mark.step, delay: nudge(now, by, event.shiftKey) });
    } else if (event.key === "Enter" && moved) {
      event.preventDefault();
      void settle();
    } else if (event.key === "Escape" && moved) {
      event.preventDefault();
      setMoved(null);
    }
  };
  const say = (mark: ExampleMark) => {
    const leg = shown.steps[mark.step];
    const opensReview = leg.part === "review" && shown.steps[mark.step - 1]?.part !== "review";
    const after = opensReview ? "answer" : mark.baseAt === anchorAt ? "visit" : "message";
    const channel = mark.channels[0];
    return scheduleSentence(whyThen(mark.why, mark.at, { delay: leg.delay, after, channel, calendar: cal }));
  };
  const held = moved ? marks.find(({ step }) => step === moved.step) : null;
  return (
    <figure aria-label="The plan on the time ruler">
      <p className="text-second min-h-[24px] text-[13.5px]" aria-live="polite">
        {held && moved ? (
          <span className="text-ink">
            <b>{shown.steps[moved.step].name}</b>: wanted{" "}
            {sayWhen(cal.zone, addDelay(held.baseAt, moved.delay, cal.zone), anchorAt)}, leaves{" "}
            <b>{sayWhen(cal.zone, held.at, anchorAt)}</b>. {say(held)}{" "}
            {keeping ? "Saving ..." : "Enter saves it, Escape takes it back."}
          </span>
        ) : wrong ? (
          <span className="text-vermilion-deep">{wrong}</span>
        ) : keep ? (
          "Drag a message along the line, or move it with the arrow keys (with Shift by a day)."
        ) : (
          "Each message stands where it would really leave."
        )}
      </p>
      <div className="overflow-x-auto pb-1">
        <div className="relative min-w-[620px]">
          <div className="relative h-[20px]">
            {Array.from({ length: days }, (_, index) => index)
              .filter((index) => index % every === 0)
              .map((index) => (
                <span
                  key={index}
                  className="text-second absolute -translate-x-1/2 text-[12.5px] whitespace-nowrap"
                  style={{ left: `${((index + 0.5) / days) * 100}%` }}
                >
                  {index === 0 ? `${anchorName} day` : index === 1 ? "1 day later" : `${index} days`}
                </span>
              ))}
          </div>
          <div ref={box} className="relative mt-1 h-[84px]">
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
              style={{ left: `${place(anchorAt)}%` }}
            >
              <span className="bg-sheet/80 px-1 text-[12px] leading-[14px] font-semibold">{anchorName}</span>
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
          <div className="relative" style={{ height: 58 + 50 * Math.max(0, ...lanesOf(marks, place)) }}>
            {marks.map((mark, index) => (
              <a
                key={mark.step}
                href={hrefs[mark.step]}
                draggable={false}
                aria-current={mark.step === current ? "true" : undefined}
                aria-label={`${shown.steps[mark.step].name}: ${mark.channels.join(" and ")}, ${sayWhen(cal.zone, mark.at, anchorAt)}`}
                onPointerDown={(event) => begin(event, mark)}
                onPointerMove={(event) => along(event, mark)}
                onPointerUp={(event) => void finish(event)}
                onClick={(event) => moved && event.preventDefault()}
                onKeyDown={(event) => key(event, mark)}
                onBlur={() => !drag.current && void settle()}
                className={`absolute flex min-h-[46px] -translate-x-1/2 touch-none flex-col items-center justify-center rounded-[9px] border px-3 py-1 text-[13px] leading-[1.3] whitespace-nowrap no-underline select-none ${keep ? "cursor-grab active:cursor-grabbing" : ""} ${mark.step === current ? "border-mulberry bg-mulberry-tint" : "border-edge bg-sheet hover:border-mulberry"}`}
                style={{
                  left: `clamp(92px, ${place(mark.at)}%, calc(100% - 92px))`,
                  top: 4 + 50 * lanesOf(marks, place)[index],
                }}
              >
                <b>{shown.steps[mark.step].name}</b>
                <span className="text-second">
                  {mark.channels.join(" and ")},{" "}
                  {sayWhen(cal.zone, mark.at, anchorAt).replace(/^today at/, "that day at")}
                </span>
              </a>
            ))}
          </div>
        </div>
      </div>
      <div className="sr-only">
        <table>
          <caption>The plan as a table</caption>
          <thead>
            <tr>
              <th>Message</th>
              <th>Leaves</th>
              <th>Why then</th>
            </tr>
          </thead>
          <tbody>
            {marks.map((mark) => (
              <tr key={mark.step}>
                <td>{shown.steps[mark.step].name}</td>
                <td>{sayWhen(cal.zone, mark.at, anchorAt)}</td>
                <td>{say(mark)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  );
}

/** A delay a quarter of an hour or a day longer or shorter, in the unit that says it best. */
function nudge(delay: Delay, by: number, byDay: boolean): Delay {
  const isDays = delay.unit === "days" || delay.unit === "weeks";
  const days = delay.unit === "weeks" ? delay.amount * 7 : delay.amount;
  if (isDays) {
    if (byDay) return { ...delay, unit: "days", amount: Math.max(1, days + by) };
    const at = (delay.at ?? 600) + by * 15;
    if (at < 0) return days > 1 ? { amount: days - 1, unit: "days", at: 1425 } : { amount: days, unit: "days", at: 0 };
    return at > 1439 ? { amount: days + 1, unit: "days", at: 0 } : { amount: days, unit: "days", at };
  }
  const minutes = delay.unit === "hours" ? delay.amount * 60 : delay.amount;
  if (byDay) return by > 0 ? { amount: 1, unit: "days", at: 600 } : { amount: 0, unit: "minutes" };
  const after = Math.max(0, minutes + by * 15);
  return after > 0 && after % 60 === 0
    ? { amount: after / 60, unit: "hours" }
    : { amount: Math.min(2000, after), unit: "minutes" };
}

/** Cards that would lie on each other stand on lines below. */
function lanesOf(marks: ExampleMark[], place: (at: number) => number): number[] {
  const ends: number[] = [];
  return marks.map((mark) => {
    const at = place(mark.at);
    const lane = ends.findIndex((end) => at - end > 22);
    const free = lane === -1 ? ends.length : lane;
    ends[free] = at;
    return free;
  });
}
