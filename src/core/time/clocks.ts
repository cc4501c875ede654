import { DAY, isZone, offsetAt } from "./zone";

/**
 * Clocks: zones whose local time has agreed through two whole years are one. Which zones a country has is what ICU's
 * data say, less those by which nobody sets a clock there.
 */

/** Kept in the zone data for the sake of history, or used beside the country's legal time. */
const NOT_IN_USE = new Set(["Asia/Urumqi", "Antarctica/Macquarie", "Europe/Simferopol"]);

/** ICU names no zone of these. */
const UNLISTED: Readonly<Record<string, string>> = {
  XK: "Europe/Belgrade",
  AC: "Atlantic/St_Helena",
  TA: "Atlantic/St_Helena",
};

/** One zone for each clock among these, in the order in which they are given. */
export function clocksOf(zones: readonly string[]): string[] {
  const seen = new Map<string, string>();
  for (const zone of zones) {
    const sign = signOf(zone);
    if (!seen.has(sign)) seen.set(sign, zone);
  }
  return [...seen.values()];
}

/**
 * One IANA zone for each clock of a country (ISO 3166-1 alpha-2); empty where it is unknown.
 *
 * @example clocksOfCountry("FR"); // ["Europe/Paris"]
 */
export function clocksOfCountry(country: string): readonly string[] {
  let clocks = byCountry.get(country);
  if (!clocks) {
    clocks = clocksOf(zonesOfCountry(country).filter((zone) => !NOT_IN_USE.has(zone) && isZone(zone)));
    byCountry.set(country, clocks);
  }
  return clocks;
}

const byCountry = new Map<string, readonly string[]>();

function zonesOfCountry(country: string): readonly string[] {
  if (!/^[A-Z]{2}$/.test(country)) return [];
  const unlisted = UNLISTED[country];
  if (unlisted) return [unlisted];
  // ECMA-402's Intl.Locale info, which some engines have as a property and some as a method.
  const locale = new Intl.Locale(`und-${country}`) as Intl.Locale & {
    timeZones?: string[];
    getTimeZones?: () => string[] | undefined;
  };
  return locale.getTimeZones?.() ?? locale.timeZones ?? [];
}

const signs = new Map<string, string>();

/** What tells a clock from others: how far it is from UTC on the days of 2026 and 2027, a week apart. */
function signOf(zone: string): string {
  let sign = signs.get(zone);
  if (sign === undefined) {
    sign = Array.from({ length: 105 }, (_, week) => offsetAt(zone, Date.UTC(2026, 0, 1, 12) + week * 7 * DAY)).join(
      ",",
    );
    signs.set(zone, sign);
  }
  return sign;
}
