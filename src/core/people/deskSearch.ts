import { foldLetters } from "../words/fold";

/** What is compared of a person: the names, one address of each kind. */
type Sought = { given: string; family: string; phone: string | null; email: string | null };

/** From how many characters on a search at a shared phone finds people who merely begin so. */
export const DESK_SEARCH_CHARACTERS = 4;

const wordsIn = (text: string) =>
  foldLetters(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** A phone number, or a part of one, as people type it. */
const NUMBER = /^[\d\s()+./-]+$/;

const digitsIn = (text: string) => text.replace(/\D/g, "");

/** Whether what was typed at a shared phone is enough to look people up at all. */
export function isDeskSearch(typed: string): boolean {
  return typed.includes("@") || NUMBER.test(typed)
    ? digitsIn(typed).length >= DESK_SEARCH_CHARACTERS || typed.includes("@")
    : wordsIn(typed).length > 0;
}

/**
 * Whether a shared phone shows a person for what was typed. Someone at the desk finds the customer in front of them, and
 * nobody reads the customers one letter at a time: four digits of the number, the whole email address, or the name, whose
 * first four letters are enough; a shorter name has to be whole.
 *
 * @example isFoundAtDesk({ given: "Li", family: "Wu", ... }, "li") // true
 * @example isFoundAtDesk({ given: "Lisbet", family: "Wu", ... }, "li") // false
 */
export function isFoundAtDesk(person: Sought, typed: string): boolean {
  const text = typed.trim();
  if (!isDeskSearch(text)) return false;
  if (text.includes("@")) return person.email !== null && person.email.toLowerCase() === text.toLowerCase();
  if (NUMBER.test(text)) {
    const typedDigits = digitsIn(text).replace(/^0+/, "");
    return typedDigits.length >= 3 && digitsIn(person.phone ?? "").includes(typedDigits);
  }
  const sought = wordsIn(text);
  const names = wordsIn(`${person.given} ${person.family}`);
  const isLong = sought.some((word) => word.length >= DESK_SEARCH_CHARACTERS);
  return sought.every((word) => names.some((name) => (isLong ? name.startsWith(word) : name === word)));
}
