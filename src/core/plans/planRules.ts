import { z } from "zod";
import { PLACEHOLDERS, placeholdersIn } from "../words/placeholders";

/** The settings of an ask plan, as kept and as edited. Validated wherever they enter. */

export const delaySchema = z.object({
  amount: z.number().int("Use a whole number.").min(0, "A delay cannot be negative.").max(2000, "That is too long a delay."),
  unit: z.enum(["minutes", "hours", "days", "weeks"]),
  at: z.number().int().min(0).max(1439).nullish(),
});

function wording(name: string, most: number) {
  return z
    .string()
    .trim()
    .min(1, `Write the ${name}.`)
    .max(most, `Keep the ${name} under ${most} characters.`)
    .superRefine((text, context) => {
      for (const { name: word } of placeholdersIn(text)) {
        if (!(PLACEHOLDERS as readonly string[]).includes(word)) {
          context.addIssue({ code: "custom", message: `{${word}} is no placeholder. Use one of: ${PLACEHOLDERS.join(", ")}.` });
        }
      }
    });
}

const withLink = (text: string) => placeholdersIn(text).some(({ name }) => name === "link");

export const stepSchema = z.object({
  name: z.string().trim().min(1, "Name this message.").max(40, "Keep the name under 40 characters."),
  channel: z.enum(["text", "email"]),
  delay: delaySchema,
  text: wording("text", 600).refine(withLink, "The text needs {link}, or nobody can answer."),
  subject: wording("subject", 150),
  email: wording("email", 4000).refine(withLink, "The email needs {link}, or nobody can answer."),
});

export const DOORS = ["open", "listen first", "private only"] as const;

export const planRulesSchema = z
  .object({
    steps: z.array(stepSchema).min(1, "A plan needs at least one message.").max(6, "A plan has six messages at most."),
    restDays: z.number().int("Use whole days.").min(0, "Rest cannot be negative.").max(3650, "That is too long a rest."),
    freshDays: z.number().int("Use whole days.").min(1, "At least one day.").max(60, "At most 60 days."),
    excludeTags: z.array(z.string().trim().min(1).max(60)).max(50),
    doors: z.object({
      mode: z.enum(DOORS),
      threshold: z.number().int().min(1, "The lowest rating is 1.").max(4, "5 of 5 can never count as unhappy."),
      acknowledgedBy: z.string().trim().max(80).nullish(),
    }),
  })
  .refine((rules) => rules.doors.mode !== "private only" || !!rules.doors.acknowledgedBy, {
    path: ["doors", "acknowledgedBy"],
    message: "Private only needs the name of the person who answers for it.",
  });

export type PlanRules = z.infer<typeof planRulesSchema>;
export type PlanStep = PlanRules["steps"][number];
export type DoorsMode = (typeof DOORS)[number];

const HOUR_RANGE = z
  .object({ open: z.number().int().min(0).max(1440), close: z.number().int().min(0).max(1440) })
  .refine(({ open, close }) => open < close, "Closing must come after opening.");

export const weekHoursSchema = z.array(z.array(HOUR_RANGE).max(3)).length(7);
export const sendHoursSchema = z.object({ text: weekHoursSchema, email: weekHoursSchema });
