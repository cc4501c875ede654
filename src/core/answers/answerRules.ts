import { z } from "zod";
import { PLAIN_RULES, type PlanRules, planRulesSchema } from "../plans/planRules";
import { starterRules } from "../plans/starters";

/** Where an answer comes from: the link of an ask, or one that belongs to nobody in particular. */
export const ANSWER_ORIGINS = ["ask", "standing link", "website", "unknown number"] as const;
export type AnswerOrigin = (typeof ANSWER_ORIGINS)[number];

/** How a client takes answers that no ask began: the question, what an answer opens, the sites, and the thanks. */
export const answerRulesSchema = z
  .object({
    question: planRulesSchema.shape.question,
    more: planRulesSchema.shape.more,
    words: planRulesSchema.shape.words,
    doors: planRulesSchema.shape.doors,
    sites: planRulesSchema.shape.sites,
    thanks: z.string().trim().min(1, "Enter a thank-you.").max(600, "Keep the thank-you under 600 characters."),
  })
  .refine(({ doors }) => doors.mode !== "private only" || !!doors.acknowledgedBy, {
    path: ["doors", "acknowledgedBy"],
    message: "“Private only” needs the name of the person responsible for it.",
  });
export type AnswerRules = z.infer<typeof answerRulesSchema>;

/** What holds for a client that has set nothing of its own. */
export const PLAIN_ANSWER_RULES: AnswerRules = {
  question: PLAIN_RULES.question,
  doors: PLAIN_RULES.doors,
  sites: PLAIN_RULES.sites,
  thanks: "Thank you for telling us.",
};

/** The same rules as those of a plan, whose messages are nobody's, for whatever works on plans: words, their levels, stops. */
export function asPlanRules({ question, more, words, doors, sites }: AnswerRules): PlanRules {
  return { ...PLAIN_RULES, question, more, words, doors, sites, steps: starterRules().steps };
}
