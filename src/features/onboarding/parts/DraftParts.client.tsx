"use client";

import { useEffect, useRef } from "react";
import type { ClientDraft } from "@/core/onboarding/draft";
import { WEEKDAYS } from "@/core/time/say";
import { lost } from "@/ui/lost.client";
import type { ActionResult } from "@/ui/result";

/** Keeps what is typed, a moment after the last letter. */
export function useKept(
  draft: ClientDraft,
  save: (draft: ClientDraft) => Promise<ActionResult>,
  say: (words: string) => void,
): void {
  const last = useRef(JSON.stringify(draft));
  useEffect(() => {
    const now = JSON.stringify(draft);
    if (now === last.current) return;
    const timer = setTimeout(async () => {
      const result = await save(draft).catch(lost(null));
      if (result?.ok) last.current = now;
      say(
        result?.ok ? "Saved." : (result?.message ?? "Not saved: the connection dropped. We’ll try again as you type."),
      );
    }, 700);
    return () => clearTimeout(timer);
  }, [draft, save, say]);
}

export type Part = { draft: ClientDraft; change: (part: Partial<ClientDraft>) => void };

/** What a visit can be about. */
export function Services({ draft, wrong, change }: Part & { wrong?: string }) {
  const set = (index: number, part: Partial<ClientDraft["services"][number]>) =>
    change({ services: draft.services.map((one, at) => (at === index ? { ...one, ...part } : one)) });
  return (
    <section aria-label="Services">
      <h2 className="text-[19px] font-semibold">Services</h2>
      <p className="text-second text-[14px]">What people come in for. Tick the ones you never want to ask about.</p>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {draft.services.map((service, index) => (
          <li key={index} className="flex flex-wrap items-center gap-3 py-2">
            <input
              className="field min-w-0 flex-1 basis-[200px]"
              aria-label={`Service ${index + 1}`}
              aria-invalid={wrong !== undefined && service.name.trim() === ""}
              value={service.name}
              onChange={(event) => set(index, { name: event.target.value })}
            />
            <label className="flex min-h-[32px] items-center gap-2">
              <input
                type="checkbox"
                className="size-[17px]"
                checked={service.neverAsk}
                onChange={(event) => set(index, { neverAsk: event.target.checked })}
              />
              never ask about it
            </label>
            <button
              type="button"
              className="button-quiet"
              onClick={() => change({ services: draft.services.filter((_, at) => at !== index) })}
            >
              Remove<span className="sr-only"> {service.name}</span>
            </button>
          </li>
        ))}
      </ul>
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
          {wrong}
        </p>
      ) : null}
      <button
        type="button"
        className="button mt-3"
        onClick={() => change({ services: [...draft.services, { name: "", neverAsk: false }] })}
      >
        Add a service
      </button>
    </section>
  );
}

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

const HALF_HOURS = Array.from({ length: 49 }, (_, index) => index * 30);

/** A time of day, by the half hour, in minutes since midnight. */
function HalfHour({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <select
      aria-label={label}
      className="field w-auto"
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
    >
      {HALF_HOURS.map((minutes) => (
        <option key={minutes} value={minutes}>
          {clock(minutes)}
        </option>
      ))}
    </select>
  );
}

/** Send hours. */
export function Hours({ draft, wrong, change }: Part & { wrong?: string }) {
  return (
    <section aria-label="Send hours">
      <h2 className="text-[19px] font-semibold">Send hours</h2>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        {WEEKDAYS.map((day, index) => (
          <label key={day} className="flex min-h-[32px] items-center gap-1.5">
            <input
              type="checkbox"
              className="size-[17px]"
              checked={draft.days.includes(index)}
              onChange={(event) =>
                change({
                  days: event.target.checked
                    ? [...draft.days, index].sort((a, b) => a - b)
                    : draft.days.filter((one) => one !== index),
                })
              }
            />
            {day}
          </label>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        from
        <HalfHour label="From" value={draft.opens} onChange={(opens) => change({ opens })} />
        to
        <HalfHour label="To" value={draft.closes} onChange={(closes) => change({ closes })} />
      </div>
      <p className="text-second mt-1 text-[14px]">
        Texts never go out before 8:00 or after 21:00 in the customer’s own time.
      </p>
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
          {wrong}
        </p>
      ) : null}
    </section>
  );
}

const WAYS = [
  ["webhook", "Job or booking software sends them", "You’ll get an address and a secret for it."],
  ["calendar", "From a calendar", "Its address ends in .ics. We check it every half hour."],
  ["drop-off", "The front desk uploads lists", "On a page only people with the link can open."],
] as const;

/** How visits come in. */
export function WaysIn({ draft, wrong, change }: Part & { wrong?: string }) {
  return (
    <section aria-label="How visits come in">
      <h2 className="text-[19px] font-semibold">How visits come in</h2>
      <p className="text-second text-[14px]">Whatever you choose, you can also import lists and add single visits.</p>
      <ul className="mt-2 space-y-2">
        {WAYS.map(([kind, words, says]) => (
          <li key={kind}>
            <label className="flex min-h-[32px] items-center gap-2">
              <input
                type="checkbox"
                className="size-[17px] shrink-0"
                checked={draft.feeds.includes(kind)}
                onChange={(event) =>
                  change({
                    feeds: event.target.checked
                      ? [...draft.feeds, kind]
                      : draft.feeds.filter((other) => other !== kind),
                  })
                }
              />
              <span>
                {words}. <span className="text-second text-[14px]">{says}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      {draft.feeds.includes("calendar") ? (
        <div className="mt-2 max-w-[520px]">
          <label className="label" htmlFor="start-calendar">
            Address of the calendar
          </label>
          <input
            id="start-calendar"
            className="field"
            inputMode="url"
            value={draft.calendarUrl}
            placeholder="https://"
            onChange={(event) => change({ calendarUrl: event.target.value })}
            aria-invalid={wrong !== undefined}
            autoComplete="off"
          />
          {wrong ? (
            <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
              {wrong}
            </p>
          ) : null}
        </div>
      ) : null}
    </section>
  );
}
