import type { ExpandedCalendar } from "@/core/calendar/expand";
import { NoCalendar } from "@/core/calendar/expand";
import type { FileProblem } from "@/core/intake/fileProblems";
import { ApartFailed, workApart } from "@/platform/apart";
import { Unreadable } from "./files";

/** Lists and calendars from outside, read in a process of their own (`platform/apart`). */

/**
 * The list as compressed JSON of `ReadyList`.
 *
 * @param owner whose list it is
 * @throws Unreadable
 */
export async function readListApart(owner: string, bytes: Uint8Array): Promise<Uint8Array> {
  const answer = (await workApart(owner, "list", bytes).catch(asUnreadable)) as
    | { list: Uint8Array }
    | { problem: FileProblem };
  if ("problem" in answer) throw new Unreadable(answer.problem);
  return answer.list;
}

/**
 * The events of a calendar within a window (`expandCalendar`).
 *
 * @param owner whose calendar it is
 * @throws NoCalendar, Unreadable
 */
export async function readCalendarApart(
  owner: string,
  text: string,
  window: { zone: string; from: number; to: number },
): Promise<ExpandedCalendar> {
  const answer = (await workApart(owner, "calendar", { text, window }).catch(asUnreadable)) as
    | { calendar: ExpandedCalendar }
    | { problem: "no calendar" };
  if ("problem" in answer) throw new NoCalendar();
  return answer.calendar;
}

function asUnreadable(error: unknown): never {
  throw error instanceof ApartFailed ? new Unreadable({ code: error.why }) : error;
}
