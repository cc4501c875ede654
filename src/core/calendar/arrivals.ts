import { type Arrival, type ArrivalSetting, parseArrival } from "../intake/arrival";
import type { Field } from "../intake/fields";
import type { CalendarEvent } from "./expand";
import { type EventRule, judgeEvent } from "./rules";

/** Events of a calendar to arrivals: who comes is named by an attendee, or by an address in the words. */

export type ReadCalendarEvent = { event: CalendarEvent; serviceId: string | null } & (
  | { kind: "visit"; arrival: Arrival }
  | { kind: "no visit" }
  | { kind: "nobody" }
);

// Bounded, so that long words without an address cost no more than their length.
const EMAIL = /[a-z0-9._%+-]{1,64}@[a-z0-9-]{1,63}(?:\.[a-z0-9-]{1,63}){1,8}/i;
const PHONE = /(?:\+|\b0)[\d\s()./-]{7,18}\d/;
/** The rest of a line that begins with one of these words: "Phone: 07700 900123". */
function labelled(text: string, words: string): string | undefined {
  return new RegExp(`^[^\\S\\n]{0,20}(?:${words})[^\\S\\n]{0,20}[:=](.+)$`, "im").exec(text)?.[1].trim();
}

/** Reads one event. `prefix` keeps the numbers of two calendars apart. */
export function readCalendarEvent(
  event: CalendarEvent,
  rules: readonly EventRule[],
  prefix: string,
  setting: Omit<ArrivalSetting, "order" | "undated">,
): ReadCalendarEvent {
  const judged = judgeEvent(event, rules);
  if (!judged.counts) return { kind: "no visit", event, serviceId: null };
  const words = `${event.title}\n${event.description}\n${event.place}`;
  const [who] = event.people;
  const fields: Partial<Record<Field, string>> = {
    email: who?.email ?? EMAIL.exec(words)?.[0] ?? "",
    phone: labelled(event.description, "phone|mobile|tel|telephone|cell") ?? PHONE.exec(words)?.[0] ?? "",
    "full name":
      who?.name || labelled(event.description, "name|customer|client|pupil|patient") || nameInTitle(event.title),
    about: labelled(event.description, "pet|about|for") ?? "",
    "visit number": `${prefix} ${event.key}`,
    "visit date": new Date(event.endsAt).toISOString(),
    outcome: event.cancelled ? "cancelled" : "",
    service: judged.serviceId ? "" : serviceInTitle(event.title),
  };
  const arrival = parseArrival(fields, { ...setting, order: "day first", undated: "no visit" });
  if ("problems" in arrival || !arrival.visit) return { kind: "nobody", event, serviceId: judged.serviceId };
  return { kind: "visit", event, serviceId: judged.serviceId, arrival };
}

/** "Check-up: Odette Marsh" names the service first; a name with a dash or "with" behind it works the same way. */
function partsOf(title: string): [string, string | null] {
  const [first, ...rest] = title.split(/\s+[-–—|]\s+|:\s+|\s+(?:with|for|mit|avec|con|com)\s+/i);
  return [first.trim(), rest.length > 0 ? rest.join(" ").trim() : null];
}

function nameInTitle(title: string): string {
  const [first, second] = partsOf(title);
  return (second ?? first).replace(EMAIL, "").replace(PHONE, "").trim();
}

function serviceInTitle(title: string): string {
  const [first, second] = partsOf(title);
  return second ? first : "";
}
