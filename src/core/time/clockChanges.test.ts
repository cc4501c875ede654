import { Temporal } from "@js-temporal/polyfill";
import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { isOpen, type OfficeCalendar, officeTimeBetween } from "./officeHours";
import { nextPermitted, openStretches, type SendCalendar, type WeekHours } from "./sendHours";
import { DAY, dayNumber, fromLocal, HOUR, MINUTE, offsetAt, toLocal, weekday } from "./zone";

/**
 * Hours over clock changes, against the zone arithmetic of Temporal, whose "compatible" reading of a wall time is that of
 * RFC 5545. A slow and plain reckoning: minute by minute.
 */

const ZONES = [
  "Europe/London",
  "America/New_York",
  "Australia/Lord_Howe",
  "America/Havana",
  "Africa/Cairo",
  "Asia/Beirut",
  "America/Santiago",
  "Atlantic/Azores",
];

/** The instant at which clocks show a minute of a local day, as Temporal says. */
function instantOf(zone: string, day: number, minutes: number): number {
  const { year, month, day: date } = Temporal.PlainDate.from("1970-01-01").add({ days: day });
  return Temporal.PlainDateTime.from({ year, month, day: date })
    .add({ minutes })
    .toZonedDateTime(zone, { disambiguation: "compatible" }).epochMilliseconds;
}

/** The clock changes of a zone over two years. */
function changesOf(zone: string): number[] {
  const found: number[] = [];
  const [from, to] = [Date.UTC(2025, 0, 1), Date.UTC(2027, 0, 1)];
  for (let at = from; at < to; at += HOUR / 2)
    if (offsetAt(zone, at) !== offsetAt(zone, at + HOUR / 2)) found.push(at + HOUR / 2);
  return found;
}
const CHANGES = ZONES.flatMap((zone) => changesOf(zone).map((at) => ({ zone, at })));

/** Whether hours are open at an instant: on the local day before, of it, and after, by Temporal's instants. */
const isOpenByOracle = (zone: string, hours: WeekHours, at: number): boolean => {
  const day = dayNumber(
    at + Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone).offsetNanoseconds / 1e6,
  );
  return (hours[weekday(day)] ?? []).some(
    ({ open, close }) => instantOf(zone, day, open) <= at && at < instantOf(zone, day, close),
  );
};

const nights = fc.array(
  fc.array(
    fc
      .tuple(fc.integer({ min: 0, max: 287 }), fc.integer({ min: 1, max: 288 }))
      .map(([open, length]) => ({ open: open * 5, close: Math.min(1440, (open + length) * 5) })),
    { maxLength: 3 },
  ),
  { minLength: 7, maxLength: 7 },
);

test("wall times are instants as Temporal reads them", () => {
  expect(CHANGES.length).toBeGreaterThan(20);
  for (const { zone, at } of CHANGES)
    for (let minutes = -180; minutes <= 180; minutes += 5) {
      const local = Math.floor(toLocal(zone, at) / MINUTE) * MINUTE + minutes * MINUTE;
      const day = dayNumber(local);
      expect([zone, local, fromLocal(zone, local)]).toEqual([
        zone,
        local,
        instantOf(zone, day, (local - day * DAY) / MINUTE),
      ]);
    }
});

test("night shifts over a clock change are open, count and let messages leave as Temporal reckons", () => {
  fc.assert(
    fc.property(nights, fc.constantFrom(...CHANGES), (hours, { zone, at: change }) => {
      const office: OfficeCalendar = { zone, hours, closedDays: new Set() };
      const send: SendCalendar = { zone, hours: { text: hours, email: hours }, closedDays: new Set() };
      const [from, to] = [change - 6 * HOUR, change + 6 * HOUR];
      let open = 0;
      let next: number | null = null;
      for (let at = to - 5 * MINUTE; at >= from; at -= 5 * MINUTE) {
        const expected = isOpenByOracle(zone, hours, at);
        expect([new Date(at).toISOString(), isOpen(at, office)]).toEqual([new Date(at).toISOString(), expected]);
        if (expected) {
          open += 5 * MINUTE;
          next = at;
        }
        if (next !== null) expect(nextPermitted(at, "email", send)?.at).toBe(next);
      }
      expect(officeTimeBetween(from, to, office)).toBe(open);
      const drawn = [-1, 0, 1]
        .flatMap((more) => openStretches(dayNumber(toLocal(zone, change)) + more, "email", send))
        .reduce((sum, one) => sum + Math.max(0, Math.min(to, one.to) - Math.max(from, one.from)), 0);
      expect(drawn).toBe(open);
    }),
    { numRuns: runs(60) },
  );
}, 120_000);
