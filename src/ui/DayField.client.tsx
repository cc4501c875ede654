"use client";

import { CalendarDays } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { DayPicker } from "react-day-picker";

/** Days are "2026-11-24", without a zone; the calendar's own days are read at local noon, so that none slips. */
const dateOf = (day: string) => new Date(`${day}T12:00:00`);

function dayOf(date: Date): string {
  const two = (value: number) => String(value).padStart(2, "0");
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

const WORDS = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", year: "numeric" });

const isDay = (day: string | null | undefined): day is string =>
  /^\d{4}-\d{2}-\d{2}$/.test(day ?? "") && !Number.isNaN(dateOf(day as string).getTime());

/** A month to pick a day from; the arrow keys go from day to day. */
export function DayCalendar({
  day,
  today,
  onPick,
}: {
  day: string | null;
  /** The day it is at the client; in the demo that is not the browser's. */
  today: string | null;
  onPick: (day: string) => void;
}) {
  const selected = isDay(day) ? dateOf(day) : undefined;
  return (
    <DayPicker
      mode="single"
      weekStartsOn={1}
      autoFocus
      selected={selected}
      today={isDay(today) ? dateOf(today) : undefined}
      defaultMonth={selected ?? (isDay(today) ? dateOf(today) : undefined)}
      onDayClick={(date) => onPick(dayOf(date))}
      classNames={{
        root: "relative",
        month_caption: "font-title flex h-9 items-center pl-2 text-[15px] font-semibold",
        nav: "absolute top-0 right-0 flex gap-1",
        button_previous: "button-quiet !min-h-[36px] !px-2",
        button_next: "button-quiet !min-h-[36px] !px-2",
        chevron: "size-4 fill-current",
        weekday: "text-second h-8 w-9 text-center text-[12.5px] font-normal",
        day: "p-0 text-center",
        day_button: "size-9 rounded-full hover:bg-mulberry-tint",
        selected: "[&>button]:bg-mulberry [&>button]:text-on-mulberry [&>button]:font-semibold",
        today: isDay(today) ? "[&>button]:outline [&>button]:outline-edge" : "",
        outside: "text-second",
      }}
    />
  );
}

/** A day in a form, picked from a calendar. The field is empty where no date is chosen. */
export function DayField({
  id,
  name,
  label,
  defaultValue = "",
  today = null,
  isOptional = false,
}: {
  id: string;
  name: string;
  /** What a screen reader says before the day. */
  label: string;
  defaultValue?: string;
  today?: string | null;
  isOptional?: boolean;
}) {
  const [day, setDay] = useState(isDay(defaultValue) ? defaultValue : "");
  const [open, setOpen] = useState(false);
  const words = day ? WORDS.format(dateOf(day)) : "no date";
  return (
    <div className="flex items-center gap-1">
      <input type="hidden" name={name} value={day} />
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          id={id}
          className="field flex items-center gap-2 text-left"
          aria-label={`${label}: ${words}`}
          data-day={name}
        >
          <CalendarDays size={16} aria-hidden="true" className="text-second shrink-0" />
          {words}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content sideOffset={6} collisionPadding={12} align="start" className="menu !p-3">
            <DayCalendar
              day={day || null}
              today={today}
              onPick={(picked) => {
                setDay(picked);
                setOpen(false);
              }}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {isOptional && day ? (
        <button type="button" className="button-quiet" onClick={() => setDay("")}>
          No date
        </button>
      ) : null}
    </div>
  );
}
