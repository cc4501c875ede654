import { z } from "zod";
import { DAY, parseDay } from "./zone";

/**
 * The one range of dates that anything may speak of: what lies outside is a slip, and no database or calendar has to
 * bear it.
 */

export const FIRST_DAY = "1900-01-01";
export const LAST_DAY = "2200-12-31";
const FIRST = parseDay(FIRST_DAY) * DAY;
const LAST = (parseDay(LAST_DAY) + 1) * DAY;

/** Whether an instant (milliseconds) lies in the range. */
export function isInRange(at: number): boolean {
  return Number.isFinite(at) && at >= FIRST && at < LAST;
}

/** An ISO 8601 day within the range. */
export const dayText = z.iso
  .date("Enter the date like 2026-11-24.")
  .refine((day) => day >= FIRST_DAY && day <= LAST_DAY, `Choose a date between 1900 and 2200.`);

/** An ISO 8601 instant with its offset, within the range; kept as text. */
export const instantText = z.iso
  .datetime({ offset: true })
  .refine((text) => isInRange(Date.parse(text)), "Give a time between 1900 and 2200.");
