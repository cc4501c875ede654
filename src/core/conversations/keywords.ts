import { foldLetters } from "../words/fold";
import type { Language } from "../words/languages";
import { readStopWish } from "./stopWishes";

/**
 * The words by which people end texts, begin them again, or ask who writes: a whole message of one of them, as carriers
 * and rules in several countries have them. Edit this to add one.
 */
const KEYWORDS = ["stop", "start", "help"] as const;
export type Keyword = (typeof KEYWORDS)[number];

/** Without accents and signs. What several languages share stands under English and tells no language. */
const WORDS: Record<Keyword, Record<Language, readonly string[]>> = {
  stop: {
    en: [
      "stop",
      "stopall",
      "stop all",
      "stop texting",
      "stop texting me",
      "stop texts",
      "stop it",
      "stop messaging me",
      "no more texts",
      "no more messages",
      "remove me",
      "take me off",
      "unsubscribe",
      "unsubscribe me",
      "cancel",
      "end",
      "quit",
      "revoke",
      "optout",
      "opt out",
    ],
    es: [
      ...["baja", "dar de baja", "darme de baja", "darse de baja", "quiero darme de baja", "parar", "alto", "cancelar"],
      ...["no mas", "no mas mensajes", "no quiero mas mensajes", "no me escriban mas", "basta", "stop sms"],
    ],
    fr: [
      ...[
        "arret",
        "arreter",
        "arretez",
        "desabonner",
        "me desabonner",
        "desabonnez moi",
        "desabonnement",
        "desinscrire",
      ],
      ...["desinscription", "plus de messages", "ne plus recevoir", "ne m ecrivez plus", "stop sms"],
    ],
    de: [
      ...[
        "stopp",
        "abmelden",
        "abmeldung",
        "abbestellen",
        "austragen",
        "aufhoren",
        "aufhoeren",
        "nicht mehr schreiben",
      ],
      ...["keine nachrichten", "keine nachrichten mehr", "keine sms", "keine sms mehr"],
    ],
    pt: [
      ...["parar", "pare", "sair", "cancelar", "anular", "desistir", "descadastrar", "remover"],
      ...["nao quero mais mensagens", "nao me escrevam mais", "nao enviem mais"],
    ],
    pl: [
      ...["koniec", "wypisz", "wypisz mnie", "rezygnuje", "rezygnacja", "zakoncz", "anuluj", "dosc"],
      ...["nie pisz", "nie piszcie", "nie pisac", "nie chce wiadomosci"],
    ],
  },
  start: {
    en: ["start", "unstop", "yes start", "start again", "resume"],
    es: ["alta", "empezar", "reanudar", "comenzar"],
    fr: ["debut", "reprendre", "commencer", "recommencer"],
    de: ["anfangen", "anmelden", "starten", "wieder anmelden"],
    pt: ["comecar", "retomar", "recomecar"],
    pl: ["wznow", "zacznij", "zapisz mnie", "ponowna zgoda"],
  },
  help: {
    en: ["help", "help me", "info", "who is this", "who are you"],
    es: ["ayuda", "quien es", "quienes son"],
    fr: ["aide", "qui est ce", "qui etes vous"],
    de: ["hilfe", "wer ist das", "wer sind sie"],
    pt: ["ajuda", "socorro", "quem e"],
    pl: ["pomoc", "kto to", "kto pisze"],
  },
};

/** What people add out of politeness. */
const POLITE =
  /\b(?:please|pls|plz|now|thanks|thank you|por favor|porfa|muchas gracias|gracias|s il vous plait|s il te plait|svp|stp|merci d avance|merci|vielen dank|bitte|danke|se faz favor|faz favor|sff|obrigado|obrigada|prosze|dziekuje|dzieki)\b/g;

const plain = (text: string) =>
  foldLetters(text)
    .replace(/[^\p{L}\s]/gu, " ")
    .replace(/\s+/g, " ")
    .trim();

const READ = new Map<string, { keyword: Keyword; language: Language | null }>();
for (const keyword of KEYWORDS)
  for (const [language, words] of Object.entries(WORDS[keyword]) as [Language, readonly string[]][])
    for (const word of words) {
      const before = READ.get(word);
      // "stop" is said everywhere, and "parar" in two languages: they tell none.
      READ.set(word, { keyword, language: before || (language === "en" && !word.includes(" ")) ? null : language });
    }

/**
 * What a message asks for that is nothing but one of the words above, or a plain sentence that wants no more messages,
 * and in which language, where the words tell; null for any other message.
 */
export function readKeyword(text: string): { keyword: Keyword; language: Language | null } | null {
  if (text.length > 2000) return null;
  const words = plain(text);
  const keyword = READ.get(words) ?? READ.get(words.replace(POLITE, " ").replace(/\s+/g, " ").trim());
  if (keyword) return keyword;
  const wish = readStopWish(text);
  return wish?.sure ? { keyword: "stop", language: wish.language } : null;
}
