import type { Language } from "../words/languages";

/**
 * What a reply may say that the business has done or will do. No draft says any of it by itself: it stands in a reply
 * only where somebody who knows it to be true has ticked it.
 */

export const CLAIMS = ["passed on", "talked about", "changed", "will look into"] as const;
export type Claim = (typeof CLAIMS)[number];

/** Each claim as a sentence of a public reply. */
const SENTENCES: Record<Language, Record<Claim, string>> = {
  en: {
    "passed on": "We’ve passed your words on to the team.",
    "talked about": "We’ve talked about it with the team.",
    changed: "We’ve changed how we do this.",
    "will look into": "We’ll look into it and get back to you.",
  },
  es: {
    "passed on": "Hemos trasladado sus palabras al equipo.",
    "talked about": "Lo hemos hablado con el equipo.",
    changed: "Hemos cambiado nuestra forma de hacerlo.",
    "will look into": "Lo vamos a revisar y le contestaremos.",
  },
  fr: {
    "passed on": "Nous avons transmis votre message à l’équipe.",
    "talked about": "Nous en avons parlé avec l’équipe.",
    changed: "Nous avons changé notre façon de faire.",
    "will look into": "Nous allons examiner cela et reviendrons vers vous.",
  },
  de: {
    "passed on": "Wir haben Ihre Worte an das Team weitergegeben.",
    "talked about": "Wir haben im Team darüber gesprochen.",
    changed: "Wir haben das geändert.",
    "will look into": "Wir gehen der Sache nach und melden uns bei Ihnen.",
  },
  pt: {
    "passed on": "Transmitimos as suas palavras à equipa.",
    "talked about": "Já falámos sobre isto com a equipa.",
    changed: "Mudámos a nossa forma de fazer isto.",
    "will look into": "Vamos analisar o assunto e voltaremos a contactar.",
  },
  pl: {
    "passed on": "Przekazaliśmy te słowa zespołowi.",
    "talked about": "Rozmawialiśmy o tym w zespole.",
    changed: "Zmieniliśmy sposób, w jaki to robimy.",
    "will look into": "Sprawdzimy to i odezwiemy się do Państwa.",
  },
};

/** Whether a reply in this language makes a claim. */
export const claims = (words: string, claim: Claim, language: Language): boolean =>
  words.includes(SENTENCES[language][claim]);

/** A reply with a claim at the end of what it says, above the signature; or without it, where it stood there. */
export function withClaim(words: string, claim: Claim, language: Language, isTrue: boolean): string {
  const sentence = SENTENCES[language][claim];
  const bare = words.replace(sentence, "").replace(/ {2,}/g, " ").replace(/ +$/gm, "");
  if (!isTrue) return bare;
  const [said, ...rest] = bare.split("\n\n");
  return [said.trim() ? `${said.trimEnd()} ${sentence}` : sentence, ...rest].join("\n\n");
}
