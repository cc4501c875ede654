import ICAL from "ical.js";
import { findIana } from "windows-iana";
import { DAY, fromLocal, HOUR, isZone } from "../time/zone";
import { blocksOf } from "./blocks";
import { readOwnZone } from "./ownZone";
import { type Budget, occurrencesIn, type Rule, readRule, TooFar, untilOf } from "./recurrence";

/**
 * Events of an iCalendar stream (RFC 5545) as instants: recurring ones expanded, exceptions and cancellations in
 * their place.
 */

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

export type ExpandedCalendar = {
  events: CalendarEvent[];
  /** Events that could not be read. */
  unreadable: number;
  /** Their identifiers, where those could be read: whatever was known of them stays as it is. */
  unreadableKeys: string[];
  /** Names of zones that mean none and are not defined either: what names them could not be read. */
  unknownZones: string[];
  /**
   * False when part of the stream may be missing here: nothing that is not among the events may be taken to be gone.
   */
  isWhole: boolean;
};

/** A file that is no calendar, said in words. */
export class NoCalendar extends Error {}

/** A zone that is neither known nor defined. */
class UnknownZone extends Error {
  constructor(readonly zone: string) {
    super(zone);
  }
}

/** So many periods of rules are walked through in one stream. */
const MOST_PERIODS = 200_000;
/** So many events one stream may have in a window. */
const MOST_FOUND = 50_000;
/** An occurrence is moved by no more than this, and lasts no longer. */
const FARTHEST_MOVE = 62 * DAY;

/** Zones that the calendar brings along, by the names that it gives them. */
type OwnZones = ReadonlyMap<string, ((local: number) => number) | null>;

type Window = { zone: string; from: number; to: number };

/**
 * The events that end between `from` and `to` (instants). Floating times and all-day events are read in `zone`. Series
 * whose clock change falls in between keep their wall time. Throws `NoCalendar`; a single event that cannot be read is
 * told.
 */
export function expandCalendar(text: string, window: Window): ExpandedCalendar {
  const blocks = blocksOf(text);
  if (!blocks) throw new NoCalendar();
  const zones = new Map(
    blocks.zones.flatMap((component) => [
      [String(component.getFirstPropertyValue("tzid") ?? ""), readOwnZone(component)] as const,
    ]),
  );
  const unknown = new Set<string>();
  const unreadable: (string | null)[] = [...blocks.broken];
  let isWhole = blocks.isWhole && blocks.broken.every((key) => key !== null);
  const masters = new Map<string, ReadEvent>();
  const moved = new Map<string, ReadEvent[]>();
  for (const { component, zone } of blocks.events) {
    const read = readEvent(component, zones, (zone && knownZone(zone)) || window.zone, unknown);
    if (typeof read === "string" || read === null) {
      unreadable.push(read);
      if (read === null) isWhole = false;
    } else if (read.recurrenceId) moved.set(read.uid, [...(moved.get(read.uid) ?? []), read]);
    // Of two with one UID the later one in the file counts.
    else masters.set(read.uid, read);
  }
  const found: CalendarEvent[] = [];
  const budget: Budget = { periods: MOST_PERIODS };
  const add = (event: ReadEvent, key: string, start: Moment) => {
    const span = spanOf(event, start);
    if (span.endsAt < window.from || span.endsAt > window.to) return;
    if (found.length >= MOST_FOUND) isWhole = false;
    else found.push({ ...event.facts(), key, ...span });
  };
  // The latest first: series that began long ago and count far must not use up what the others need.
  for (const event of [...masters.values()].sort((a, b) => b.start.at - a.start.at)) {
    try {
      expand(event, moved.get(event.uid) ?? [], window, budget, add);
    } catch (error) {
      if (!(error instanceof TooFar)) throw error;
      unreadable.push(event.uid);
    }
  }
  for (const [uid, list] of moved)
    if (!masters.has(uid)) for (const one of list) add(one, `${uid} ${one.recurrenceId?.text}`, one.start);
  found.sort((a, b) => a.endsAt - b.endsAt || (a.key < b.key ? -1 : 1));
  return {
    events: found,
    unreadable: unreadable.length,
    unreadableKeys: unreadable.filter((key) => key !== null),
    unknownZones: [...unknown],
    isWhole,
  };
}

