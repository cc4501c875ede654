import { foldLetters } from "../words/fold";

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
/** Titles with or without a dot, in the six languages and some beside. */
const TITLE =
  "mr|mrs|ms|miss|mx|master|mister|madam|ma'?am|dr|drs|dra|prof|profª|professor|sir|dame|lord|lady|rev|revd|reverend|hon|capt|captain|sgt|cllr|mme|mmes|mlle|monsieur|madame|mesdames|messieurs|sr|sra|srta|sres|dña|señor|señora|señorita|senhor|senhora|herr|frau|fräulein|ing|inż|mgr|dipl\\.?-?ing|mag|dott(?:\\.?ssa)?|sig(?:\\.?ra)?|signor|signora|pan|pani|państwo";
/** Titles that are a name, or the first letter of one, without the dot. */
const DOTTED = "m|d|fr|col|lt|maj|gen|eng|engº|arq|med|univ|hab|jur|vet|dent|rer\\. nat";
/** One title or several ("Prof. Dr. med."), also of a couple ("Mr & Mrs"). */
const TITLES = new RegExp(
  `^(?:(?:(?:${TITLE})(?:\\.-?\\s*|\\s+|$)|(?:${DOTTED})\\.-?\\s*(?=\\S{2}))(?:(?:&|\\+|and|und|et|y|e|i)\\s+)?)+`,
  "iu",
);
/** What stands where a name would, in the six languages; folded. */
const NO_NAMES = new Set(
  [
    "anonymous anonymus anon guest user customer client patient visitor member reviewer owner occupier resident tenant",
    "somebody someone nobody unknown unnamed former current new happy unhappy satisfied disappointed angry loyal regular",
    "frequent verified local test tester testing none nil null undefined noname walkin cash tbc tba xxx abc admin",
    "reception office account accounts info sales team staff the a dear hello hi my our",
    "anonimo anonima usuario usuaria invitado invitada cliente clienta paciente desconocido desconocida prueba",
    "anonyme utilisateur utilisatrice invite visiteur inconnu inconnue essai",
    "anonym kunde kundin gast nutzer nutzerin unbekannt ehemaliger ehemalige patientin mieter mieterin",
    "utilizador utilizadora convidado convidada desconhecido desconhecida teste",
    "anonim klient klientka gosc uzytkownik uzytkowniczka nieznany nieznana pacjent pacjentka",
  ].flatMap((words) => words.split(" ")),
);
/** What a company's name has in it, and a person's has not. */
const COMPANY =
  /^(?:ltd|limited|llc|llp|inc|plc|corp|corporation|gmbh|mbh|ag|ug|kg|ohg|sarl|sas|eurl|snc|slu?|s\.l\.?|s\.a\.?|lda|unipessoal|sp|z\.?o\.?o|bv|b\.v|nv|oy|ab|aps|pty|company|holdings?|services|solutions|group|council|trust|association|society|hotel|restaurant|cafe|café|garage|school|academy|clinic|surgery|lettings|properties|estates|bros|brothers)[.,]?$/iu;
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
  const language = languageOfLetters(text);
  return text
    .toLocaleLowerCase(language)
    .split(" ")
    .map((word, index) =>
      /^(?:ii|iii|iv)$/.test(word)
        ? word.toUpperCase()
        : index > 0 && SMALL.has(word)
          ? word
          : capitalise(word, language),
    )
    .join(" ");
}

/** Turkish has a dotted and a dotless i, each with a capital of its own. */
const languageOfLetters = (text: string) => (/[İı]/.test(text) ? "tr" : "en");

function capitalise(word: string, language: string): string {
  return word
    .replace(/(^|[-'’.])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toLocaleUpperCase(language))
    .replace(/^Ij(?=\p{Ll})/u, "IJ")
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

/** Whether a name is a company's: "Harbour Lettings Ltd". */
export const isCompany = (name: string): boolean =>
  tidy(name)
    .split(" ")
    .slice(1)
    .some((word) => COMPANY.test(word));

/**
 * The word to greet with: the first given name, or both of a couple. Null where there is none to be sure of: an initial,
 * a title alone, a company, "Guest".
 */
export function greetingName(given: string | null | undefined, family = ""): string | null {
  const words = givenName(given ?? "").split(" ");
  const isName = (word: string | undefined) =>
    word !== undefined &&
    /^\p{L}[\p{L}\p{M}\p{Cf}'’.-]+$/u.test(word) &&
    !/^\p{L}\.?$/u.test(word) &&
    !/^(?:\p{L}\.-?)+$/u.test(word) &&
    !AND.test(word) &&
    !NO_NAMES.has(foldLetters(word).replace(/[^\p{L}]/gu, ""));
  if (!isName(words[0]) || isCompany(`${given ?? ""} ${family}`)) return null;
  return words.length > 2 && AND.test(words[1]) && isName(words[2]) ? `${words[0]} ${words[1]} ${words[2]}` : words[0];
}
