import { z } from "zod";
import { VISIT_KINDS } from "../intake/visitKinds";
import { pictureDesign } from "../words/namedPicture";
import { MESSAGES } from "../words/pieces";
import { LINKS, PLACEHOLDERS, placeholdersIn } from "../words/placeholders";

/** The settings of an ask plan, as kept and as edited. Validated wherever they enter. */

export const delaySchema = z.object({
  amount: z
    .number()
    .int("Use a whole number.")
    .min(0, "A delay can’t be negative.")
    .max(2000, "That delay is too long."),
  unit: z.enum(["minutes", "hours", "days", "weeks"]),
  at: z.number().int().min(0).max(1439).nullish(),
});

function wording(name: string, most: number) {
  return z
    .string()
    .trim()
    .min(1, `Enter the ${name}.`)
    .max(most, `Keep the ${name} under ${most} characters.`)
    .superRefine((text, context) => {
      for (const { name: word } of placeholdersIn(text)) {
        if (!(PLACEHOLDERS as readonly string[]).includes(word)) {
          context.addIssue({
            code: "custom",
            message: `{${word}} isn’t a placeholder. Use one of: ${PLACEHOLDERS.join(", ")}.`,
          });
        }
      }
    });
}

const withLink = (text: string) => placeholdersIn(text).some(({ name }) => (LINKS as readonly string[]).includes(name));

const wordingFields = {
  text: wording("text", 600).refine(withLink, "The text needs {link}, or people can’t answer."),
  subject: wording("subject", 150),
  email: wording("email", 4000).refine(withLink, "The email needs {link}, or people can’t answer."),
};

const stepKey = z.string().regex(/^[a-z0-9-]{1,20}$/);

/** One wording of a message: as a text and as an email. */
export const wordingSchema = z.object({ key: stepKey, ...wordingFields });

export const STEP_CHANNELS = ["text", "email", "both", "preferred"] as const;
export type StepChannel = (typeof STEP_CHANNELS)[number];
export const CONDITIONS = ["always", "not opened", "rated 4 or more", "would recommend"] as const;
export type Condition = (typeof CONDITIONS)[number];
export const SENDERS = ["business", "team member"] as const;

export const stepSchema = z.object({
  /** Names the step through all versions of the plan. */
  key: stepKey,
  name: z.string().trim().min(1, "Give this message a name.").max(40, "Keep the name under 40 characters."),
  /** In a plan that asks how it went first: the question itself, or the review that only the happy are asked for. */
  part: z.enum(["first", "review"]),
  channel: z.enum(STEP_CHANNELS),
  delay: delaySchema,
  /** Whose name an email comes from. */
  from: z.enum(SENDERS),
  onlyIf: z.enum(CONDITIONS),
  ...wordingFields,
  /** The starter message that its words came from; what its kind and place say where it names none. */
  follows: z.enum(MESSAGES).nullish(),
  /** More wordings on trial beside the one above. */
  others: z.array(wordingSchema).max(3, "Up to four wordings."),
});

export const DOORS = ["open", "listen first", "private only"] as const;
export const MIXES = ["order", "shares", "mailbox"] as const;
export const STYLES = ["straight away", "how it went first"] as const;
export const QUESTIONS = ["five", "two", "faces"] as const;
export type Question = (typeof QUESTIONS)[number];
export const RECOMMENDS = ["not", "ten", "three"] as const;
export const DOORS_LOOK_AT = ["rating", "recommendation", "lowest aspect"] as const;