/** A rule with its end: the last wall-clock reading that it reaches, or the last instant where it names one in UTC. */
type Series = { rule: Rule; untilLocal: number; untilAt: number };

/** A date or time as it is written: wall-clock milliseconds in a zone; `text` names it as RECURRENCE-ID does. */
type Moment = {
  local: number;
  isDate: boolean;
  zone: Zone;
  at: number;
  text: string;
  /** How long it lasts, where it is a period of its own (RDATE;VALUE=PERIOD). */
  length?: number;
};
type Zone = (local: number) => number;

type ReadEvent = {
  uid: string;
  start: Moment;
  /** How long it lasts: in wall-clock milliseconds for whole days, else elapsed. */
  length: number;
  rule: Series | null;
  extra: Moment[];
  without: Moment[];
  recurrenceId: Moment | null;
  /** Holds for all that come after it too. */
  isFromHereOn: boolean;
  facts: () => EventFacts;
};

/** Reads one event; its identifier when it cannot be read, or null where not even that can. */
function readEvent(
  component: ICAL.Component,
  zones: OwnZones,
  zone: string,
  unknown: Set<string>,
): ReadEvent | string | null {
  const uid = String(component.getFirstPropertyValue("uid") ?? "").trim();
  if (!uid) return null;
  try {
    const momentsOf = (name: string) =>
      component.getAllProperties(name).flatMap((property) => readMoments(property, zones, zone));
    const [start] = momentsOf("dtstart");
    if (!start) return uid;
    const [end] = momentsOf("dtend");
    const duration = component.getFirstPropertyValue("duration");
    const plain = start.isDate ? DAY : 0;
    const length = end
      ? start.isDate
        ? end.local - start.local
        : end.at - start.at
      : duration instanceof ICAL.Duration
        ? duration.toSeconds() * 1000
        : plain;
    const rrule = component.getFirstProperty("rrule");
    const rule = rrule ? readSeries(rrule, start) : null;
    if (rrule && !rule) return uid;
    const [recurrenceId] = momentsOf("recurrence-id");
    const range = String(component.getFirstProperty("recurrence-id")?.getParameter("range") ?? "").toUpperCase();
    let facts: EventFacts | null = null;
    return {
      uid,
      start,
      length: Math.max(0, Math.min(length, FARTHEST_MOVE)),
      rule,
      extra: momentsOf("rdate"),
      without: momentsOf("exdate"),
      recurrenceId: recurrenceId ?? null,
      isFromHereOn: range === "THISANDFUTURE",
      // Once for all occurrences.
      facts: () => {
        facts ??= factsOf(component);
        return facts;
      },
    };
  } catch (error) {
    if (error instanceof UnknownZone) unknown.add(error.zone);
    return uid;
  }
}

function readMoments(property: ICAL.Property, zones: OwnZones, calendarZone: string): Moment[] {
  const named = String(property.getParameter("tzid") ?? "").replace(/^"|"$/g, "");
  // As written (jCal, RFC 7265): the library carries a 13th month over into the next year.
  const [, , , ...values] = property.toJSON() as unknown[];
  return values.map((value) => {
    const [first, last] = Array.isArray(value) ? value.map(String) : [String(value)];
    const moment = momentOf(first, named, zones, calendarZone);
    return last === undefined ? moment : { ...moment, length: lengthOf(moment, last, named, zones, calendarZone) };
  });
}

