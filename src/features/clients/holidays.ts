import { createRequire } from "node:module";
import { join } from "node:path";
import type Holidays from "date-holidays";
import { DAY, parseDay } from "@/core/time/zone";

let loaded: typeof Holidays | undefined;

/** The calendars of all countries. They are large, so they are loaded when the first one is asked for. */
function holidays(): typeof Holidays {
  loaded ??= createRequire(join(process.cwd(), "package.json"))("date-holidays") as typeof Holidays;
  return loaded;
}

const holidaysByPlace = new Map<string, ReadonlySet<number>>();

/**
 * The region whose holidays count where a branch names none and the country alone would miss some that nearly
 * everybody there has.
 */
const USUAL_REGION: Readonly<Record<string, string>> = { GB: "ENG" };

/**
 * The regions of a country that have holidays of their own (ISO 3166-2, without the country), with their names; empty
 * where there are none.
 */
export function regionsOf(country: string): { code: string; name: string }[] {
  const states = new (holidays())().getStates(country) as Record<string, string> | undefined;
  return Object.entries(states ?? {}).map(([code, name]) => ({ code, name }));
}

/**
 * The region whose holidays a branch keeps: its own, else the usual one of its country, else null for those of the
 * whole country.
 */
export function regionOf(country: string, region: string | null): string | null {
  return region ?? USUAL_REGION[country] ?? null;
}

/**
 * Day numbers of the public holidays of a country's region from the year before `year` to the year after, every day of
 * those that last several. Empty for an unknown country.
 */
export function holidaysOf(country: string, region: string | null, year: number): ReadonlySet<number> {
  const wanted = regionOf(country, region);
  const name = `${country} ${wanted} ${year}`;
  let days = holidaysByPlace.get(name);
  if (!days) {
    const calendar = wanted ? new (holidays())(country, wanted) : new (holidays())(country);
    const around = [year - 1, year, year + 1].flatMap((each) => calendar.getHolidays(each) || []);
    days = new Set(
      around
        .filter(({ type }) => type === "public")
        .flatMap(({ date, start, end }) => {
          const first = parseDay(date.slice(0, 10));
          return Array.from(
            { length: Math.max(1, Math.round((end.getTime() - start.getTime()) / DAY)) },
            (_, index) => first + index,
          );
        }),
    );
    holidaysByPlace.set(name, days);
  }
  return days;
}
