import type { AnyLanguage } from "./languages";

/**
 * Placeholders in wording: `{first name|there}` is the person's first name, or "there" when it is not known.
 * Names are matched without regard to case and doubled spaces. Braces around anything else stay as they are.
 */

export const PLACEHOLDERS = [
  "first name",
  "last name",
  "about",
  "service",
  "team member",
  "branch",
  "business",
  "link",
  "good link",
  "bad link",
] as const;

/** Those that lead to the answer page: the page itself, or the page with one of two answers chosen already. */
export const LINKS = ["link", "good link", "bad link"] as const;

export type PlaceholderName = (typeof PLACEHOLDERS)[number];
export type PlaceholderValues = Partial<Record<PlaceholderName, string | null>>;

const PATTERN = /\{([^{}|\n]{1,40})(?:\|([^{}\n]{0,120}))?\}/g;

const tidy = (name: string) => name.trim().toLowerCase().replace(/\s+/g, " ");

/** Every placeholder in reading order: its name, and its fallback (null when it has none). */
export function placeholdersIn(template: string): { name: string; fallback: string | null }[] {
  return [...template.matchAll(PATTERN)].map((match) => ({ name: tidy(match[1]), fallback: match[2] ?? null }));
}

/** Stands where a value came to nothing, until the sentence around it is closed up. No typed text holds it. */
const NOTHING = "\u0000";

/**
 * The wording with its placeholders filled in. A value that is missing or blank gives the fallback, else nothing, and
 * is named in `missing`; where nothing came, the sentence closes up: the space and the comma before it go too ("enough,
 * {first name|}." gives "enough."), empty brackets go, and what begins the sentence now gets its capital. A value is
 * inserted as it is: braces inside it are never read again. French keeps a space before its signs, which won't break.
 */
export function fillIn(
  template: string,
  values: PlaceholderValues,
  language: AnyLanguage = "en",
): { text: string; missing: string[] } {
  const missing: string[] = [];
  const text = template.replaceAll(NOTHING, "").replace(PATTERN, (whole, rawName: string, fallback?: string) => {
    const name = tidy(rawName);
    if (!(PLACEHOLDERS as readonly string[]).includes(name)) return whole;
    const value = values[name as PlaceholderName]?.replaceAll(NOTHING, "").trim();
    // A business with one branch would be named twice: "at Needle & Quay, Needle & Quay".
    const isNamed = name === "branch" && fallback !== undefined && value === values.business?.trim();
    if (value && !isNamed) return value;
    if (fallback === undefined) missing.push(name);
    return fallback?.trim() || NOTHING;
  });
  return { text: closedUp(text, language), missing };
}

// At the start of a line or a sentence, with the comma that would have followed; before the end of one, with the one
// before; alone between brackets or commas.
const AT_START = new RegExp(`(^|\\n|[.!?] )[ \\t]*${NOTHING}[ \\t]*,?[ \\t]*(\\p{Ll}?)`, "gu");
const IN_BRACKETS = new RegExp(`[ \\t]*\\([ \\t]*${NOTHING}[ \\t]*\\)`, "g");
const IN_COMMAS = new RegExp(`,[ \\t]*${NOTHING}[ \\t]*,`, "g");
const AT_END = new RegExp(`,?[ \\t]*${NOTHING}(?=[ \\t]*(?:[.!?;:\\u00A0\\u202F]|$|\\n))`, "g");
const BETWEEN = new RegExp(`[ \\t]*${NOTHING}`, "g");

/** A sentence without the gaps of what came to nothing, and without doubled spaces. */
function closedUp(text: string, language: AnyLanguage): string {
  return text
    .replace(IN_BRACKETS, "")
    .replace(IN_COMMAS, ",")
    .replace(AT_START, (_, before: string, letter: string) => before + letter.toLocaleUpperCase(language))
    .replace(AT_END, "")
    .replace(BETWEEN, "")
    .replace(/[ \t]+([,.])/g, "$1")
    .replace(/[ \t]+([;:!?])/g, language === "fr" ? "\u00A0$1" : "$1")
    .replace(/[ \t]+(?=[\u00A0\u202F])/g, "")
    .replace(/[ \t]{2,}/g, " ");
}

/**
 * Placeholders other than the link and the business's own names that have no fallback, not even an empty one: what to
 * mend before a plan runs.
 */
export function withoutFallback(template: string): string[] {
  const always = new Set<string>([...LINKS, "business", "branch"]);
  return placeholdersIn(template)
    .filter(({ name, fallback }) => fallback === null && !always.has(name))
    .map(({ name }) => name);
}
