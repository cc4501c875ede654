/** Names as people would write them themselves: split, unshouted, and short enough to greet with. */

const SMALL = new Set(["de", "da", "di", "do", "dos", "du", "del", "della", "la", "le", "van", "von", "der", "den", "ter", "ten", "bin", "al", "y", "e"]);
const TITLES = /^(?:mr|mrs|ms|miss|mx|dr|prof|sir|dame|rev|mme|mlle|sr|sra|herr|frau)\.?\s+/i;

/** All capitals or all small becomes natural capitals; a name with its own capitals stays. Spaces are tidied. */
export function naturalName(typed: string): string {
  const text = typed.normalize("NFC").trim().replace(/\s+/g, " ");
  const isShouted = text === text.toLocaleUpperCase() && /\p{L}{2}/u.test(text);
  const isWhispered = text === text.toLocaleLowerCase();
  if (!isShouted && !isWhispered) return text;
  return text
    .toLocaleLowerCase()
    .split(" ")
    .map((word, index) => (index > 0 && SMALL.has(word) ? word : capitalise(word)))
    .join(" ");
}

function capitalise(word: string): string {
  return word
    .replace(/(^|[-'’.])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toLocaleUpperCase())
    .replace(/(['’])(S)$/u, (_, mark: string) => `${mark}s`)
    .replace(/^Mc(\p{Ll})/u, (_, letter: string) => `Mc${letter.toLocaleUpperCase()}`);
}

/** A full name in two: "MARSH, Odette" and "Mrs Odette Marsh" both give Odette and Marsh. */
export function splitName(typed: string): { given: string; family: string } {
  const text = typed.trim().replace(/\s+/g, " ").replace(TITLES, "");
  const comma = text.indexOf(",");
  if (comma > 0) {
    return { given: naturalName(text.slice(comma + 1).replace(TITLES, "")), family: naturalName(text.slice(0, comma)) };
  }
  const words = text.split(" ");
  if (words.length < 2) return { given: naturalName(text), family: "" };
  let cut = words.length - 1;
  while (cut > 1 && SMALL.has(words[cut - 1].toLowerCase())) cut--;
  return { given: naturalName(words.slice(0, cut).join(" ")), family: naturalName(words.slice(cut).join(" ")) };
}

/** The word to greet with: the first given name, or null for an initial or nothing. */
export function greetingName(given: string | null | undefined): string | null {
  const first = naturalName(given ?? "").split(" ")[0] ?? "";
  return /^\p{L}\.?$/u.test(first) || first === "" ? null : first;
}
