import type { Language } from "./languages";

/** Words that stand in nearly every text of a language, and in few of another. Small letters. */
const COMMON: Record<Language, string> = {
  en: "the and was were is are of to it they we my with for that this have had not but very so from you our at on his her she he been would will i me us as by if when who what which there their them felt could did just all no do go",
  es: "el la los las y es fue muy con para que por un una mi nos me se lo del no pero en su han hay como todo muy más está eran son bien gracias",
  fr: "le la les et est était très avec pour que qui un une mon ma nous je se du des pas mais en sur son sa ont c'est tout bien merci j'ai été",
  de: "der die das und ist war sehr mit für dass ein eine mein meine wir ich sich nicht aber im auf sein ihre haben es alles gut danke wurde zu den dem",
  pt: "o a os as e é foi muito com para que por um uma meu minha nos se do da não mas em seu sua tem são tudo bem obrigado obrigada mais estava",
  pl: "i w na z się nie jest był była bardzo do że to za od ale po mi nas moja mój przez jak są tak już wszystko dziękuję polecam dobrze oraz było",
};
const WORDS = Object.fromEntries(
  Object.entries(COMMON).map(([language, words]) => [language, new Set(words.split(" "))]),
) as Record<Language, Set<string>>;

/** Letters that only one of the languages has. */
const LETTERS: readonly [RegExp, Language][] = [
  [/[ąęłńśźż]/u, "pl"],
  [/[ñ¿¡]/u, "es"],
  [/[ßäöü]/u, "de"],
  [/[ãõ]/u, "pt"],
  [/[èêëîœù]/u, "fr"],
];

/** In which of the customers' languages a text is written; `otherwise` where it does not tell. */
export function detectLanguage(text: string, otherwise: Language): Language {
  const plain = text
    .toLocaleLowerCase("en")
    .replace(/[\u2019]/g, "'")
    .slice(0, 4000);
  const score = new Map<Language, number>();
  const add = (language: Language, by: number) => score.set(language, (score.get(language) ?? 0) + by);
  // Each word once: "no mess, no fuss" says "no" no louder.
  for (const word of new Set(plain.match(/[\p{L}']+/gu)))
    for (const language of Object.keys(WORDS) as Language[]) if (WORDS[language].has(word)) add(language, 1);
  for (const [letters, language] of LETTERS) if (letters.test(plain)) add(language, 2);
  const [best, next] = [...score].sort((a, b) => b[1] - a[1]);
  if (!best || best[1] < 2 || (next && next[1] === best[1])) return otherwise;
  return best[0];
}