/** What the answer page asks after its rating, all of it optional to whoever answers. */
export const moreSchema = z.object({
  /** Sides of the visit, as the business names them, each from one to five. */
  aspects: z
    .array(z.string().trim().min(1, "Enter a name.").max(40, "Keep it under 40 characters."))
    .max(5, "Up to five."),
  recommend: z.enum(RECOMMENDS),
  /** Open questions beside the private words. */
  questions: z
    .array(z.string().trim().min(1, "Enter a question.").max(140, "Keep it under 140 characters."))
    .max(3, "Up to three."),
  /** Whether they are asked if their words may be shown on the business's own page. */
  mayShow: z.boolean(),
  /** Whether they may send a photo, for the business alone. */
  photo: z.boolean().optional(),
  /** What decides whether they count as unhappy. */
  doorsLookAt: z.enum(DOORS_LOOK_AT),
});
export type MoreQuestions = z.infer<typeof moreSchema>;
export const NOTHING_MORE: MoreQuestions = {
  aspects: [],
  recommend: "not",
  questions: [],
  mayShow: false,
  doorsLookAt: "rating",
};

/** A picture with the customer's name, and the messages that it stands on: as emails, and as texts. */
export const pictureSchema = pictureDesign.extend({
  emails: z.array(stepKey).max(6),
  texts: z.array(stepKey).max(6),
});
export type PlanPicture = z.infer<typeof pictureSchema>;

const ids = z.array(z.uuid()).max(200);
const pieces = z.record(z.string().max(120), z.string().max(4000));

/** Words beside those of the messages in the client's language. Read by `core/words/planWords`. */
export const planWordsSchema = z.object({
  /** Pieces that this plan says itself: "es:step.first/text", "en:page/happy@<service>". */
  own: pieces,
  /** Pieces of its agency as they were when the plan took them: "es:first.job/text". */
  taken: pieces,
});
export type PlanWords = z.infer<typeof planWordsSchema>;

export const beginsSchema = z.discriminatedUnion("kind", [
  /** A visit of these services, branches and kinds ends; an empty list means all. */
  z.object({
    kind: z.literal("visit"),
    services: ids,
    branches: ids,
    kinds: z.array(z.enum(VISIT_KINDS)).max(VISIT_KINDS.length),
  }),
  z.object({ kind: z.literal("invoice"), services: ids, branches: ids }),
  z.object({ kind: z.literal("tag"), tag: z.string().trim().min(1, "Choose the tag.").max(60) }),
  z.object({
    kind: z.literal("customer"),
    days: z.number().int("Use whole days.").min(1, "At least one day.").max(3650, "That’s too long."),
  }),
  z.object({ kind: z.literal("list"), services: ids, branches: ids }),
  /** A concern is closed as put right: asked once about each. */
  z.object({ kind: z.literal("put right") }),
  z.object({ kind: z.literal("by hand") }),
]);
export type Begins = z.infer<typeof beginsSchema>;

/** Plans that begin at other moments than visits and lists: on people who came to them, once for each moment. */
export const MOMENTS = ["tag", "customer", "put right"] as const;
export const beginsAtMoment = (kind: Begins["kind"]): kind is (typeof MOMENTS)[number] =>
  (MOMENTS as readonly string[]).includes(kind);

export const repeatSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("once") }),
  z.object({
    kind: z.literal("rest"),
    days: z.number().int("Use whole days.").min(1, "At least one day.").max(3650, "That rest is too long."),
  }),
  z.object({ kind: z.literal("every visit") }),
]);

const percent = z.number().min(0.1, "At least 0.1 percent.").max(100, "At most 100 percent.");

