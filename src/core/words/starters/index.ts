import { type AnyLanguage, type Language, PSEUDO, pseudoWords } from "../languages";
import { type Field, isMessageName, type MessageWords, type StarterWords } from "../pieces";
import { DE } from "./de";
import { EN } from "./en";
import { ES } from "./es";
import { FR } from "./fr";
import { PL } from "./pl";
import { PT } from "./pt";

/** The words that come with Estima: what an agency's and a client's words start from. */

const BY_LANGUAGE: Record<Language, StarterWords> = { en: EN, es: ES, fr: FR, de: DE, pt: PT, pl: PL };

/** The starter words of a place: "first.job/text", "page/happy". Null for a place that has none. */
export function starterWords(language: AnyLanguage, place: string): string | null {
  if (language === PSEUDO) {
    const words = starterWords("en", place);
    return words === null ? null : pseudoWords(words);
  }
  const [name, field] = place.split("/");
  const { messages, page } = BY_LANGUAGE[language];
  if (name === "page") return page[field as keyof typeof page] ?? null;
  return isMessageName(name) ? (messages[name][field as Field] ?? null) : null;
}

/** The three texts of a starter message. */
export function starterMessage(language: Language, name: keyof StarterWords["messages"]): MessageWords {
  return BY_LANGUAGE[language].messages[name];
}
