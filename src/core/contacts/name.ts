/** Names as people would write them themselves: split, unshouted, and short enough to greet with. */

const SMALL = new Set([
  "de",
  "da",
  "di",
  "do",
  "dos",
  "du",
  "del",
  "della",
  "la",
  "le",
  "van",
  "von",
  "der",
  "den",
  "ter",
  "ten",
  "bin",
  "al",
  "y",
  "e",
]);
const TITLE =
  "mr|mrs|ms|miss|mx|master|dr|drs|prof|professor|sir|dame|rev|reverend|hon|mme|mlle|monsieur|madame|sr|sra|srta|señor|señora|herr|frau|ing|dipl\\.?-?ing|mag";
/** One title or several ("Prof. Dr."), also of a couple ("Mr & Mrs"). */
const TITLES = new RegExp(`^(?:(?:${TITLE})(?:\\.\\s*|\\s+|$)(?:(?:&|\\+|and|und|et|y|e)\\s+)?)+`, "i");
/** What people put behind their names that is no part of how they are greeted. */
const DEGREE =
  /^(?:m\.?d|d\.?d\.?s|d\.?m\.?d|d\.?v\.?m|d\.?o|ph\.?d|r\.?n|n\.?p|p\.?a|j\.?d|esq(?:uire)?|mba|msc|bsc|ma|ba|mrcvs|frcs|obe|mbe|cbe|cpa|p\.?e|od)\.?$/i;
/** Parts of a family name that stand behind it. */
const GENERATION = /^(?:jr|sr|jnr|snr|junior|senior|ii|iii|iv)\.?$/i;
const AND = /^(?:&|\+|and|und|et|y|e)$/i;

/** All capitals or all small becomes natural capitals; a name with its own capitals stays. Spaces are tidied. */
export function naturalName(typed: string): string {
  const text = typed.normalize("NFC").trim().replace(/\s+/g, " ");
  const isShouted = text === text.toUpperCase() && /\p{L}{2}/u.test(text);
  const isWhispered = text === text.toLowerCase();
  if (!isShouted && !isWhispered) return text;
  return text
    .toLowerCase()
    .split(" ")
    .map((word, index) =>
      /^(?:ii|iii|iv)$/.test(word) ? word.toUpperCase() : index > 0 && SMALL.has(word) ? word : capitalise(word),
    )
    .join(" ");
}

function capitalise(word: string): string {
  return word
    .replace(/(^|[-'’.])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/(['’])(S)$/u, (_, mark: string) => `${mark}s`)
    .replace(/^Mc(\p{Ll})/u, (_, letter: string) => `Mc${letter.toUpperCase()}`);
}

/** A given name as it is kept: without titles; nothing where there is no more than a title ("Mr & Mrs"). */
export function givenName(typed: string): string {
  return naturalName(withoutDegrees(withoutTitles(tidy(typed))));
}

/** A family name as it is kept: without titles and degrees ("Marsh, MD"). */
export function familyName(typed: string): string {
  return naturalName(withoutDegrees(withoutTitles(tidy(typed)).replace(/,/g, " ")));
}

const tidy = (text: string) => text.trim().replace(/\s+/g, " ");
const withoutTitles = (text: string) => text.replace(TITLES, "").replace(/^(?:&|\+)\s*/, "");

function withoutDegrees(text: string): string {
  const words = text.split(" ");
  // The first word is a name, whatever it looks like.
  while (words.length > 1 && DEGREE.test(words[words.length - 1])) words.pop();
  return words.join(" ").replace(/,$/, "");
}

/**
 * A full name in two: "MARSH, Odette", "Mrs Odette Marsh" and "Odette Marsh, MD" all give Odette and Marsh. A title
 * before one word makes that a family name: "Mr Marsh", "Mr & Mrs Marsh".
 */
export function splitName(typed: string): { given: string; family: string } {
  const whole = tidy(typed);
  const [first, ...rest] = whole
    .split(",")
    .map((part) => part.trim())
    .filter((part) => part !== "" && !DEGREE.test(part));
  if (first === undefined) return { given: "", family: "" };
  const generations = rest.filter((part) => GENERATION.test(part));
  const others = rest.filter((part) => !GENERATION.test(part));
  if (others.length > 0)
    return { given: givenName(others.join(" ")), family: naturalName([familyName(first), ...generations].join(" ")) };
  const text = withoutTitles(first);
  const words = withoutDegrees([text, ...generations].join(" "))
    .split(" ")
    .filter(Boolean);
  if (words.length === 0) return { given: "", family: "" };
  if (words.length < 2)
    return text === first ? { given: naturalName(words[0]), family: "" } : { given: "", family: naturalName(words[0]) };
  let cut = words.length - 1;
  while (cut > 1 && GENERATION.test(words[cut])) cut--;
  while (cut > 1 && SMALL.has(words[cut - 1].toLowerCase()) && !AND.test(words[cut - 1])) cut--;
  return { given: naturalName(words.slice(0, cut).join(" ")), family: naturalName(words.slice(cut).join(" ")) };
}

/** The word to greet with: the first given name, both of a couple, or null for an initial or nothing. */
export function greetingName(given: string | null | undefined): string | null {
  const words = givenName(given ?? "").split(" ");
  const isName = (word: string | undefined) =>
    word !== undefined && /\p{L}/u.test(word) && !/^\p{L}\.?$/u.test(word) && !AND.test(word);
  if (!isName(words[0])) return null;
  return words.length > 2 && AND.test(words[1]) && isName(words[2]) ? `${words[0]} ${words[1]} ${words[2]}` : words[0];
}
