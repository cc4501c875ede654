import { createTranslator } from "use-intl/core";
import { type AnyLanguage, PSEUDO, pseudoWords } from "@/core/words/languages";
import de from "./customer/de.json" with { type: "json" };
import en from "./customer/en.json" with { type: "json" };
import es from "./customer/es.json" with { type: "json" };
import fr from "./customer/fr.json" with { type: "json" };
import pl from "./customer/pl.json" with { type: "json" };
import pt from "./customer/pt.json" with { type: "json" };

/**
 * The product's own words on everything that customers see, one catalogue a language (ICU MessageFormat). What a
 * business writes itself stands in `core/words/starters` and in its plans. `customer.test.ts` fails for a word that a
 * language lacks.
 */

export const CUSTOMER_CATALOGUES = { en, es, fr, de, pt, pl };

type Catalogue = typeof en;
/** "rating.change" and so on. */
export type CustomerKey = {
  [Part in keyof Catalogue]: `${Part}.${keyof Catalogue[Part] & string}`;
}[keyof Catalogue];

export type Say = (key: CustomerKey, values?: Record<string, string | number>) => string;

/** Where dates and plurals of a language come from. */
export const LOCALES: Record<AnyLanguage, string> = {
  en: "en-GB",
  es: "es-ES",
  fr: "fr-FR",
  de: "de-DE",
  pt: "pt-PT",
  pl: "pl-PL",
  [PSEUDO]: "en-GB",
};

const pseudo = (part: unknown): unknown =>
  typeof part === "string"
    ? pseudoWords(part)
    : Object.fromEntries(Object.entries(part as object).map(([name, each]) => [name, pseudo(each)]));

const says = new Map<AnyLanguage, Say>();

/** The words of a language, filled in. Throws for a key without words. */
export function customerWords(language: AnyLanguage): Say {
  let say = says.get(language);
  if (!say) {
    say = sayIn(language);
    says.set(language, say);
  }
  return say;
}

/** What MessageFormat reads in words other than names to fill in ("{business}"). */
const NEEDS_FORMAT = /[<>'#]|\{(?!\w+\})|(?<!\{\w+)\}/;

function sayIn(language: AnyLanguage): Say {
  const messages = (language === PSEUDO ? pseudo(en) : CUSTOMER_CATALOGUES[language]) as Catalogue;
  const formatted = createTranslator({
    locale: LOCALES[language],
    messages: messages as Record<string, unknown>,
    onError: (error) => {
      throw error;
    },
  }) as unknown as Say;
  // Nearly all words have at most names to fill in, which takes no formatter: words and names in turn.
  const simple = new Map<string, string[]>();
  for (const [part, words] of Object.entries(messages))
    for (const [name, word] of Object.entries(words))
      if (!NEEDS_FORMAT.test(word)) simple.set(`${part}.${name}`, word.split(/\{(\w+)\}/));
  return (key, values) => {
    const pieces = simple.get(key);
    if (!pieces) return formatted(key, values);
    let said = pieces[0];
    for (let at = 1; at < pieces.length; at += 2) {
      const value = values?.[pieces[at]];
      if (value === undefined) return formatted(key, values);
      said += value + pieces[at + 1];
    }
    return said;
  };
}

/** "24 November 2026", as the language writes it. `at` in milliseconds since the epoch, `zone` an IANA name. */
export function customerDate(language: AnyLanguage, at: number, zone: string): string {
  return new Intl.DateTimeFormat(LOCALES[language], { dateStyle: "long", timeZone: zone }).format(at);
}
