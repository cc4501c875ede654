import { type Named, type Polarity, THEMES, type Theme } from "@/core/themes/themes";
import { ENGLISH, ENGLISH_ASIDES, ENGLISH_HARD, SPANISH, SPANISH_ASIDES, SPANISH_HARD } from "./evaluation";

/** Texts put together of sayings whose truth is known, and how well what reads them finds it. */

/** A text, what it says, and what may be found in it without being wrong. */
export type KnownText = { text: string; says: Named[]; mayAlso?: Named[] };

const SETS = {
  en: { sayings: ENGLISH, asides: ENGLISH_ASIDES, hard: ENGLISH_HARD, and: ["and"], but: ["but", "although"] },
  es: { sayings: SPANISH, asides: SPANISH_ASIDES, hard: SPANISH_HARD, and: ["y"], but: ["pero", "aunque"] },
} as const;

/** Draws from 0 to 1, the same row of them for the same seed (mulberry32). */
export function drawsFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Two neighbouring letters of a longer word in the wrong order, as thumbs type. */
function withTypo(text: string, draw: () => number): string {
  const words = text.split(" ");
  const long = words.flatMap((word, index) => (/^\p{L}{7,}$/u.test(word) ? [index] : []));
  if (long.length === 0) return text;
  const at = long[Math.floor(draw() * long.length)];
  const word = words[at];
  const place = 2 + Math.floor(draw() * (word.length - 4));
  words[at] = word.slice(0, place) + word[place + 1] + word[place] + word.slice(place + 2);
  return words.join(" ");
}

const sentence = (text: string) => `${text[0].toLocaleUpperCase()}${text.slice(1)}`;

/** As many texts of a language: of one saying to four, joined in several ways, with asides and now and then a typo. */
export function evaluationTexts(language: "en" | "es", count: number, seed = 20_261_127): KnownText[] {
  const { sayings, asides, hard, and, but } = SETS[language];
  const draw = drawsFrom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw() * list.length)];
  const all = Object.entries(sayings).flatMap(([theme, both]) =>
    Object.entries(both).flatMap(([polarity, says]) =>
      says.map((said) => ({ said, theme: theme as Theme, polarity: polarity as Polarity })),
    ),
  );
  const made = Array.from({ length: count }, (): KnownText => {
    const length = 1 + Math.floor(draw() * draw() * 5);
    const parts = new Map<Theme, (typeof all)[number]>();
    while (parts.size < length) {
      const part = pick(all);
      if (!parts.has(part.theme)) parts.set(part.theme, part);
    }
    let text = draw() < 0.2 ? `${sentence(pick(asides))}. ` : "";
    let before: Polarity | null = null;
    for (const { said, polarity } of parts.values()) {
      if (before === null || draw() < 0.4) text += `${before === null ? "" : ". "}${sentence(said)}`;
      else text += polarity === before ? ` ${pick(and)} ${said}` : `, ${pick(but)} ${said}`;
      before = polarity;
    }
    text += draw() < 0.85 ? pick([".", ".", "!"]) : "";
    if (draw() < 0.15) text += ` ${sentence(pick(asides))}.`;
    if (draw() < 0.1) text = withTypo(text, draw);
    return { text, says: [...parts.values()].map(({ theme, polarity }) => ({ theme, polarity })) };
  });
  return [
    ...made,
    ...hard.map(({ text, says }) => ({ text, says: says.map(([theme, polarity]) => ({ theme, polarity })) })),
  ];
}

/** Of what was found, how much is true; of what is true, how much was found. */
export type Score = { precision: number; recall: number };

export type Measured = Score & {
  /** Share of the texts of which everything was found, and nothing else. */
  whole: number;
  byTheme: Record<Theme, Score>;
  wrong: { text: string; missed: string[]; invented: string[] }[];
};

type Counts = { found: number; right: number; known: number };
const scoreOf = ({ found, right, known }: Counts): Score => ({
  precision: found === 0 ? 1 : right / found,
  recall: known === 0 ? 1 : right / known,
});

/** How well `read` finds what texts say, theme and polarity together. */
export function measure(texts: readonly KnownText[], read: (text: string) => readonly Named[]): Measured {
  const all: Counts = { found: 0, right: 0, known: 0 };
  const each = Object.fromEntries(THEMES.map((theme) => [theme, { found: 0, right: 0, known: 0 }])) as Record<
    Theme,
    Counts
  >;
  const wrong: Measured["wrong"] = [];
  const keyOf = ({ theme, polarity }: Named) => `${theme} ${polarity}`;
  const count = (key: string, what: keyof Counts) => {
    all[what] += 1;
    each[key.split(" ")[0] as Theme][what] += 1;
  };
  for (const { text, says, mayAlso = [] } of texts) {
    const allowed = new Set(mayAlso.map(keyOf));
    const truth = new Set(says.map(keyOf));
    const told = new Set(
      read(text)
        .map(keyOf)
        .filter((key) => truth.has(key) || !allowed.has(key)),
    );
    const missed = [...truth].filter((key) => !told.has(key));
    const invented = [...told].filter((key) => !truth.has(key));
    for (const key of truth) count(key, "known");
    for (const key of told) count(key, "found");
    for (const key of truth) if (told.has(key)) count(key, "right");
    if (missed.length + invented.length > 0) wrong.push({ text, missed, invented });
  }
  return {
    ...scoreOf(all),
    whole: texts.length === 0 ? 1 : 1 - wrong.length / texts.length,
    byTheme: Object.fromEntries(THEMES.map((theme) => [theme, scoreOf(each[theme])])) as Record<Theme, Score>,
    wrong,
  };
}
