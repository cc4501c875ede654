import { countryNames } from "./countries";

test.each(["en", "de", "pl"])("every country once, by its name, in %s", (language) => {
  const countries = countryNames(language);
  const codes = countries.map(({ code }) => code);
  expect(codes).toEqual(expect.arrayContaining(["GB", "US", "DE", "FR", "PL", "AQ", "IE"]));
  // Neither what is no country, nor what a country was called before.
  for (const code of ["UK", "DD", "SU", "EU", "ZZ", "AA"]) expect(codes).not.toContain(code);
  const names = countries.map(({ name }) => name);
  expect(new Set(names).size).toBe(names.length);
  expect(names).toEqual([...names].sort(new Intl.Collator(language).compare));
  expect(countries.length).toBeGreaterThan(230);
});
