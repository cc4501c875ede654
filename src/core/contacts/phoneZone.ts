import { parsePhoneNumberFromString } from "libphonenumber-js/max";
import { clocksOf, clocksOfCountry } from "../time/clocks";
import { AREA_ZONES } from "./areaZones";

/** The zones of an area by the first four digits of its numbers (E.164 without the plus). */
const ZONES_OF_AREA = new Map(
  Object.entries(AREA_ZONES).flatMap(([zones, areas]) =>
    areas.split(" ").map((area) => [area, zones.split(" ")] as const),
  ),
);

/** Countries whose areas are in the table above, by calling code. */
const BY_AREA = /^\+(?:1|55)/;

/**
 * The IANA zones in which a number may be, one for each clock that goes there. Where mobiles belong to a whole country
 * those are all its clocks: the phone may be anywhere in it. Empty where the number tells nothing.
 *
 * @param number E.164, with its plus.
 * @example zonesOfPhone("+442079460123"); // ["Europe/London"]
 * @example zonesOfPhone("+12705550123"); // ["America/Chicago", "America/New_York"]
 */
export function zonesOfPhone(number: string | null): readonly string[] {
  if (!number?.startsWith("+")) return [];
  const known = zonesByNumber.get(number);
  if (known) return known;
  const area = BY_AREA.test(number) ? ZONES_OF_AREA.get(number.slice(1, 5)) : undefined;
  const zones = area ? clocksOf(area) : zonesOfItsCountry(number);
  if (zonesByNumber.size >= MAX_REMEMBERED) zonesByNumber.clear();
  zonesByNumber.set(number, zones);
  return zones;
}

const zonesByNumber = new Map<string, readonly string[]>();
const MAX_REMEMBERED = 20_000;

function zonesOfItsCountry(number: string): readonly string[] {
  const parsed = parsePhoneNumberFromString(number);
  // Numbers of no country in particular (toll-free, North America's new areas) may be in any that shares the code.
  const countries = parsed?.country ? [parsed.country] : (parsed?.getPossibleCountries() ?? []);
  return clocksOf(countries.flatMap(clocksOfCountry));
}
