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

/**
 * The wording with its placeholders filled in. A value that is missing or blank gives the fallback, else nothing, and
 * is named in `missing`. A value is inserted as it is: braces inside it are never read again.
 */
export function fillIn(template: string, values: PlaceholderValues): { text: string; missing: string[] } {
  const missing: string[] = [];
  const text = template.replace(PATTERN, (whole, rawName: string, fallback?: string) => {
    const name = tidy(rawName);
    if (!(PLACEHOLDERS as readonly string[]).includes(name)) return whole;
    const value = values[name as PlaceholderName]?.trim();
    if (value) return value;
    if (fallback === undefined) missing.push(name);
    return fallback?.trim() ?? "";
  });
  return { text: text.replace(/[ \t]+([,.;:!?])/g, "$1").replace(/[ \t]{2,}/g, " "), missing };
}

/**
 * Placeholders other than the link and the business's own names that have no fallback: what to mend before a plan
 * runs.
 */
export function withoutFallback(template: string): string[] {
  const always = new Set<string>([...LINKS, "business", "branch"]);
  return placeholdersIn(template)
    .filter(({ name, fallback }) => !fallback && !always.has(name))
    .map(({ name }) => name);
}
