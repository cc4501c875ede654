"use client";

import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { delayTo, type ExampleMark } from "@/core/plans/example";
import type { PlanRules } from "@/core/plans/planRules";
import { type Delay, describeDelay } from "@/core/time/delay";

export type Moved = { step: number; delay: Delay };

/** Saves a moved message. Gives what was wrong, or null. */
export type SaveMove = (step: number, delay: Delay) => Promise<string | null>;

/**
 * Moving the messages of a plan along its ruler, by pointer or by arrow keys. What was moved is shown until it is saved
 * or taken back; a saved change arrives as new rules. `span` is the length of the line in milliseconds.
 */
export function useMoves(rules: PlanRules, zone: string, span: number, save: SaveMove | null) {
  const [moved, setMoved] = useState<Moved | null>(null);
  const [saving, setSaving] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const line = useRef<HTMLDivElement>(null);
  const drag = useRef<{ step: number; startX: number; startAt: number; far: boolean } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a saved change arrives as new rules
  useEffect(() => setMoved(null), [rules]);

  const finish = async () => {
    if (!moved || !save) return;
    const before = rules.steps[moved.step].delay;
    if (describeDelay(before) === describeDelay(moved.delay)) return setMoved(null);
    setSaving(true);
    const problem = await save(moved.step, moved.delay).catch(
      () => "The connection dropped and nothing was saved. Try again.",
    );
    setSaving(false);
    setWrong(problem);
    if (problem) setMoved(null);
  };
  /** What an element that can be dragged along the line listens to. */
  const handlersOf = (mark: ExampleMark) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (!save || event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { step: mark.step, startX: event.clientX, startAt: mark.wantedAt, far: false };
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const it = drag.current;
      if (!it || it.step !== mark.step) return;
      if (Math.abs(event.clientX - it.startX) > 3) it.far = true;
      if (!it.far) return;
      const by = ((event.clientX - it.startX) / (line.current?.clientWidth ?? 1)) * span;
      setMoved({ step: it.step, delay: delayTo(mark.baseAt, it.startAt + by, zone) });
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      const it = drag.current;
      drag.current = null;
      if (!it?.far) return;
      event.preventDefault();
      void finish();
    },
    onClick: (event: { preventDefault: () => void }) => moved && event.preventDefault(),
    onKeyDown: (event: KeyboardEvent) => {
      if (!save) return;
      const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (!by && !(moved && (event.key === "Enter" || event.key === "Escape"))) return;
      event.preventDefault();
      if (by) {
        const now = moved?.step === mark.step ? moved.delay : rules.steps[mark.step].delay;
        setMoved({ step: mark.step, delay: nudge(now, by, event.shiftKey) });
      } else if (event.key === "Enter") void finish();
      else setMoved(null);
    },
    onBlur: () => !drag.current && void finish(),
  });
  return { moved, saving, wrong, line, handlersOf };
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
