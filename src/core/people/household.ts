import { foldLetters } from "../words/fold";
import { closeFamily, closeGiven, compareNames, isShortForm, type Named, slips } from "./sameness";

/**
 * Whether someone who arrives with an address that is known is the person it is known of. Families share phones and
 * mailboxes, so an address alone says little, and the given name most:
 *
 * - "same": the record that is here;
 * - "another": somebody else of that household;
 * - "unclear": nobody can tell. Both are kept, so that nobody who was typed in disappears.
 */
export type Likeness = "same" | "another" | "unclear";

/** What stands before a name and is none. */
const TITLES = new Set(
  "mr mrs ms miss mx dr prof sir madam herr frau fr hr monsieur madame mademoiselle m mme mlle senor senora sr sra don dona dna pan pani doutor doutora".split(
    " ",
  ),
);

const fold = (text: string) => foldLetters(text).replace(/[^\p{L}\p{N}]/gu, "");

/** The name without titles; a family name that stands alone is one, wherever it was written. */
function withoutTitles({ given, family }: Named): Named {
  const bare = given
    .split(/\s+/)
    .filter((word) => !TITLES.has(fold(word)))
    .join(" ");
  return { given: bare, family };
}

/** From how many letters on a slip of the keys is one: Lena and Lina may be sisters. */
const LETTERS_OF_A_SLIP = 6;

/**
 * How likely two names at one address are one person's.
 *
 * @example likeness({ given: "Odette", family: "Marsh" }, { given: "Jun", family: "Marsh" }) // "another"
 * @example likeness({ given: "Odette", family: "Marsh" }, { given: "O.", family: "Marsh" }) // "same"
 */
export function likeness(known: Named, arriving: Named): Likeness {
  const [a, b] = [withoutTitles(known), withoutTitles(arriving)];
  // Without a name it is the address that speaks.
  if (!fold(a.given + a.family) || !fold(b.given + b.family)) return "same";
  const names = compareNames(a, b);
  if (names === "same" || names === "swapped") return "same";
  // A name of one word may be either.
  const single = !fold(b.given) || !fold(b.family) ? b.given || b.family : null;
  if (single !== null) return byOneWord(a, single);
  if (!fold(a.given) || !fold(a.family)) return byOneWord(b, a.given || a.family);
  const [x, y] = [fold(a.given.split(/\s+/)[0] ?? ""), fold(b.given.split(/\s+/)[0] ?? "")];
  const isOneFamily = closeFamily(a.family, b.family);
  // Whoever has the first name at this address has another family name now.
  if (x === y) return "same";
  if (x.length === 1 || y.length === 1) return x[0] !== y[0] ? "another" : isOneFamily ? "same" : "unclear";
  if (isShortForm(x, y)) return isOneFamily ? "same" : "unclear";
  if (slips(x, y))
    return !isOneFamily ? "another" : Math.max(x.length, y.length) >= LETTERS_OF_A_SLIP ? "same" : "unclear";
  return "another";
}

/** A whole name, and one word that may be its given or its family name. */
function byOneWord(whole: Named, word: string): Likeness {
  const said = fold(word);
  if (fold(whole.family) === said) return "same";
  return closeGiven(whole.given, word) ? "same" : "another";
}
