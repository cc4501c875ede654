import type { Group } from "../answers/recommendation";
import { type Following, following } from "../masters/follow";
import type { PlanRules, PlanStep, PlanWords } from "../plans/planRules";
import type { AnyLanguage, Language } from "./languages";
import {
  FIELDS,
  type Field,
  kindOf,
  LONGEST,
  type MessageName,
  type Occasion,
  type PagePlace,
  pieceKey,
  readKey,
} from "./pieces";
import { PLACEHOLDERS, placeholdersIn } from "./placeholders";
import { starterWords } from "./starters";

/**
 * The words of a plan come from three levels: the plan's own, else what it took from its agency when that was last put
 * in force, else the starter words. What the agency improves since is offered, and in force only when somebody says so.
 */

export const NO_WORDS: PlanWords = { own: {}, taken: {} };

type Worded = { words?: PlanWords | null };
export const wordsOf = ({ words }: Worded): PlanWords => words ?? NO_WORDS;

/** What the visits are that a plan asks about, and so how its pages put the question. */
export function occasionOf({ begins, steps }: Pick<PlanRules, "begins" | "steps">): Occasion {
  const from = steps.map(({ follows }) => follows ?? "").find((name) => /^first\.(job|order|stay|lessons)$/.test(name));
  if (from) return from.slice("first.".length) as Occasion;
  const kinds = begins.kind === "visit" ? begins.kinds : [];
  if (kinds.length === 1 && (kinds[0] === "job" || kinds[0] === "order" || kinds[0] === "stay")) return kinds[0];
  return "appointment";
}

/** Which starter message a step's words stand for. */
export function messageOf(rules: Pick<PlanRules, "begins" | "steps" | "style">, step: PlanStep): MessageName {
  if (step.follows) return step.follows;
  const inPart = rules.steps.filter(({ part }) => part === step.part);
  const isFirst = inPart[0]?.key === step.key;
  if (step.part === "review") return isFirst ? "review" : "review.second";
  if (!isFirst) return "second";
  if (rules.style === "how it went first") return "feeling";
  if (rules.begins.kind === "list") return "reawaken";
  return rules.begins.kind === "invoice" ? "first.invoice" : `first.${occasionOf(rules)}`;
}

/** The words of one field of a message, and from where: this plan (for the service, or at all), its agency, the start. */
export type Found = { words: string; from: "service" | "plan" | "agency" | "starter" };

function foundPiece(
  words: PlanWords,
  language: AnyLanguage,
  place: string,
  master: string,
  serviceId: string | null,
): Found | null {
  const real = language as Language;
  const forService = serviceId ? words.own[pieceKey(real, place, serviceId)] : undefined;
  if (forService) return { words: forService, from: "service" };
  const own = words.own[pieceKey(real, place)];
  if (own) return { words: own, from: "plan" };
  const taken = words.taken[pieceKey(real, master)];
  if (taken) return { words: taken, from: "agency" };
  const start = starterWords(language, master);
  return start === null ? null : { words: start, from: "starter" };
}

/** The three texts of a message. */
export type MessagePieces = Record<Field, Found>;

/**
 * The words of a step for somebody who reads `language` and was here for a service. `wording` is the one of the plan's
 * wordings on trial that they get; it counts in the plan's own language only, where no service has words of its own.
 */
export function messageWords(
  rules: PlanRules,
  step: PlanStep,
  wording: { text: string; subject: string; email: string },
  it: { language: AnyLanguage; own: AnyLanguage; serviceId: string | null },
): MessagePieces {
  const name = messageOf(rules, step);
  const field = (field: Field): Found => {
    const place = `step.${step.key}/${field}`;
    const found = foundPiece(wordsOf(rules), it.language, place, `${name}/${field}`, it.serviceId);
    if (it.language === it.own) return found?.from === "service" ? found : { words: wording[field], from: "plan" };
    return found ?? { words: wording[field], from: "plan" };
  };
  return { text: field("text"), subject: field("subject"), email: field("email") };
}

/**
 * Which variant of its words a message used: the language, with the service where it has words of its own; null for
 * the plan's own language and no service.
 */
export function variantOf(
  found: Found,
  it: { language: AnyLanguage; own: AnyLanguage; serviceId: string | null },
): string | null {
  const service = found.from === "service" ? `@${it.serviceId}` : "";
  return it.language === it.own && service === "" ? null : `${it.language}${service}`;
}

/** The words of a place of the plan's pages. */
export function pageWords(
  words: PlanWords,
  place: string,
  it: { language: AnyLanguage; serviceId: string | null },
): Found {
  const found = foundPiece(words, it.language, `page/${place}`, `page/${place}`, it.serviceId);
  if (!found) throw new Error(`No words for page/${place}.`);
  return found;
}

const GROUP_PLACES = {
  "would recommend": "thanks.would",
  undecided: "thanks.undecided",
  "would not": "thanks.wouldnot",
} as const satisfies Record<Group, PagePlace>;

/**
 * The thanks for words: by what they said of recommending the business, else by whether they are happy. An unhappy one
 * is never thanked for a recommendation, and starter words for a group never stand in place of a business's own thanks.
 */
export function thanksWords(
  words: PlanWords,
  said: { isUnhappy: boolean; group: Group | null },
  it: { language: AnyLanguage; serviceId: string | null },
): Found {
  const plain = pageWords(words, said.isUnhappy ? "thanks.unhappy" : "thanks.happy", it);
  if (said.group === null || (said.isUnhappy && said.group !== "would not")) return plain;
  const own = pageWords(words, GROUP_PLACES[said.group], it);
  return own.from === "starter" && plain.from !== "starter" ? plain : own;
}

