import { NUMBER_ZONES } from "./numberZones";

/** The IANA zone of every known beginning of a number; "" where several clocks share it. */
const ZONE_OF = new Map(
  Object.entries(NUMBER_ZONES).flatMap(([zone, prefixes]) =>
    prefixes.split(" ").map((prefix) => [prefix, zone] as const),
  ),
);
const LONGEST = Math.max(...[...ZONE_OF.keys()].map((prefix) => prefix.length));

/**
 * The IANA zone in which a number lies, or null where the number alone does not settle it: a country with several
 * clocks whose mobiles belong to none of them, or a number in no numbering plan.
 *
 * @param number E.164, with its plus.
 * @example zoneOfPhone("+442079460123"); // "Europe/London"
 */
export function zoneOfPhone(number: string | null): string | null {
  if (!number?.startsWith("+")) return null;
  const digits = number.slice(1);
  for (let length = Math.min(LONGEST, digits.length); length > 0; length--) {
    const zone = ZONE_OF.get(digits.slice(0, length));
    if (zone !== undefined) return zone || null;
  }
  return null;
}
