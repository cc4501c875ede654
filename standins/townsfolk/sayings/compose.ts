import { pick } from "../chance";
import type { Trade } from "../words";
import { fitsTrade, PLACES, sayingsOf } from "./byTrade";
import { ENGLISH, ENGLISH_ASIDES, ENGLISH_SLOTS } from "./english";
import { ENGLISH_MORE } from "./englishMore";
import { FRENCH, GERMAN, type Moods, POLISH, PORTUGUESE } from "./others";
import type { Sayings, SayingTheme } from "./sayings";
import { SPANISH, SPANISH_ASIDES } from "./spanish";

/** What a person says in one go, put together of sayings; with what it names, which the town knows. */

export const SPOKEN = ["en", "es", "fr", "de", "pt", "pl"] as const;
export type Spoken = (typeof SPOKEN)[number];

export type Said = {
  text: string;
  /** What it names, in the order in which it is said; nothing in languages whose sayings have no theme. */
  truth: { theme: SayingTheme; mood: "happy" | "unhappy" }[];
};

const OTHERS: Partial<Record<Spoken, Moods>> = { fr: FRENCH, de: GERMAN, pt: PORTUGUESE, pl: POLISH };

const JOINS: Record<Spoken, { and: string; but: string }> = {
  en: { and: "and", but: "but" },
  es: { and: "y", but: "pero" },
  fr: { and: "et", but: "mais" },
  de: { and: "und", but: "aber" },
  pt: { and: "e", but: "mas" },
  pl: { and: "i", but: "ale" },
};

/** Said where one word is enough. */
const SHORT: Record<Spoken, { happy: readonly string[]; unhappy: readonly string[] }> = {
  en: {
    happy: ["Brilliant", "Great", "Lovely", "Perfect", "Recommended"],
    unhappy: ["Disappointing", "Poor", "Never again"],
  },
  es: { happy: ["Genial", "Perfecto", "Excelente"], unhappy: ["Decepcionante", "Fatal"] },
  fr: { happy: ["Parfait", "Super", "Bravo"], unhappy: ["Décevant", "Nul"] },
  de: { happy: ["Toll", "Perfekt", "Super"], unhappy: ["Enttäuschend", "Schlecht"] },
  pt: { happy: ["Excelente", "Perfeito"], unhappy: ["Desilusão", "Péssimo"] },
  pl: { happy: ["Świetnie", "Polecam"], unhappy: ["Rozczarowanie", "Słabo"] },
};

/** Who does the work, by trade. */
const WHO: Record<Trade, readonly string[]> = {
  vets: ["the vet", "the nurse", "Dr Hale", "the young vet"],
  driving: ["my instructor", "the instructor"],
  piano: ["the tuner", "the technician"],
  stove: ["the sweep", "the fitter", "the young man"],
  counter: ["the lady", "he", "she"],
  workshop: ["the mechanic", "the technician"],
  "at home": ["the fitter", "he", "the two lads"],
  lessons: ["the teacher", "our teacher"],
};

const sentence = (text: string) => `${text[0].toLocaleUpperCase()}${text.slice(1)}`;

/** Two neighbouring letters of a longer word in the wrong order, as thumbs type. */
function withTypo(text: string, chance: () => number): string {
  const words = text.split(" ");
  const long = words.flatMap((word, index) => (/^\p{L}{7,}$/u.test(word) ? [index] : []));
  if (long.length === 0) return text;
  const at = pick(long, chance);
  const place = 2 + Math.floor(chance() * (words[at].length - 4));
  const word = words[at];
  words[at] = word.slice(0, place) + word[place + 1] + word[place] + word.slice(place + 2);
  return words.join(" ");
}

type Clause = { said: string; mood: "happy" | "unhappy"; theme: SayingTheme | null };

const THEMES = Object.keys(ENGLISH) as SayingTheme[];

const of = (sayings: readonly Sayings[], theme: SayingTheme, mood: "happy" | "unhappy") =>
  sayings.flatMap((each) => each[theme][mood]);

/**
 * What somebody says for a rating of 1 to 5: from one word to a long paragraph, happy with one thing and unhappy with
 * another where they are in between, now and then with a slip of the thumb.
 */
