import { type CountryCode, isSupportedCountry, parsePhoneNumberFromString } from "libphonenumber-js/max";

export type Phone = {
  /** E.164, for example +447700900123. */
  number: string;
  /** Whether a text can reach it. Where a country does not tell mobiles from landlines, it may. */
  canText: boolean;
  country: string | null;
};

/**
 * A phone as somebody typed it, in E.164 with `country` (ISO 3166-1 alpha-2) as the default. Null when it is no possible
 * number there. Numbers that a spreadsheet turned into floats ("447700900123.0") are understood.
 */
export function normalisePhone(typed: string, country: string): Phone | null {
  const text = typed.trim().replace(/^'/, "").replace(/\.0+$/, "").replace(/^00/, "+");
  if (text.length < 5 || text.length > 40 || /[a-z@]/i.test(text.replace(/\s*(ext|x)\.?\s*\d+$/i, ""))) return null;
  const fallback = isSupportedCountry(country) ? (country as CountryCode) : undefined;
  const local = parsePhoneNumberFromString(text, fallback);
  if (local && isUsable(local)) return phoneOf(local);
  // Somebody may have left out the plus.
  const international = text.startsWith("+") ? undefined : parsePhoneNumberFromString(`+${text}`);
  return international && isUsable(international) ? phoneOf(international) : null;
}

type Parsed = NonNullable<ReturnType<typeof parsePhoneNumberFromString>>;

/** Mobile numbers that Ofcom keeps for fiction: given to nobody, and treated like any other so that demo and tests are true to life. */
const FICTIONAL_MOBILE = /^\+447700900\d{3}$/;

function isUsable(parsed: Parsed): boolean {
  return parsed.isValid() || FICTIONAL_MOBILE.test(parsed.number);
}

function phoneOf(parsed: Parsed): Phone {
  const type = parsed.getType();
  return {
    number: parsed.number,
    canText: FICTIONAL_MOBILE.test(parsed.number) || type === "MOBILE" || type === "FIXED_LINE_OR_MOBILE" || type === undefined,
    country: parsed.country ?? null,
  };
}

/** E.164 to the way people of that country group it, with the country code: "+44 7700 900123". */
export function sayPhone(number: string): string {
  return parsePhoneNumberFromString(number)?.formatInternational() ?? number;
}