/** How a piece stands to the agency's words: it follows them, perhaps with something new on offer, or was changed. */
export function standing(
  rules: PlanRules,
  place: string,
  language: Language,
  agency: Readonly<Record<string, string>>,
  own: Language,
): Following<string> {
  const words = wordsOf(rules);
  const master = masterPlace(rules, place);
  const start = starterWords(language, master) ?? "";
  const key = pieceKey(language, master);
  return following(ownPiece(rules, place, language, own), words.taken[key] ?? start, agency[key] ?? start);
}

/** What the plan itself says at a place; null where it says nothing of its own. */
export function ownPiece(rules: PlanRules, place: string, language: Language, own: Language): string | null {
  const step = stepOf(rules, place);
  if (step && language === own) return step.step[step.field];
  return wordsOf(rules).own[pieceKey(language, place)] ?? null;
}

/** The step and field of "step.first/text". */
export function stepOf(rules: Pick<PlanRules, "steps">, place: string): { step: PlanStep; field: Field } | null {
  const read = /^step\.([a-z0-9-]{1,20})\/(text|subject|email)$/.exec(place);
  const step = read && rules.steps.find(({ key }) => key === read[1]);
  return read && step ? { step, field: read[2] as Field } : null;
}

/** The place of the starter words that a place of a plan follows. */
export function masterPlace(rules: PlanRules, place: string): string {
  const step = stepOf(rules, place);
  return step ? `${messageOf(rules, step.step)}/${step.field}` : place;
}

/**
 * The rules with what the agency says now taken over: `only` these pieces ("es:first.job/text"), or all that are on
 * offer. What was changed here stays.
 */
export function takeWords(
  rules: PlanRules,
  agency: Readonly<Record<string, string>>,
  own: Language,
  only: readonly string[] | null = null,
): PlanRules {
  const before = wordsOf(rules);
  const taken = { ...before.taken };
  const isWanted = (key: string) => only === null || only.includes(key);
  const steps = rules.steps.map((step) => {
    const after = { ...step };
    for (const field of FIELDS) {
      const master = `${messageOf(rules, step)}/${field}`;
      const key = pieceKey(own, master);
      const state = standing(rules, `step.${step.key}/${field}`, own, agency, own);
      if (state.state === "follows" && state.offer !== null && isWanted(key)) after[field] = state.offer;
    }
    return after;
  });
  for (const key of new Set([...Object.keys(agency), ...Object.keys(before.taken)])) {
    if (!isWanted(key)) continue;
    if (agency[key] === undefined) delete taken[key];
    else taken[key] = agency[key];
  }
  return { ...rules, steps, words: { own: before.own, taken } };
}

/** The pieces on offer to a plan: those of its agency that it follows and that say something else by now. */
export function offeredWords(
  rules: PlanRules,
  agency: Readonly<Record<string, string>>,
  own: Language,
): { key: string; before: string; after: string }[] {
  const before = wordsOf(rules);
  const offered: { key: string; before: string; after: string }[] = [];
  for (const key of new Set([...Object.keys(agency), ...Object.keys(before.taken)])) {
    const name = readKey(key);
    if (!name) continue;
    const start = starterWords(name.language, name.place) ?? "";
    const [taken, master] = [before.taken[key] ?? start, agency[key] ?? start];
    if (taken === master) continue;
    const owns = ownsOf(rules, name.place, name.language, own);
    if (owns.length > 0 && owns.every((words) => words !== taken)) continue;
    offered.push({ key, before: taken, after: master });
  }
  return offered;
}

/** What the plan says itself at the places that follow a place of the agency's; empty where nothing does. */
function ownsOf(rules: PlanRules, master: string, language: Language, own: Language): string[] {
  if (master.startsWith("page/")) {
    const words = ownPiece(rules, master, language, own);
    return words === null ? [] : [words];
  }
  const [name, field] = master.split("/") as [string, Field];
  const steps = rules.steps.filter((step) => messageOf(rules, step) === name);
  // No message of this plan is of this kind: nothing to take.
  if (steps.length === 0) return [NOBODY];
  return steps.flatMap((step) => ownPiece(rules, `step.${step.key}/${field}`, language, own) ?? []);
}
const NOBODY = "\u0000";

/** What is wrong with the words of a place, or null. */
export function wrongPiece(place: string, words: string): string | null {
  const kind = kindOf(place);
  if (!words.trim()) return "Enter something, or undo your change.";
  if (words.length > LONGEST[kind]) return `Keep it under ${LONGEST[kind]} characters.`;
  const unknown = placeholdersIn(words).find(({ name }) => !(PLACEHOLDERS as readonly string[]).includes(name));
  if (unknown) return `{${unknown.name}} isn’t a placeholder. Use one of: ${PLACEHOLDERS.join(", ")}.`;
  const isLinked = placeholdersIn(words).some(({ name }) => /^(?:(?:good|bad) )?link$/.test(name));
  if ((kind === "text" || kind === "email") && !isLinked)
    return kind === "text"
      ? "The text needs {link}, or people can’t answer."
      : "The email needs {link}, or people can’t answer.";
  if (kind !== "text" && kind !== "email" && isLinked) return "You can’t use a link here.";
  return null;
}
