import type { VisitKind } from "../intake/visitKinds";
import type { Begins, Condition, PlanRules, StepChannel } from "./planRules";

/** Settings of a plan as the words of its sentences. */

export const KIND_WORDS: Record<VisitKind, string> = {
  appointment: "appointment",
  job: "job",
  invoice: "paid invoice",
  order: "order",
  stay: "stay",
};

export const MIX_WORDS: Record<PlanRules["sites"]["mix"], string> = {
  order: "always in this order",
  shares: "the first one by share",
  mailbox: "the first one by the person’s mailbox",
};

const either = (names: string[]) =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} or ${names.at(-1)}`;

/** When a plan begins: "a visit ends", "a check-up or a dental care ends at Fenwick". */
export function sayBegins(begins: Begins, nameOf: (id: string) => string = (id) => id): string {
  const at = "branches" in begins && begins.branches.length > 0 ? ` at ${either(begins.branches.map(nameOf))}` : "";
  const of =
    "services" in begins && begins.services.length > 0
      ? ` for ${either(begins.services.map((id) => nameOf(id).toLowerCase()))}`
      : "";
  switch (begins.kind) {
    case "visit": {
      const kinds = begins.kinds.length > 0 ? either(begins.kinds.map((kind) => KIND_WORDS[kind])) : "visit";
      return `${/^[aeiou]/.test(kinds) ? "an" : "a"} ${kinds}${of} ends${at}`;
    }
    case "invoice":
      return `an invoice${of} is paid${at}`;
    case "tag":
      return `a person gets the tag ${begins.tag}`;
    case "customer":
      return `a person has been a customer for ${begins.days} days`;
    case "list":
      return `a list is dropped off${of}${at}`;
    case "by hand":
      return "somebody asks by hand";
  }
}

export function sayRepeat(repeat: PlanRules["repeat"]): string {
  return repeat.kind === "once"
    ? "once only"
    : repeat.kind === "rest"
      ? `at most every ${repeat.days} days`
      : "after every visit";
}

export function sayStepChannel(channel: StepChannel): string {
  return {
    text: "by text",
    email: "by email",
    both: "by text and email",
    preferred: "by whichever the person prefers",
  }[channel];
}

export function sayCondition(condition: Condition): string {
  return {
    always: "everyone who has not answered",
    "not opened": "only those who have not opened the one before",
    "rated 4 or more": "only those who rated 4 or more",
  }[condition];
}
