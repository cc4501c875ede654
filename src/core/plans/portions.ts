import { nextPermitted, type SendCalendar } from "../time/sendHours";
import { type Leg, legsOf } from "./legs";
import type { PlanRules } from "./planRules";

/** When the next portion of a list is asked: when the hours of the plan's first message next open at the client. */
export function nextPortion(
  rules: PlanRules,
  client: { calendars: Readonly<Record<string, SendCalendar>> },
  from: number,
): number | null {
  const first: Leg["channel"] = legsOf(rules)[0]?.channel ?? "email";
  const calendar = Object.values(client.calendars)[0];
  return calendar ? (nextPermitted(from, first === "preferred" ? "text" : first, calendar)?.at ?? null) : null;
}

/**
 * When the turn of each visit of a list comes: those of the newest visits first, so many a day. `first` is when the next
 * portion is asked, of which `asked` were already on its day; `next` gives the portion after one (null where none ever
 * opens). Instants are milliseconds since the epoch.
 */
export function turnsOf(
  pool: readonly { id: string; endsAt: number }[],
  perDay: number,
  { first, asked }: { first: number | null; asked: number },
  next: (after: number) => number | null,
): Map<string, number> {
  const turns = new Map<string, number>();
  let at = first;
  let room = perDay - asked;
  for (const { id } of [...pool].sort((a, b) => b.endsAt - a.endsAt || (a.id < b.id ? -1 : 1))) {
    if (at !== null && room <= 0) {
      at = next(at);
      room = perDay;
    }
    if (at === null) break;
    turns.set(id, at);
    room -= 1;
  }
  return turns;
}
