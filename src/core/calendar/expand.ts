import ICAL from "ical.js";
import { DAY, fromLocal, HOUR, isZone } from "../time/zone";

/** Events of an iCalendar file (RFC 5545) as instants: recurring ones expanded, exceptions and cancellations in their place. */

export type CalendarEvent = {
  /** UID, and for an occurrence of a series its RECURRENCE-ID: stays the same when the occurrence is moved. */
  key: string;
  title: string;
  description: string;
  place: string;
  categories: string[];
  /** Instants in milliseconds. An all-day event ends at six in the evening of its last day. */
  startsAt: number;
  endsAt: number;
  allDay: boolean;
  cancelled: boolean;
  people: { name: string; email: string }[];
};

/** A file that is no calendar, said in words. */
export class NoCalendar extends Error {}

/** So many occurrences are walked through in one file, most of them long past. */
const MOST_STEPS = 60_000;

/**
 * The events that end between `from` and `to` (instants). Floating times and all-day events are read in `zone`. Series whose
 * clock change falls in between keep their wall time. Throws `NoCalendar`; a single event that cannot be read is counted.
 */
export function expandCalendar(text: string, { zone, from, to }: { zone: string; from: number; to: number }): { events: CalendarEvent[]; unreadable: number } {
  let root: ICAL.Component;
  try {
    const parsed = ICAL.parse(text);
    root = new ICAL.Component(parsed as unknown[] as ConstructorParameters<typeof ICAL.Component>[0]);
    if (root.name !== "vcalendar") throw new Error();
  } catch {
    throw new NoCalendar("This is no calendar in the iCalendar format.");
  }
  const zones = zonesOf(root);
  const at = (time: ICAL.Time) => instantOf(time, zone, zones);
  const events: CalendarEvent[] = [];
  let unreadable = 0;
  let steps = 0;
  const masters = new Map<string, ICAL.Event>();
  const exceptions: ICAL.Event[] = [];
  for (const component of root.getAllSubcomponents("vevent")) {
    const event = new ICAL.Event(component);
    if (!event.uid || !component.getFirstProperty("dtstart")) unreadable += 1;
    else if (event.isRecurrenceException()) exceptions.push(event);
    // Of two with one UID the later one in the file counts.
    else masters.set(event.uid, event);
  }
  const loose = exceptions.filter((exception) => {
    const master = masters.get(exception.uid);
    if (!master) return true;
    master.relateException(exception);
    return false;
  });
  const add = (event: ICAL.Event, key: string, start: ICAL.Time, end: ICAL.Time) => {
    const span = spanOf(start, end, at, zone);
    if (span.endsAt < from || span.endsAt > to) return;
    events.push({ ...factsOf(event), key, ...span });
  };
  for (const event of masters.values()) {
    try {
      if (!event.isRecurring()) {
        add(event, event.uid, event.startDate, event.endDate);
        continue;
      }
      // Nobody is visited every minute.
      if (/FREQ=(?:SECOND|MINUTE)LY/.test(String(event.component.getFirstPropertyValue("rrule")))) throw new Error("too often");
      const series = event.iterator();
      // Past the window by a day, since a moved occurrence may come earlier than its place in the series.
      for (; steps < MOST_STEPS; steps++) {
        const next = series.next();
        if (!next || at(next) > to + 62 * DAY) break;
        const { item, startDate, endDate, recurrenceId } = event.getOccurrenceDetails(next);
        add(item, `${event.uid} ${recurrenceId.toICALString()}`, startDate, endDate);
      }
    } catch {
      unreadable += 1;
    }
  }
  for (const exception of loose) add(exception, `${exception.uid} ${exception.recurrenceId.toICALString()}`, exception.startDate, exception.endDate);
  return { events: events.sort((a, b) => a.endsAt - b.endsAt || a.key.localeCompare(b.key)), unreadable };
}

/** Zones that the file itself defines, for names that are not IANA's. */
function zonesOf(root: ICAL.Component): Map<string, ICAL.Timezone> {
  const zones = new Map<string, ICAL.Timezone>();
  for (const component of root.getAllSubcomponents("vtimezone")) {
    const zone = new ICAL.Timezone(component);
    if (zone.tzid) zones.set(zone.tzid, zone);
  }
  return zones;
}

function instantOf(time: ICAL.Time, zone: string, zones: Map<string, ICAL.Timezone>): number {
  const local = Date.UTC(time.year, time.month - 1, time.day, time.isDate ? 0 : time.hour, time.isDate ? 0 : time.minute, time.isDate ? 0 : time.second);
  if (time.isDate) return fromLocal(zone, local);
  const name = time.zone?.tzid ?? "floating";
  if (name === "UTC" || name === "Z") return local;
  // A zone's name says more than the rules that a program copied beside it, as long as it is one that is known.
  if (name !== "floating" && isZone(name)) return fromLocal(name, local);
  const own = zones.get(name);
  if (own) return local - own.utcOffset(time) * 1000;
  const named = (time as unknown as { timezone?: string }).timezone;
  return fromLocal(named && isZone(named) ? named : zone, local);
}

function spanOf(start: ICAL.Time, end: ICAL.Time, at: (time: ICAL.Time) => number, zone: string): Pick<CalendarEvent, "startsAt" | "endsAt" | "allDay"> {
  const startsAt = at(start);
  if (!start.isDate) return { startsAt, endsAt: Math.max(at(end), startsAt), allDay: false };
  // The end of an all-day event is the day after its last.
  const last = Math.max(Date.UTC(end.year, end.month - 1, end.day) - DAY, Date.UTC(start.year, start.month - 1, start.day));
  return { startsAt, endsAt: fromLocal(zone, last + 18 * HOUR), allDay: true };
}

function factsOf(event: ICAL.Event): Pick<CalendarEvent, "title" | "description" | "place" | "categories" | "cancelled" | "people"> {
  const { component } = event;
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? "");
  const organizer = text("organizer").toLowerCase();
  return {
    title: text("summary").trim().slice(0, 200),
    description: text("description").slice(0, 4000),
    place: text("location").slice(0, 300),
    categories: component.getAllProperties("categories").flatMap((property) => property.getValues().map(String)),
    cancelled: text("status").toUpperCase() === "CANCELLED",
    people: component.getAllProperties("attendee").flatMap((property) => {
      const address = String(property.getFirstValue() ?? "");
      const declined = String(property.getParameter("partstat") ?? "").toUpperCase() === "DECLINED";
      if (!/^mailto:/i.test(address) || address.toLowerCase() === organizer || declined) return [];
      return [{ email: address.replace(/^mailto:/i, ""), name: String(property.getParameter("cn") ?? "") }];
    }),
  };
}
