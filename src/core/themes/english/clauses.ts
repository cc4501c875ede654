import winkModel from "wink-eng-lite-web-model";
import winkNLP, { type ItemSentence, type ItemToken } from "wink-nlp";
import type { Clause } from "../reading";

/** English text taken apart into clauses, by wink-nlp. */

let reader: ReturnType<typeof winkNLP> | undefined;

/** The reader, made at the first text: that takes a quarter of a second. */
function winkReader(): ReturnType<typeof winkNLP> {
  reader ??= winkNLP(winkModel, ["sbd"]);
  return reader;
}

/** Written large in the midst of a sentence and yet no name. */
const LARGE = new Set(
  `i mot ac tv vat nhs ok monday tuesday wednesday thursday friday saturday sunday january february march april june july august september october november december
  christmas easter boxing bank english google website`.split(/\s+/),
);

/** How a name of a person, an animal, a street or a business is read: as somebody, whatever the name means. */
const SOMEBODY = "somebody's-name";

/** A text where most words begin large tells nothing of names. */
const isShouted = (text: string) => {
  const words = text.match(/\p{L}{2,}/gu) ?? [];
  return words.length > 3 && words.filter((word) => /^\p{Lu}/u.test(word)).length > words.length * 0.8;
};

type Word = { said: string; from: number; to: number; isMark: boolean; begins: boolean };

/** Contractions as the words that they are short for. */
const LONG: Record<string, string> = {
  "n't": "not",
  ca: "can",
  wo: "will",
  "'ve": "have",
  "'ll": "will",
  "'re": "are",
  "'m": "am",
  "'d": "had",
  cannot: "can not",
};

/** The words of a text with their places. What looks like an apostrophe is one. */
function wordsOf(text: string): Word[] {
  const plain = text.replace(/[\u2018\u2019\u02BC`\u00B4]/g, "'");
  const words: Word[] = [];
  const hasNames = !isShouted(text);
  let at = 0;
  const nlp = winkReader();
  nlp
    .readDoc(plain)
    .sentences()
    .each((sentence: ItemSentence) => {
      let begins = true;
      sentence.tokens().each((token: ItemToken) => {
        const said = token.out();
        const from = plain.indexOf(said, at);
        if (from < 0) return;
        at = from + said.length;
        const small = said.toLowerCase();
        const kind = token.out(nlp.its.type);
        const isMark = kind === "punctuation" || kind === "symbol" || kind === "emoji" || kind === "emoticon";
        const isName = hasNames && !begins && /^\p{Lu}\p{Ll}/u.test(said) && !LARGE.has(small);
        words.push({ said: isName ? SOMEBODY : (LONG[small] ?? small), from, to: at, isMark, begins });
        begins = false;
      });
    });
  return words;
}

const TURNS = new Set([
  "but",
  "although",
  "though",
  "however",
  "yet",
  "while",
  "whereas",
  "except",
  "despite",
  "nevertheless",
]);
/** Said as one, whatever stands between. */
const PAIRS = new Set([
  "in and out",
  "above and beyond",
  "over and above",
  "first and foremost",
  "up and down",
  "on and on",
  "again and again",
  "over and over",
  "bits and pieces",
  "clean and tidy",
  "neat and tidy",
]);

const turnsAt = (word: Word | undefined) => word !== undefined && TURNS.has(word.said);

/** The clauses of a text, in their order. */
export function englishClauses(text: string): Clause[] {
  const words = wordsOf(text);
  const clauses: Clause[] = [];
  let held: Word[] = [];
  let turns = false;
  let begins = true;
  const close = () => {
    const said = held.filter(({ isMark }) => !isMark);
    // What joins a clause to the one before is no part of what it says.
    if (said.length > 1 && /^(?:and|so|then|plus)$/.test(said[0].said)) said.shift();
    if (said.length > 0) {
      clauses.push({
        words: said.map((word) => word.said).join(" "),
        from: said[0].from,
        to: said[said.length - 1].to,
        turns,
        begins,
      });
      begins = false;
      turns = false;
    }
    held = [];
  };
  for (const [index, word] of words.entries()) {
    if (word.begins) {
      close();
      begins = true;
      turns = false;
    }
    if (word.isMark && !/^['"#&%$£€-]$/.test(word.said)) {
      close();
      continue;
    }
    if (turnsAt(word)) {
      close();
      turns = true;
      continue;
    }
    if (word.said === "and" && splitsAt(words, index, held)) {
      close();
      continue;
    }
    held.push(word);
  }
  close();
  return clauses;
}

/** Whether another clause begins after an "and": something stands on both sides of it, and both are not one saying. */
function splitsAt(words: readonly Word[], at: number, held: readonly Word[]): boolean {
  const [before, after] = [words[at - 1]?.said, words[at + 1]?.said];
  if (PAIRS.has(`${before} and ${after}`)) return false;
  // "Promised to ring, and never did" is one thing said.
  if (
    /^(?:never|did|do|does|has|have|had)$/.test(after ?? "") &&
    /^(?:did|not|have|has|came|rang)$/.test(words[at + 2]?.said ?? "")
  )
    return false;
  const rest = words.slice(at + 1, at + 3);
  return held.length >= 1 && rest.length >= 1 && !rest[0].isMark;
}
