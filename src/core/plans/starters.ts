import { PLAIN_RULES, type PlanRules, type PlanStep } from "./planRules";

/** Plans that work untouched. `about` in their wording is how the business speaks of what the visit was for. */

type Words = Pick<PlanStep, "text" | "subject" | "email">;

const step = (
  key: string,
  name: string,
  channel: PlanStep["channel"],
  delay: PlanStep["delay"],
  words: Words,
  change: Partial<PlanStep> = {},
): PlanStep => ({
  key,
  name,
  part: "first",
  channel,
  delay,
  from: "business",
  onlyIf: "always",
  ...words,
  others: [],
  ...change,
});

const SECOND: Words = {
  text: "Hi {first name|there}, {business} would still love to hear how it went: {link} Reply STOP to opt out.",
  subject: "A word about your visit, {first name|if you like}?",
  email:
    "Hi {first name|there},\n\na few days ago you were with us in {branch}. If you have a moment, tell us how {about|your} {service|visit} went, good or bad:\n\n{link}\n\nWe will not write about this visit again.\n\n{business}",
};

/** After an appointment: a text two hours after it, an email two days later if nobody answered. */
export function starterRules(excludeTags: string[] = ["do-not-ask"]): PlanRules {
  return {
    ...PLAIN_RULES,
    excludeTags,
    steps: [
      step(
        "first",
        "First ask",
        "text",
        { amount: 2, unit: "hours" },
        {
          text: "Hi {first name|there}, how was {about|your} {service|visit} at {business} today? Tell us in one tap: {link} Reply STOP to opt out.",
          subject: "How did it go at {business}?",
          email:
            "Hi {first name|there},\n\nthank you for coming to {business} in {branch}. How did {about|your} {service|visit} go?\n\n{link}\n\nIt takes one tap, and we read every answer.\n\n{team member|All of us} at {business}",
        },
      ),
      step("second", "Second ask", "email", { amount: 2, unit: "days", at: 600 }, SECOND),
    ],
  };
}

function afterJob(excludeTags: string[]): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "visit", services: [], branches: [], kinds: ["job"] },
    excludeTags,
    steps: [
      step(
        "first",
        "The evening after",
        "text",
        { amount: 1, unit: "days", at: 17 * 60 },
        {
          text: "Hi {first name|there}, {team member|we} from {business} came by yesterday. Is {about|everything} as you wanted it? {link} Reply STOP to opt out.",
          subject: "Is everything as you wanted it?",
          email:
            "Hi {first name|there},\n\nyesterday {team member|one of us} was with you for {about|your} {service|job}. Is everything as you wanted it?\n\n{link}\n\nOne tap is enough. If something is not right, we would like to know first.\n\n{business}",
        },
      ),
      step("second", "Second ask", "email", { amount: 3, unit: "days", at: 600 }, SECOND, { onlyIf: "not opened" }),
    ],
  };
}

function afterInvoice(excludeTags: string[]): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "invoice", services: [], branches: [] },
    excludeTags,
    steps: [
      step(
        "first",
        "With thanks",
        "email",
        { amount: 1, unit: "days", at: 10 * 60 },
        {
          text: "Hi {first name|there}, thank you from {business}. How was {about|your} {service|visit}? {link} Reply STOP to opt out.",
          subject: "Thank you from {business}",
          email:
            "Hi {first name|there},\n\nthank you, your payment has reached us. May we ask how you found {about|your} {service|visit}?\n\n{link}\n\n{team member|All of us} at {business}",
        },
      ),
      step("second", "Second ask", "text", { amount: 3, unit: "days", at: 17 * 60 }, SECOND),
    ],
  };
}

function reawaken(excludeTags: string[]): PlanRules {
  return {
    ...PLAIN_RULES,
    begins: { kind: "list", services: [], branches: [] },
    repeat: { kind: "once" },
    freshDays: 3650,
    excludeTags,
    portions: { perDay: 40, mostBounced: 5, mostOptedOut: 3 },
    steps: [
      step(
        "first",
        "After a long while",
        "email",
        { amount: 0, unit: "minutes" },
        {
          text: "Hi {first name|there}, some time ago you were with {business}. Would you tell others how it was? {link} Reply STOP to opt out.",
          subject: "Do you remember {business}?",
          email:
            "Hi {first name|there},\n\nit has been a while since {about|your} {service|visit} with {business}. A few words from people who know us help others more than anything we could say:\n\n{link}\n\nWe ask this once only. If you need us again, just answer this mail.\n\n{business}",
        },
      ),
    ],
  };
}

function feelingFirst(excludeTags: string[]): PlanRules {
  return {
    ...PLAIN_RULES,
    style: "how it went first",
    question: "two",
    excludeTags,
    steps: [
      step(
        "feeling",
        "How did it go?",
        "text",
        { amount: 2, unit: "hours" },
        {
          text: "Hi {first name|there}, did {about|your} {service|visit} at {business} go well? Yes: {good link} Not really: {bad link} Reply STOP to opt out.",
          subject: "Did it go well at {business}?",
          email:
            "Hi {first name|there},\n\ndid {about|your} {service|visit} go well?\n\n{good link}\n\n{bad link}\n\nOne tap tells us.\n\n{team member|All of us} at {business}",
        },
      ),
      step("feeling-2", "Once more", "email", { amount: 2, unit: "days", at: 600 }, SECOND),
      step(
        "review",
        "May others hear it?",
        "email",
        { amount: 2, unit: "days", at: 600 },
        {
          text: "Hi {first name|there}, we are glad it went well. Would you tell others in two sentences? {link} Reply STOP to opt out.",
          subject: "Would you tell others?",
          email:
            "Hi {first name|there},\n\nyou told us that {about|your} {service|visit} went well. Thank you. Would you tell others too? Two sentences help people choose:\n\n{link}\n\n{business}",
        },
        { part: "review" },
      ),
      step(
        "review-2",
        "A last word",
        "text",
        { amount: 4, unit: "days", at: 17 * 60 },
        {
          text: "Hi {first name|there}, if you have a minute: two sentences about {business} would help others choose. {link} Reply STOP to opt out.",
          subject: "Two sentences about {business}?",
          email:
            "Hi {first name|there},\n\nif you have a minute this week, two sentences about {business} would help others choose:\n\n{link}\n\nWe will not write about this again.\n\n{business}",
        },
        { part: "review" },
      ),
    ],
  };
}

export type Starter = { key: string; name: string; says: string; rules: (excludeTags: string[]) => PlanRules };

/** The plans to start from, in the order in which they are offered. */
export const STARTERS: readonly Starter[] = [
  {
    key: "appointment",
    name: "After an appointment",
    says: "A text two hours after it ends, an email two days later if nobody answered.",
    rules: (tags) => starterRules(tags),
  },
  {
    key: "job",
    name: "After a job",
    says: "A text the evening after, an email three days later if the first was not opened.",
    rules: afterJob,
  },
  {
    key: "invoice",
    name: "After a paid invoice",
    says: "An email the morning after the payment, a text three days later.",
    rules: afterInvoice,
  },
  {
    key: "reawaken",
    name: "Reawaken past customers",
    says: "People of an old list, forty a day, the newest visits first. Stops by itself when too many come back or opt out.",
    rules: reawaken,
  },
  {
    key: "feeling",
    name: "How it went first",
    says: "Asks whether it went well, hands the unhappy over at once, and asks only the happy for a review two days later.",
    rules: feelingFirst,
  },
];
