import { type Channel, openStretches, type SendCalendar } from "./sendHours";
import { dayNumber, toLocal } from "./zone";

/**
 * Where one message of a list leaves, so that the list as a whole is spread over the send hours: at `fraction` of the
 * open time of the day of `from` (what is left of it, at least two hours) or else of the next day that opens. Null
 * when nothing opens within 60 days. Instants are milliseconds since the epoch.
 */
export function spreadSlot(from: number, fraction: number, channel: Channel, calendar: SendCalendar): number | null {
  const day = dayNumber(toLocal(calendar.zone, from));
  for (let ahead = 0; ahead <= 60; ahead++) {
    const open = openStretches(day + ahead, channel, calendar)
      .map((stretch) => ({ from: Math.max(from, stretch.from), to: stretch.to }))
      .filter((stretch) => stretch.from < stretch.to);
    const length = open.reduce((sum, stretch) => sum + stretch.to - stretch.from, 0);
    if (length === 0 || (ahead === 0 && length < LEAST)) continue;
    let rest = Math.floor(length * fraction);
    for (const stretch of open) {
      if (rest < stretch.to - stretch.from) return stretch.from + rest;
      rest -= stretch.to - stretch.from;
    }
  }
  return null;
}

/** With less of a day left than this, a list begins on the next. */
const LEAST = 2 * 3_600_000;
