import {
  type CountryCode,
  getCountryCallingCode,
  isSupportedCountry,
  parsePhoneNumberFromString,
} from "libphonenumber-js/max";

export type Phone = {
  /** E.164, for example +447700900123. */
  number: string;
  /** Whether a text can reach it. Where a country does not tell mobiles from landlines, it may. */
  canText: boolean;
  country: string | null;
};

/**
 * A phone as somebody typed it, in E.164 with `country` (ISO 3166-1 alpha-2) as the default. Null when it is no
 * possible number there: one without a plus that only another country knows is none (see `suggestPhone`). Numbers that
 * a spreadsheet turned into floats ("447700900123.0") are understood.
 */
export function normalisePhone(typed: string, country: string): Phone | null {
  const key = `${country} ${typed}`;
  const known = phoneCache.get(key);
  if (known !== undefined) return known;
  const phone = readPhone(typed, country);
  if (phoneCache.size >= MOST_REMEMBERED) phoneCache.clear();
  phoneCache.set(key, phone);
  return phone;
}

/**
 * Reading a number takes a hundred times as long as anything else of a row, and a list is read twice: once for a
 * look, once to be kept.
 */
const phoneCache = new Map<string, Phone | null>();
const MOST_REMEMBERED = 40_000;

function readPhone(typed: string, country: string): Phone | null {
  const text = written(typed);
  if (text.length < 4 || text.length > 40 || /[a-z@]/i.test(text.replace(/\s*(ext|x)\.?\s*\d+$/i, ""))) return null;
  if (AMOUNT.test(text)) return null;
  const fallback = isSupportedCountry(country) ? (country as CountryCode) : undefined;
  const local = phoneOf(parsePhoneNumberFromString(text, fallback));
  if (!fallback || text.startsWith("+")) return local;
  return withoutPlus(text, fallback, local) ?? local ?? withEatenZero(text, fallback);
}

/** "1.234.00": what a column of prices has, and no phone. */
const AMOUNT = /^\d{1,4}(?:[.,]\d{3})+[.,]00?$/;

/**
 * The number of the same country whose plus was left out, or null. Where the digits are also a number inside the country
 * they are that one if numbers there are complete without a zero in front (ITU-T E.123), or if only that one gets texts;
 * elsewhere a number without the zero begins with the country's code.
 */
function withoutPlus(text: string, country: CountryCode, local: Phone | null): Phone | null {
  const code = getCountryCallingCode(country);
  if (!text.replace(/^\D+/, "").startsWith(code)) return null;
  const parsed = parsePhoneNumberFromString(`+${text}`);
  const abroad = parsed?.countryCallingCode === code ? phoneOf(parsed) : null;
  if (!parsed || !abroad || !local) return abroad;
  const hasZero = parsed.formatNational().replace(/\D/g, "") === `0${parsed.nationalNumber}`;
  return hasZero && (abroad.canText || !local.canText) ? abroad : null;
}

/**
 * A number whose first zero a spreadsheet took for nothing, in countries where that zero belongs to the number itself
 * (Italy's landlines).
 */
function withEatenZero(text: string, country: CountryCode): Phone | null {
  return /^[1-9]\d{5,14}$/.test(text) ? phoneOf(parsePhoneNumberFromString(`0${text}`, country)) : null;
}

/**
 * What was typed, without what spreadsheets add: an apostrophe in front, ".0" behind a bare number. "07700.900.000"
 * stays as it is.
 */
function written(typed: string): string {
  return typed
    .slice(0, 60)
    .trim()
    .replace(/^'/, "")
    .replace(/^(\+?\d{4,15})\.0{1,2}$/, "$1")
    .replace(/^00/, "+");
}

/**
 * The number abroad that somebody may have meant who left out the plus, or null: something to ask about, never to use
 * unasked.
 */
export function suggestPhone(typed: string): Phone | null {
  const text = written(typed);
  return /^[1-9][\d\s().-]{6,20}$/.test(text) ? phoneOf(parsePhoneNumberFromString(`+${text}`)) : null;
}

type Parsed = ReturnType<typeof parsePhoneNumberFromString>;

/**
 * Mobile numbers that Ofcom keeps for fiction: given to nobody, and treated like any other so that demo and tests are
 * true to life.
 */
const FICTIONAL_MOBILE = /^\+447700900\d{3}$/;

/**
 * Null for a number that its country's plan does not know; telling its type is what takes the time, so it is done
 * once.
 */
function phoneOf(parsed: Parsed): Phone | null {
  if (!parsed) return null;
  const isFictional = FICTIONAL_MOBILE.test(parsed.number);
  const type = isFictional ? "MOBILE" : parsed.getType();
  if (type === undefined) return null;
  return {
    number: parsed.number,
    canText: type === "MOBILE" || type === "FIXED_LINE_OR_MOBILE",
    country: parsed.country ?? null,
  };
}

/** E.164 to the way people of that country group it, with the country code: "+44 7700 900123". */
export function sayPhone(number: string): string {
  return parsePhoneNumberFromString(number)?.formatInternational() ?? number;
}