export function compose(
  it: { language: Spoken; trade: Trade; rating: number; about: string | null },
  chance: () => number,
): Said {
  const { language, rating } = it;
  const mood = rating >= 4 ? "happy" : "unhappy";
  const draw = chance();
  if (draw < 0.05) return { text: `${pick(SHORT[language][mood], chance)}${chance() < 0.5 ? "." : ""}`, truth: [] };
  const isLong = draw > 0.97;
  const count = isLong ? 6 + Math.floor(chance() * 6) : 1 + Math.floor(chance() * chance() * 4);
  const clauses: Clause[] = [];
  while (clauses.length < count) {
    // Those in between name one of each; the happy and the unhappy now and then something else as well.
    const turns = clauses.length > 0 && chance() < (rating === 3 ? 0.6 : rating === 1 || rating === 5 ? 0.04 : 0.2);
    const next = clause(it, turns ? (mood === "happy" ? "unhappy" : "happy") : mood, chance);
    if (clauses.some(({ theme, said }) => said === next.said || (theme !== null && theme === next.theme))) {
      if (clauses.length >= THEMES.length) break;
      continue;
    }
    // Who writes at length says everything twice.
    const also = isLong ? clause(it, next.mood, chance, next.theme) : null;
    clauses.push(also && also.said !== next.said ? { ...next, said: `${next.said}. ${sentence(also.said)}` } : next);
  }
  let text = chance() < 0.15 ? aside(language, it.about !== null, chance) : "";
  let before: Clause | null = null;
  for (const next of clauses) {
    if (before === null || chance() < 0.45) text += `${before === null ? "" : ". "}${sentence(next.said)}`;
    else
      text +=
        next.mood === before.mood ? ` ${JOINS[language].and} ${next.said}` : `, ${JOINS[language].but} ${next.said}`;
    before = next;
  }
  text = `${filled(text, it, chance)}.`;
  return {
    text: chance() < 0.06 ? withTypo(text, chance) : text,
    truth: clauses.flatMap(({ theme, mood }) => (theme === null ? [] : [{ theme, mood }])),
  };
}

/** What somebody may say of a theme who has to do with a trade, beside what only that trade says. */
export const sayingsForAll = (
  language: "en" | "es",
  trade: Trade,
  theme: SayingTheme,
  mood: "happy" | "unhappy",
): readonly string[] =>
  of(language === "es" ? [SPANISH] : [ENGLISH, ENGLISH_MORE], theme, mood).filter((said) =>
    fitsTrade(said, theme, trade),
  );

function clause(
  { language, trade }: { language: Spoken; trade: Trade },
  mood: "happy" | "unhappy",
  chance: () => number,
  about: SayingTheme | null = null,
): Clause {
  const moods = OTHERS[language];
  if (moods) return { said: pick(moods[mood], chance), mood, theme: null };
  const read = language === "es" ? "es" : "en";
  const own = (theme: SayingTheme) => (read === "es" ? [] : sayingsOf(trade, theme, mood));
  const forAll = (theme: SayingTheme) => sayingsForAll(read, trade, theme, mood);
  // Not every trade has something to break.
  const theme =
    about ??
    pick(
      THEMES.filter((one) => own(one).length + forAll(one).length > 0),
      chance,
    );
  const [mine, everybodys] = [own(theme), forAll(theme)];
  // Of a trade's own, where it has some, twice out of three times.
  const isOwn = mine.length > 0 && (everybodys.length === 0 || chance() < 0.67);
  return { said: pick(isOwn ? mine : everybodys, chance), mood, theme };
}

function aside(language: Spoken, hasName: boolean, chance: () => number): string {
  const list = (language === "en" ? ENGLISH_ASIDES : language === "es" ? SPANISH_ASIDES : []).filter(
    (said) => hasName || !said.includes("{it}"),
  );
  return list.length > 0 ? `${sentence(pick(list, chance))}. ` : "";
}

function filled(text: string, it: { trade: Trade; about: string | null }, chance: () => number): string {
  const who = pick(WHO[it.trade], chance);
  return text
    .replaceAll("{it}", it.about ?? (it.trade === "vets" ? "our dog" : "it"))
    .replaceAll("{who}", who)
    .replaceAll("{Who}", sentence(who))
    .replaceAll("{place}", pick(PLACES[it.trade], chance))
    .replace(/\{(minutes|few|amount)\}/g, (_, slot: string) => pick(ENGLISH_SLOTS[slot], chance))
    .replace(/(^|\. )(\p{Ll})/gu, (_, start: string, letter: string) => `${start}${letter.toLocaleUpperCase()}`);
}

/** How many different sayings a language has, before anything is filled in. */
export function countSayings(language: Spoken): number {
  const moods = OTHERS[language];
  if (moods) return new Set([...moods.happy, ...moods.unhappy]).size;
  const sayings = language === "es" ? [SPANISH] : [ENGLISH, ENGLISH_MORE];
  return new Set(THEMES.flatMap((theme) => [...of(sayings, theme, "happy"), ...of(sayings, theme, "unhappy")])).size;
}
