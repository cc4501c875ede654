"use client";

import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";

/**
 * Makes a ruler's marks reachable: one tab stop, arrow keys between marks, and the mark under pointer or focus in
 * words.
 */
export function RulerKeys({ legend, table, children }: { legend: ReactNode; table: ReactNode; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [says, setSays] = useState<string | null>(null);
  const marks = () =>
    [...(box.current?.querySelectorAll<HTMLElement>("[data-mark]") ?? [])].sort(
      (a, b) => Number.parseFloat(a.style.left) - Number.parseFloat(b.style.left),
    );

  useEffect(() => {
    const all = marks();
    if (all.length > 0 && !all.some((mark) => mark.tabIndex === 0)) all[0].tabIndex = 0;
  });

  // On a narrow screen the line is wider than its window: open it around now.
  useEffect(() => {
    const now = box.current?.querySelector<HTMLElement>("[data-now]");
    if (box.current && now) box.current.scrollLeft = now.offsetLeft - box.current.clientWidth / 2;
  }, []);

  const move = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, Home: Number.NEGATIVE_INFINITY, End: Number.POSITIVE_INFINITY }[
      event.key
    ];
    const all = marks();
    const at = all.indexOf(document.activeElement as HTMLElement);
    if (step === undefined || at < 0) return;
    event.preventDefault();
    const next = all[Math.min(all.length - 1, Math.max(0, at + step))];
    all[at].tabIndex = -1;
    next.tabIndex = 0;
    next.focus();
  };
  const tell = (target: EventTarget) =>
    setSays((target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark ?? null);

  return (
    <section aria-label="Timeline">
      <p className="text-second line-clamp-2 min-h-[40px] text-[13px] sm:line-clamp-1 sm:min-h-[24px]">
        {says ? <span className="text-ink font-semibold">{says}</span> : legend}
      </p>
      <div
        ref={box}
        role="group"
        aria-label="Visits and messages in time order; use the arrow keys to move between them"
        className="overflow-x-auto overflow-y-clip pt-[26px]"
        onKeyDown={move}
        onPointerOver={(event) => tell(event.target)}
        onPointerLeave={() => setSays(null)}
        onFocus={(event) => tell(event.target)}
        onBlur={() => setSays(null)}
      >
        {children}
      </div>
      <div className="sr-only">{table}</div>
    </section>
  );
}
