import type { Language } from "../words/languages";
import type { MessageName } from "../words/pieces";
import { starterMessage } from "../words/starters";
import { PLAIN_RULES, type PlanRules, type PlanStep } from "./planRules";

/** Plans that work untouched, in any language of customers. */

const step = (
  key: string,
  name: string,
  channel: PlanStep["channel"],
  delay: PlanStep["delay"],
  follows: MessageName,
  language: Language,
  change: Partial<PlanStep> = {},
): PlanStep => ({
  key,
  name,
  part: "first",
  channel,
  delay,
  from: "business",
  onlyIf: "always",
  follows,
  ...starterMessage(language, follows),
  others: [],
  ...change,
});

const after = (amount: number, unit: PlanStep["delay"]["unit"], at?: number): PlanStep["delay"] =>
  at === undefined ? { amount, unit } : { amount, unit, at };

/** After an appointment: a text two hours after it, an email two days later if nobody answered. */
export function starterRules(excludeTags: string[] = ["do-not-ask"], language: Language = "en"): PlanRules {
  return {
    ...PLAIN_RULES,
    excludeTags,
    steps: [
      step("first", "First ask", "text", after(2, "hours"), "first.appointment", language),
      step("second", "Second ask", "email", after(2, "days", 600), "second", language),
    ],
  };
}

function afterJob(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "visit", services: [], branches: [], kinds: ["job"] },
    excludeTags,
    steps: [
      step("first", "The evening after", "text", after(1, "days", 17 * 60), "first.job", language),
      step("second", "Second ask", "email", after(3, "days", 600), "second", language, { onlyIf: "not opened" }),
    ],
  };
}

function afterOrder(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "visit", services: [], branches: [], kinds: ["order"] },
    freshDays: 30,
    excludeTags,
    steps: [
      step("first", "Once it’s arrived", "email", after(6, "days", 600), "first.order", language),
      step("second", "Second ask", "text", after(4, "days", 17 * 60), "second", language),
    ],
  };
}

function afterStay(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "visit", services: [], branches: [], kinds: ["stay"] },
    excludeTags,
    steps: [
      step("first", "The day after they leave", "email", after(1, "days", 600), "first.stay", language),
      step("second", "Second ask", "text", after(3, "days", 17 * 60), "second", language),
    ],
  };
}

/** Among many lessons: asked now and then, not after each. */
function amongLessons(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    repeat: { kind: "rest", days: 90 },
    excludeTags,
    steps: [
      step("first", "Between lessons", "text", after(3, "hours"), "first.lessons", language),
      step("second", "Second ask", "email", after(3, "days", 600), "second", language),
    ],
  };
}

function afterInvoice(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "invoice", services: [], branches: [] },
    excludeTags,
    steps: [
      step("first", "Thank-you", "email", after(1, "days", 10 * 60), "first.invoice", language),
      step("second", "Second ask", "text", after(3, "days", 17 * 60), "second", language),
    ],
  };
}

function reawaken(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "list", services: [], branches: [] },
    repeat: { kind: "once" },
    freshDays: 3650,
    excludeTags,
    portions: { perDay: 40, mostBounced: 5, mostOptedOut: 3 },
    steps: [step("first", "To a past customer", "email", after(0, "minutes"), "reawaken", language)],
  };
}

/** Whoever was unhappy, and had it put right: one gentle ask, and no second. */
function oncePutRight(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "put right" },
    repeat: { kind: "every visit" },
    households: "each",
    freshDays: 30,
    excludeTags,
    steps: [step("first", "After it’s put right", "text", after(3, "days", 16 * 60), "put-right", language)],
  };
}

function feelingFirst(excludeTags: string[], language: Language): PlanRules {
  return {
    ...PLAIN_RULES,
    style: "how it went first",
    question: "two",
    excludeTags,
    steps: [
      step("feeling", "How did it go?", "text", after(2, "hours"), "feeling", language),
      step("feeling-2", "Second ask", "email", after(2, "days", 600), "second", language),
      step("review", "Review ask", "email", after(2, "days", 600), "review", language, { part: "review" }),
      step("review-2", "Last review ask", "text", after(4, "days", 17 * 60), "review.second", language, {
        part: "review",
      }),
    ],
  };
}

export type Starter = {
  key: string;
  name: string;
  says: string;
  rules: (excludeTags: string[], language?: Language) => PlanRules;
};

/** The plans to start from, in the order in which they are offered. */
export const STARTERS: readonly Starter[] = [
  {
    key: "appointment",
    name: "After an appointment",
    says: "A text two hours after it ends, an email two days later if nobody answered.",
    rules: starterRules,
  },
  {
    key: "job",
    name: "After a job",
    says: "A text the evening after, and an email three days later if nobody opened the first.",
    rules: (tags, language = "en") => afterJob(tags, language),
  },
  {
    key: "order",
    name: "After an order",
    says: "An email six days after it was sent, and a text four days after that.",
    rules: (tags, language = "en") => afterOrder(tags, language),
  },
  {
    key: "stay",
    name: "After a stay",
    says: "An email the day after they leave, a text three days later.",
    rules: (tags, language = "en") => afterStay(tags, language),
  },
  {
    key: "lessons",
    name: "Between lessons",
    says: "A text three hours after a lesson, an email three days later, then a three-month rest.",
    rules: (tags, language = "en") => amongLessons(tags, language),
  },
  {
    key: "invoice",
    name: "After a paid invoice",
    says: "An email the morning after the payment, a text three days later.",
    rules: (tags, language = "en") => afterInvoice(tags, language),
  },
  {
    key: "reawaken",
    name: "Win back past customers",
    says: "People on an old list, 40 a day, newest visits first. Pauses itself if too many bounce or opt out.",
    rules: (tags, language = "en") => reawaken(tags, language),
  },
  {
    key: "put-right",
    name: "After it’s put right",
    says: "One text three days after a concern is closed as put right, and never another.",
    rules: (tags, language = "en") => oncePutRight(tags, language),
  },
  {
    key: "feeling",
    name: "Ask how it went first",
    says: "Asks if it went well, passes unhappy customers to you straight away, and asks only happy ones for a review two days later.",
    rules: (tags, language = "en") => feelingFirst(tags, language),
  },
];
