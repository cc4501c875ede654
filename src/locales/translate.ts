import { createTranslator } from "use-intl/core";
import en from "./en.json" with { type: "json" };

/**
 * The catalogues: the words of codes that core returns and rows keep (`src/core`, discriminated by `code`). Edit en.json
 * when a code is added or its words change; `locales.test.ts` fails for a code without words, and for words without a
 * code. Messages are ICU MessageFormat.
 */

export const CATALOGUES = { en };
export type Catalogue = typeof en;
export type Values = Record<string, string | number>;

// One language so far: whoever adds the second passes it down to here.
const translator = createTranslator({
  locale: "en-GB",
  messages: en as Record<string, unknown>,
  onError: (error) => {
    throw error;
  },
});
const say = translator as unknown as (key: string, values?: Values) => string;

/** The words of `code` in a part of the catalogue, filled in. Throws for a code without words. */
export function translate(part: keyof Catalogue, code: string | null, values?: Values): string {
  return say(code === null ? part : `${part}.${code}`, values);
}

const AND = new Intl.ListFormat("en-GB");
const OR = new Intl.ListFormat("en-GB", { type: "disjunction" });

/** "a, b and c". */
export function listAnd(items: readonly string[]): string {
  return AND.format(items);
}

/** "a, b or c". */
export function listOr(items: readonly string[]): string {
  return OR.format(items);
}