export const planRulesSchema = z
  .object({
    begins: beginsSchema,
    style: z.enum(STYLES),
    /** How the question on the answer page is put: one to five, or two buttons. */
    question: z.enum(QUESTIONS),
    /** What else its page asks. */
    more: moreSchema.nullish(),
    words: planWordsSchema.nullish(),
    picture: pictureSchema.nullish(),
    steps: z
      .array(stepSchema)
      .min(1, "A plan needs at least one message.")
      .max(6, "A plan can have up to six messages."),
    repeat: repeatSchema,
    freshDays: z.number().int("Use whole days.").min(1, "At least one day.").max(3650, "No more than 3,650 days."),
    excludeTags: z.array(z.string().trim().min(1).max(60)).max(50),
    /** Only people or visits with one of these; empty for everybody. */
    onlyTags: z.array(z.string().trim().min(1).max(60)).max(50),
    households: z.enum(["together", "one only", "each"]),
    /** Whose messages leave first where a ceiling or an allowance binds. */
    goesFirst: z.boolean(),
    /** People of a list are asked in portions, those of the newest visits first. */
    portions: z
      .object({
        perDay: z
          .number()
          .int("Use a whole number.")
          .min(1, "At least one a day.")
          .max(5000, "No more than 5,000 a day."),
        mostBounced: percent,
        mostOptedOut: percent,
      })
      .nullable(),
    doors: z.object({
      mode: z.enum(DOORS),
      threshold: z.number().int().min(1, "The lowest rating is 1.").max(4, "5 of 5 can’t count as unhappy."),
      acknowledgedBy: z.string().trim().max(80).nullish(),
    }),
    sites: z.object({
      /** Sites in the order in which they are offered; those of a branch that are not named follow. */
      order: z.array(z.string().trim().min(1).max(60)).max(20),
      most: z.number().int().min(1, "Offer at least one site.").max(6, "Up to six sites."),
      /** Sites that are never offered, whichever branch has a page there. */
      leftOut: z.array(z.string().trim().min(1).max(60)).max(20).optional(),
      mix: z.enum(MIXES),
      /** Wanted shares by site, in any unit; sites without one come first for nobody. */
      shares: z.record(
        z.string().max(60),
        z.number().min(0, "A share can’t be negative.").max(1000, "Use shares up to 1000."),
      ),
    }),
  })
  .refine((rules) => rules.doors.mode !== "private only" || !!rules.doors.acknowledgedBy, {
    path: ["doors", "acknowledgedBy"],
    message: "“Private only” needs the name of the person responsible for it.",
  })
  .refine((rules) => new Set(rules.steps.map(({ key }) => key)).size === rules.steps.length, {
    path: ["steps"],
    message: "Two messages have the same key.",
  })
  .refine((rules) => rules.style !== "how it went first" || rules.steps.some(({ part }) => part === "first"), {
    path: ["steps"],
    message: "A plan that first asks how it went needs a message that does so.",
  })
  .refine(
    (rules) =>
      rules.steps.every(
        ({ part }, index) => part !== "first" || rules.steps.slice(0, index).every((before) => before.part === "first"),
      ),
    {
      path: ["steps"],
      message: "Put messages that ask how it went before those that ask for a review.",
    },
  )
  .refine((rules) => rules.style !== "straight away" || rules.steps.every(({ part }) => part === "first"), {
    path: ["steps"],
    message: "A plan that asks straight away can’t have a separate review message.",
  })
  .refine((rules) => rules.sites.mix !== "shares" || Object.values(rules.sites.shares).some((share) => share > 0), {
    path: ["sites", "shares"],
    message: "Give at least one site a share.",
  });

export type PlanRules = z.infer<typeof planRulesSchema>;
export type PlanStep = PlanRules["steps"][number];
export type Wording = z.infer<typeof wordingSchema>;
export type DoorsMode = (typeof DOORS)[number];

/** Everything that a plan's rules need beside its messages, as a plan starts with it. */
export const PLAIN_RULES: Omit<PlanRules, "steps"> = {
  begins: { kind: "visit", services: [], branches: [], kinds: [] },
  style: "straight away",
  question: "five",
  repeat: { kind: "rest", days: 180 },
  freshDays: 7,
  excludeTags: [],
  onlyTags: [],
  households: "together",
  goesFirst: false,
  portions: null,
  doors: { mode: "listen first", threshold: 3, acknowledgedBy: null },
  sites: { order: [], most: 3, mix: "order", shares: {} },
};

const HOUR_RANGE = z
  .object({ open: z.number().int().min(0).max(1440), close: z.number().int().min(0).max(1440) })
  .refine(({ open, close }) => open < close, "The end time must be after the start time.");

export const weekHoursSchema = z.array(z.array(HOUR_RANGE).max(3)).length(7);
export const sendHoursSchema = z.object({ text: weekHoursSchema, email: weekHoursSchema });