/** How long a period lasts: it names its end, or a duration. */
function lengthOf(start: Moment, last: string, named: string, zones: OwnZones, calendarZone: string): number {
  const length = /^[+-]?P/i.test(last)
    ? ICAL.Duration.fromString(last).toSeconds() * 1000
    : momentOf(last, named, zones, calendarZone).at - start.at;
  return Math.max(0, Math.min(length, FARTHEST_MOVE));
}

function momentOf(written: string, named: string, zones: OwnZones, calendarZone: string): Moment {
  const [, y, mo, d, t, h, mi, s, utc] =
    /^(\d{4})-(\d{2})-(\d{2})(T(\d{2}):(\d{2})(?::(\d{2}))?(Z)?)?$/.exec(written) ?? [];
  const isDate = t === undefined;
  const [year, month, day, hour, minute, second] = [y, mo, d, h ?? 0, mi ?? 0, s ?? 0].map(Number);
  if (
    !(
      year >= 1 &&
      year <= 9999 &&
      month >= 1 &&
      month <= 12 &&
      day >= 1 &&
      day <= 31 &&
      hour <= 24 &&
      minute <= 59 &&
      second <= 60
    )
  )
    throw new RangeError("no date");
  const local = new Date(0).setUTCFullYear(year, month - 1, day) + hour * HOUR + minute * 60_000 + second * 1000;
  const isUtc = utc !== undefined;
  const zone = zoneOf(isUtc ? "UTC" : isDate ? "" : named, zones, calendarZone);
  const pad = (n: number, width = 2) => String(n).padStart(width, "0");
  const date = `${pad(year, 4)}${pad(month)}${pad(day)}`;
  return {
    local,
    isDate,
    zone,
    at: zone(local),
    text: isDate ? date : `${date}T${pad(hour)}${pad(minute)}${pad(second)}${isUtc ? "Z" : ""}`,
  };
}

/**
 * Wall time of a named zone to instants. A zone's name says more than the rules that a program copied beside it, as
 * long as it is one that is known.
 */
function zoneOf(name: string, zones: OwnZones, calendarZone: string): Zone {
  if (name === "UTC") return (local) => local;
  const known = name ? knownZone(name) : calendarZone;
  if (known) return (local) => fromLocal(known, local);
  const own = zones.get(name);
  // Nobody can tell what it means: to read it in another zone would ask people at the wrong time.
  if (!own) throw new UnknownZone(name);
  return (local) => local - own(local);
}

/**
 * The zone that a name means: by itself, at the end of a path that a program puts before it, or as Windows calls it
 * (Unicode CLDR, windowsZones). Null for a name that means none.
 */
export function knownZone(name: string): string | null {
  const parts = name.trim().split("/").filter(Boolean);
  const endings = [3, 2, 1].flatMap((count) => (parts.length >= count ? [parts.slice(-count).join("/")] : []));
  const ending = endings.find((each) => (each.includes("/") || each === parts.join("/")) && isZone(each));
  if (ending) return ending;
  const [windows] = findIana(name.trim());
  return windows ?? null;
}

/** The rule of a series with its end; null for one that cannot be read. */
function readSeries(property: ICAL.Property, start: Moment): Series | null {
  const text = String(property.getFirstValue() ?? "");
  const rule = readRule(text);
  // The library leaves a count of nothing out, and such a series would go on for ever.
  const [, , , written] = property.toJSON() as unknown[];
  if (!rule || (written as { count?: number } | undefined)?.count === 0) return null;
  const until = untilOf(text);
  if (until === "unreadable") return null;
  const never = Number.POSITIVE_INFINITY;
  if (!until) return { rule, untilLocal: never, untilAt: never };
  const { local, isUtc } = until;
  // An end in UTC is an instant, and no wall clock differs from it by more than a day.
  return isUtc && !start.isDate
    ? { rule, untilLocal: local + DAY, untilAt: local }
    : { rule, untilLocal: local, untilAt: never };
}

