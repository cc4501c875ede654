/** Codes that name no country: unions, test regions, the unknown. */
const NO_COUNTRY = new Set(["EU", "EZ", "QO", "UN", "XA", "XB", "ZZ"]);

const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";

/**
 * All countries by name: ISO 3166-1 alpha-2 codes that are in use, with their names in a language (BCP 47), sorted as
 * that language sorts them.
 */
export function countryNames(language: string): { code: string; name: string }[] {
  const names = new Intl.DisplayNames(language, { type: "region", fallback: "none" });
  const codes = [...LETTERS].flatMap((first) => [...LETTERS].map((second) => first + second));
  return codes
    .filter((code) => !NO_COUNTRY.has(code) && new Intl.Locale(`und-${code}`).region === code)
    .flatMap((code) => {
      const name = names.of(code);
      return name ? [{ code, name }] : [];
    })
    .sort((a, b) => a.name.localeCompare(b.name, language));
}
