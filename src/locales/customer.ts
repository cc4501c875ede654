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
    say = createTranslator({
      locale: LOCALES[language],
      messages: (language === PSEUDO ? pseudo(en) : CUSTOMER_CATALOGUES[language]) as Record<string, unknown>,
      onError: (error) => {
        throw error;
      },
    }) as unknown as Say;
    says.set(language, say);
  }
  return say;
}

/** "24 November 2026", as the language writes it. `at` in milliseconds since the epoch, `zone` an IANA name. */
export function customerDate(language: AnyLanguage, at: number, zone: string): string {
  return new Intl.DateTimeFormat(LOCALES[language], { dateStyle: "long", timeZone: zone }).format(at);
}
