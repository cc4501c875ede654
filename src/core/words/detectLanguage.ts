import { franc } from "franc-min";
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
/** Words with which people praise and blame in a few words, where hardly a common one stands. Small letters. */
const SHORT: Record<Language, string> = {
  en: "great good excellent amazing lovely brilliant fantastic awesome wonderful nice best perfect service staff friendly helpful recommend recommended highly thanks thank professional people always never again quick fast bad poor terrible awful rude expensive cheap clean disappointed happy job work place experience team",
  es: "excelente genial buen buena bueno buenos perfecto perfecta servicio trato recomendable recomiendo profesionales profesional amables amable encantada encantado rápido rápida mal mala malo pésimo caro cara nunca siempre personal atención gente",
  fr: "excellent excellente parfait parfaite génial service accueil recommande professionnel professionnelle rapide bon bonne mauvais mauvaise nul décevant cher chère jamais toujours équipe sympa sympathique",
  de: "toll tolle super sehr gut gute guter perfekt freundlich freundliche freundlicher empfehlen empfehlenswert immer wieder gerne nie schnell schlecht schlechte teuer leider kompetent team leute bestens",
  pt: "excelente ótimo ótima perfeito perfeita serviço atendimento recomendo profissionais profissional simpático simpática simpáticos rápido rápida mau má péssimo caro nunca sempre equipa boa bom",
  pl: "świetnie świetny świetna super polecam dobry dobra dobre profesjonalnie profesjonalna miła miło obsługa szybko drogo źle słabo nigdy zawsze fachowo rewelacja",
};
const setsOf = (lists: Record<Language, string>) =>
  Object.fromEntries(Object.entries(lists).map(([language, words]) => [language, new Set(words.split(" "))])) as Record<
    Language,
    Set<string>
  >;
const WORDS = setsOf(COMMON);
const SHORT_WORDS = setsOf(SHORT);

/** Codes of ISO 639-3, as the detector names them. */
const CODES: Record<string, Language> = { eng: "en", spa: "es", fra: "fr", deu: "de", por: "pt", pol: "pl" };

/** From so many letters on, the run of letters tells a language. */
const LONG = 40;

/** Letters that only one of the languages has. */
const LETTERS: readonly [RegExp, Language][] = [
  [/[ąęłńśźż]/u, "pl"],
  [/[ñ¿¡]/u, "es"],
  [/[ßäöü]/u, "de"],
  [/[ãõ]/u, "pt"],
  [/[èêëîœù]/u, "fr"],
];

/** A language, and whether the text tells it: `isSure` is false where it is only the likeliest. */
export type ReadAs = { language: Language; isSure: boolean };

/** What a text's words and letters say of its language: how often each language is spoken for. */
function scoresOf(plain: string, words: Record<Language, Set<string>>): [Language, number][] {
  const score = new Map<Language, number>();
  const add = (language: Language, by: number) => score.set(language, (score.get(language) ?? 0) + by);
  // Each word once: "no mess, no fuss" says "no" no louder.
  for (const word of new Set(plain.match(/[\p{L}']+/gu)))
    for (const language of Object.keys(words) as Language[]) if (words[language].has(word)) add(language, 1);
  for (const [letters, language] of LETTERS) if (letters.test(plain)) add(language, 2);
  return [...score].sort((a, b) => b[1] - a[1]);
}

/**
 * In which of the customers' languages a text is written: told by its common words, over forty letters also by the run
 * of its letters, in a few words by those of praise and blame. Where it does not tell, or is in none of these languages,
 * it is taken for `otherwise`, the language the writer is likeliest to have used.
 */
export function readLanguage(text: string, otherwise: Language): ReadAs {
  const plain = text
    .toLocaleLowerCase("en")
    .replace(/[\u2019]/g, "'")
    .slice(0, 4000);
  const letters = plain.match(/\p{L}/gu)?.length ?? 0;
  // Without a word it says nothing in any language.
  if (letters === 0) return { language: otherwise, isSure: true };
  const [best, next] = scoresOf(plain, WORDS);
  const lead = (best?.[1] ?? 0) - (next?.[1] ?? 0);
  const isPlain = best !== undefined && best[1] >= 2 && lead > 0;
  if (letters >= LONG) {
    const told = franc(plain);
    const run = CODES[told] ?? null;
    if (isPlain && (lead >= 3 || run === best[0])) return { language: best[0], isSure: true };
    if (run !== null && (!best || best[0] === run || lead === 0))
      return { language: run, isSure: run === otherwise || isPlain };
    return isPlain && told === "und"
      ? { language: best[0], isSure: true }
      : { language: isPlain && lead >= 2 ? best[0] : otherwise, isSure: false };
  }
  if (isPlain) return { language: best[0], isSure: true };
  const short = scoresOf(plain, SHORT_WORDS);
  const [word, other] = short;
  if (word && word[1] > (other?.[1] ?? 0) && (!best || best[0] === word[0] || word[1] > best[1]))
    return { language: word[0], isSure: true };
  // "Super!" is said in several of them: in the writer's own, most likely. Of words that join others, a tie tells nothing.
  const isOwn = lead > 0 && best?.[0] === otherwise;
  const isOwnShort = short.some(([each, score]) => each === otherwise && score === word[1]);
  return { language: otherwise, isSure: isOwn || isOwnShort };
}

/** In which of the customers' languages a text is written; `otherwise` where it does not tell. */
export const detectLanguage = (text: string, otherwise: Language): Language => readLanguage(text, otherwise).language;
