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
