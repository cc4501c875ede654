import { chanceFor } from "../chance";
import { TRADES, type Trade } from "../words";
import { compose, countSayings, SPOKEN, sayingsForAll } from "./compose";
import { ENGLISH } from "./english";
import type { SayingTheme } from "./sayings";

const THEMES = Object.keys(ENGLISH) as SayingTheme[];

test.each([
  ["en", 400],
  ["es", 120],
  ["fr", 40],
  ["de", 40],
  ["pt", 40],
  ["pl", 40],
] as const)("in %s people know at least %i sayings", (language, least) => {
  expect(countSayings(language)).toBeGreaterThanOrEqual(least);
});

test("what they say has no hole, begins like a sentence, is from a word to a paragraph, and names what it claims", () => {
  const lengths = new Set<number>();
  let mixed = 0;
  for (let n = 0; n < 4000; n++) {
    const chance = chanceFor(7, `said ${n}`);
    const [language, rating] = [SPOKEN[n % SPOKEN.length], 1 + (n % 5)];
    const { text, truth } = compose({ language, trade: TRADES[n % TRADES.length], rating, about: "Biscuit" }, chance);
    expect(text).not.toMatch(/[{}]|undefined|\.\.| {2}/);
    expect(text[0]).toBe(text[0].toLocaleUpperCase());
    lengths.add(text.split(" ").length);
    expect(new Set(truth.map(({ theme }) => theme)).size).toBe(truth.length);
    if (new Set(truth.map(({ mood }) => mood)).size === 2) mixed += 1;
  }
  expect(Math.min(...lengths)).toBe(1);
  expect(Math.max(...lengths)).toBeGreaterThan(110);
  expect(mixed).toBeGreaterThan(100);
});

test("everyone speaks of their own trade: no vet’s customer of a cracked tile", () => {
  const NEVER: [RegExp, Trade[]][] = [
    [/\btile|soot|stove|hearth|sofa|mantelpiece|pitch|treble/i, ["vets", "driving", "counter", "lessons"]],
    [/stitches|limp\b|tablets|weigh/i, ["stove", "piano", "at home", "workshop", "driving", "counter", "lessons"]],
    [/brakes|bolt by bolt|my car/i, ["vets", "piano", "stove", "lessons"]],
  ];
  for (const trade of TRADES) {
    const own = NEVER.filter(([, trades]) => trades.includes(trade)).map(([words]) => words);
    for (let n = 0; n < 1500; n++) {
      const it = { language: n % 4 === 0 ? ("es" as const) : ("en" as const), trade, rating: 1 + (n % 5), about: null };
      const { text } = compose(it, chanceFor(3, `${trade} ${n}`));
      for (const words of own) expect([trade, words.exec(text)?.[0] ?? null, text]).toEqual([trade, null, text]);
    }
    // In each trade there is something to say of nearly everything.
    for (const mood of ["happy", "unhappy"] as const)
      expect(THEMES.filter((theme) => sayingsForAll("en", trade, theme, mood).length > 0).length).toBeGreaterThan(9);
  }
});

test("the same seed says the same", () => {
  const said = (seed: number) =>
    compose({ language: "en", trade: "vets", rating: 4, about: null }, chanceFor(seed, "x")).text;
  expect(said(1)).toBe(said(1));
});
