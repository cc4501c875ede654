import { greetingName } from "../contacts/name";
import type { PlanStep } from "../plans/planRules";
import type { Channel } from "../time/sendHours";
import { plainName } from "../web/address";
import { type AnyLanguage, belongingTo, withoutMarks } from "./languages";
import { fillIn, type PlaceholderValues } from "./placeholders";
import { plainForText, textParts } from "./textParts";

/** Wording filled in: the one function for sending, showing, checking and rehearsing. */

/** Everything wording can speak of. */
export type WordingFacts = {
  person: { given: string; family: string };
  business: string;
  branch: string;
  service: string;
  about: string | null;
  teamMember: string | null;
  /** Of the words that are filled in; English where none is given. */
  language?: AnyLanguage;
  /** Texts in Polish keep their marks; without, they take a third of the parts. */
  keepsMarks?: boolean;
};

export type Composed = { subject: string | null; body: string; parts: number | null };

/** What placeholders are filled with. Without a link for words that have none. */
export function valuesOf(facts: WordingFacts, link: string | null): PlaceholderValues {
  const { language = "en" } = facts;
  const about = plainName(facts.about);
  return {
    "first name": plainName(greetingName(facts.person.given, facts.person.family)),
    "last name": plainName(facts.person.family),
    business: facts.business,
    branch: facts.branch,
    service: inSentence(plainName(facts.service), language) ?? (language === "en" ? "visit" : null),
    about: about && facts.about ? belongingTo(facts.about, language) : null,
    "team member": plainName(facts.teamMember),
    ...(link === null ? {} : { link, "good link": `${link}?r=5`, "bad link": `${link}?r=1` }),
  };
}

/** A service's name within a sentence: "check-up" of "Check-up". German keeps its capital, and so does "MOT test". */
function inSentence(name: string | null, language: AnyLanguage): string | null {
  if (!name || language === "de" || !/^\p{Lu}\p{Ll}/u.test(name)) return name;
  return name.charAt(0).toLocaleLowerCase(language) + name.slice(1);
}

/** The words of one step, filled in for one person. `link` is the address of its answer page. */
export function composeAsk(
  step: Pick<PlanStep, "text" | "subject" | "email">,
  channel: Channel,
  facts: WordingFacts,
  link: string,
): Composed {
  const values = valuesOf(facts, link);
  if (channel === "text") {
    const filled = plainForText(fillIn(step.text, values, facts.language).text);
    // After filling in: a name brings marks back.
    const body = facts.language === "pl" && !facts.keepsMarks ? withoutMarks(filled) : filled;
    return { subject: null, body, parts: textParts(body).parts };
  }
  return {
    subject: fillIn(step.subject, values, facts.language).text.replace(/[ \t\r\n]+/g, " "),
    body: fillIn(step.email, values, facts.language).text,
    parts: null,
  };
}
