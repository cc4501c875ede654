import { greetingName } from "@/core/contacts/name";
import type { PlanStep } from "@/core/plans/planRules";
import type { Channel } from "@/core/time/sendHours";
import { plainName } from "@/core/web/address";
import { fillIn, type PlaceholderValues } from "@/core/words/placeholders";
import { plainForText, textParts } from "@/core/words/textParts";
import { environment } from "@/platform/environment";

/** Everything wording can speak of. */
export type WordingFacts = {
  person: { given: string; family: string };
  business: string;
  branch: string;
  service: string;
  about: string | null;
  teamMember: string | null;
};

export type Composed = { subject: string | null; body: string; parts: number | null };

/** The customer's link for one message of an ask. */
export function answerLink(token: string, step: number): string {
  return `${environment().APP_URL}/a/${token}.${step}`;
}

/** The address that ends all messages to this person, by page or by one click (RFC 8058). */
export function optOutLink(token: string): string {
  return `${environment().APP_URL}/u/${token}`;
}

/** The words of one step, filled in for one person. Pure but for the installation's address in the link. */
export function composeAsk(step: Pick<PlanStep, "text" | "subject" | "email">, channel: Channel, facts: WordingFacts, link: string): Composed {
  const values: PlaceholderValues = {
    "first name": plainName(greetingName(facts.person.given)),
    "last name": plainName(facts.person.family),
    business: facts.business,
    branch: facts.branch,
    service: plainName(facts.service)?.toLocaleLowerCase() ?? "visit",
    about: plainName(facts.about) ? possessive(facts.about ?? "") : null,
    "team member": plainName(facts.teamMember),
    link,
    "good link": `${link}?r=5`,
    "bad link": `${link}?r=1`,
  };
  if (channel === "text") {
    const body = plainForText(fillIn(step.text, values).text);
    return { subject: null, body, parts: textParts(body).parts };
  }
  return { subject: fillIn(step.subject, values).text.replace(/\s+/g, " "), body: fillIn(step.email, values).text, parts: null };
}

/** "Biscuit" to "Biscuit's", "Iris" to "Iris'", as English writes it. */
function possessive(name: string): string {
  return /s$/i.test(name) ? `${name}'` : `${name}'s`;
}