function expand(
  event: ReadEvent,
  moved: readonly ReadEvent[],
  window: Window,
  budget: Budget,
  add: (event: ReadEvent, key: string, start: Moment) => void,
): void {
  const isSeries = event.rule !== null || event.extra.length > 0;
  if (!isSeries) {
    add(event, event.uid, event.start);
    for (const one of moved) add(one, `${event.uid} ${one.recurrenceId?.text}`, one.start);
    return;
  }
  const replaced = new Set(moved.map(({ recurrenceId }) => recurrenceId?.at));
  const fromHereOn = moved
    .filter((one) => one.isFromHereOn)
    .sort((a, b) => (a.recurrenceId?.at ?? 0) - (b.recurrenceId?.at ?? 0));
  const without = new Set(event.without.map(({ at }) => at));
  const withoutDays = new Set(event.without.filter(({ isDate }) => isDate).map(({ text }) => text));
  for (const moment of occurrencesOf(event, window, budget)) {
    if (replaced.has(moment.at) || without.has(moment.at) || withoutDays.has(moment.text.slice(0, 8))) continue;
    const key = `${event.uid} ${moment.text}`;
    const shift = fromHereOn.findLast((one) => (one.recurrenceId?.at ?? 0) <= moment.at);
    if (!shift?.recurrenceId) add(event, key, moment);
    else {
      const local = moment.local + shift.start.local - shift.recurrenceId.local;
      add(shift, key, { ...moment, local, at: shift.start.zone(local), zone: shift.start.zone });
    }
  }
  for (const one of moved) add(one, `${event.uid} ${one.recurrenceId?.text}`, one.start);
}

/**
 * The moments of a series around the window, each once: by its rule and its list of dates; a list alone has its
 * beginning too.
 */
function occurrencesOf(event: ReadEvent, { from, to }: Window, budget: Budget): Moment[] {
  const { start, rule } = event;
  const moments = new Map<number, Moment>();
  const keep = (moment: Moment) => moments.set(moment.at, moment);
  if (rule) {
    // Past the window by as much as an occurrence lasts or can be moved, since it may come earlier than its place in
    // the series.
    const last = Math.min(to + FARTHEST_MOVE, rule.untilLocal);
    const span = { from: from - FARTHEST_MOVE - event.length, to: last };
    for (const local of occurrencesIn(rule.rule, start.local, span, budget)) {
      const at = start.zone(local);
      if (at <= rule.untilAt) keep({ ...start, local, at, text: textOf(local, start) });
    }
  } else keep(start);
  for (const extra of event.extra) keep(extra);
  return [...moments.values()];
}

function textOf(local: number, { isDate, text }: Moment): string {
  const iso = new Date(local).toISOString().replace(/[-:]/g, "");
  return isDate ? iso.slice(0, 8) : `${iso.slice(0, 15)}${text.endsWith("Z") ? "Z" : ""}`;
}

function spanOf(event: ReadEvent, start: Moment): Pick<CalendarEvent, "startsAt" | "endsAt" | "allDay"> {
  const length = start.length ?? event.length;
  if (!start.isDate) return { startsAt: start.at, endsAt: start.at + length, allDay: false };
  // The end of an all-day event is the day after its last.
  const last = start.local + Math.max(0, length - DAY);
  return { startsAt: start.at, endsAt: start.zone(last + 18 * HOUR), allDay: true };
}

type EventFacts = Pick<CalendarEvent, "title" | "description" | "place" | "categories" | "cancelled" | "people">;

/** Attendees that are no people: rooms and things. */
const NO_PERSON = new Set(["ROOM", "RESOURCE"]);

function factsOf(component: ICAL.Component): EventFacts {
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
      const kind = String(property.getParameter("cutype") ?? "").toUpperCase();
      if (!/^mailto:/i.test(address) || address.toLowerCase() === organizer || declined || NO_PERSON.has(kind))
        return [];
      return [{ email: address.replace(/^mailto:/i, ""), name: String(property.getParameter("cn") ?? "") }];
    }),
  };
}
