import { clocksOf, clocksOfCountry } from "../time/clocks";

/**
 * Where an address is, as far as its clock goes. Edit this to teach it another country's way of writing addresses; it
 * needs one only for countries with several clocks.
 */

const E = "America/New_York";
const C = "America/Chicago";
const M = "America/Denver";
const P = "America/Los_Angeles";

/** The zones of the states and territories of the United States (49 CFR part 71); most have one. */
const STATES: Readonly<Record<string, readonly string[]>> = {
  ...each("CT DC DE GA MA MD ME NC NH NJ NY OH PA RI SC VA VT WV", [E]),
  ...each("AL AR IA IL LA MN MO MS OK WI", [C]),
  ...each("CO MT NM UT WY", [M]),
  ...each("CA WA", [P]),
  ...each("FL IN KY MI TN", [E, C]),
  ...each("KS ND NE SD TX", [C, M]),
  ...each("ID NV OR", [M, P]),
  ...each("PR VI", ["America/Puerto_Rico"]),
  AZ: ["America/Phoenix", M],
  AK: ["America/Anchorage", "America/Adak"],
  HI: ["Pacific/Honolulu"],
  GU: ["Pacific/Guam"],
  AS: ["Pacific/Pago_Pago"],
};

/** Canada, by the first letter of the postal code. */
const CANADA: Readonly<Record<string, readonly string[]>> = {
  A: ["America/St_Johns", "America/Halifax"],
  B: ["America/Halifax"],
  C: ["America/Halifax"],
  E: ["America/Halifax"],
  G: [E, "America/Halifax"],
  H: [E],
  J: [E],
  K: [E],
  L: [E],
  M: [E],
  N: [E],
  P: [E, C],
  R: [C],
  S: ["America/Regina", M],
  T: [M],
  V: [P, M, "America/Phoenix"],
  X: [M, C, E],
  Y: ["America/Phoenix"],
};

const AUSTRALIA: Readonly<Record<string, readonly string[]>> = {
  ...each("NSW", ["Australia/Sydney", "Australia/Adelaide", "Australia/Lord_Howe"]),
  ...each("ACT VIC TAS", ["Australia/Sydney"]),
  QLD: ["Australia/Brisbane"],
  SA: ["Australia/Adelaide"],
  NT: ["Australia/Darwin"],
  WA: ["Australia/Perth", "Australia/Eucla"],
};

function each(names: string, zones: readonly string[]): Record<string, readonly string[]> {
  return Object.fromEntries(names.split(" ").map((name) => [name, zones]));
}

/** A state before its ZIP code, a Canadian postal code, an Australian state before its postcode. */
const WRITTEN: readonly [RegExp, Readonly<Record<string, readonly string[]>>][] = [
  [/\b([A-Z]{2})[\s,.]+\d{5}(?:-\d{4})?\b/, STATES],
  [/\b([ABCEGHJ-NPRSTVXY])\d[A-Z][\s-]?\d[A-Z]\d\b/, CANADA],
  [/\b(NSW|ACT|VIC|TAS|QLD|SA|NT|WA)[\s,.]+\d{4}\b/, AUSTRALIA],
];

/** How the United Kingdom writes postcodes. */
const BRITISH = /\b[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2}\b/;

/**
 * The IANA zones in which a postal address may be, one for each clock; empty where it does not tell.
 *
 * @param address As it was written, on one line or several.
 * @param country ISO 3166-1 alpha-2 of the business: where an address that names no other country is.
 * @example zonesOfAddress("12 Spruce St, Anchorage, AK 99501", "US"); // ["America/Anchorage", "America/Adak"]
 */
export function zonesOfAddress(address: string | null, country: string): readonly string[] {
  const text = address?.slice(0, 500).toUpperCase().trim() ?? "";
  if (text === "") return [];
  const named = countryAtEnd(text, country);
  for (const [pattern, places] of WRITTEN) {
    const place = pattern.exec(text)?.[1];
    const zones = place ? places[place] : undefined;
    if (zones && (named === null || clocksOfCountry(named).length > 1)) return clocksOf(zones);
  }
  if (named === null && BRITISH.test(text)) return ["Europe/London"];
  // In a country with one clock any address of it tells; in others one has to say where.
  const clocks = clocksOfCountry(named ?? country);
  return clocks.length === 1 ? clocks : [];
}

let countries: ReadonlyMap<string, string> | undefined;

/** The names of all countries in the languages of customers, in capitals. */
function countryNames(): Map<string, string> {
  const names = new Map([
    ["USA", "US"],
    ["U.S.A.", "US"],
    ["UK", "GB"],
    ["ENGLAND", "GB"],
    ["SCOTLAND", "GB"],
    ["WALES", "GB"],
    ["NORTHERN IRELAND", "GB"],
  ]);
  const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";
  for (const language of ["en", "es", "fr", "de", "pt", "pl"]) {
    const display = new Intl.DisplayNames(language, { type: "region", fallback: "none" });
    for (const first of letters)
      for (const second of letters) {
        const name = display.of(first + second)?.toUpperCase();
        if (name && isCountry(first + second) && !names.has(name)) names.set(name, first + second);
      }
  }
  return names;
}

/** Whether a code is a country's: not a group of countries, and not reserved. */
function isCountry(code: string): boolean {
  return !["EU", "EZ", "UN", "QO", "XA", "XB", "ZZ"].includes(code);
}

/** The country that the last line, or the last part after a comma, names. */
function countryAtEnd(text: string, country: string): string | null {
  const last = text.split(/[\n,]/).at(-1)?.trim() ?? "";
  countries ??= countryNames();
  const named = countries.get(last) ?? null;
  // The state of that name is meant by those who have one.
  return named === "GE" && country === "US" ? "US" : named;
}
