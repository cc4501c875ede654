import { z } from "zod";
import { answerRulesSchema } from "../answers/answerRules";
import { AWAY_WORD } from "../conversations/automatic";
import { feedMappingSchema } from "../intake/events";
import { FIELDS } from "../intake/fields";
import { planRulesSchema } from "../plans/planRules";
import { TONES } from "../replies/sentences/bank";
import { webAddress } from "../web/address";
import { cleanText } from "../words/clean";
import { lookSchema } from "../words/look";
import { privacyNotes } from "../words/privacy";
import { typedText } from "../words/typed";

/**
 * The parts of a client file that only an export writes: settings, tags, plans with their rules, feeds without their
 * secrets, views, and what names in lists stand for. Services, branches and the like are named, never numbered.
 */

const name = (most = 200) => z.string().max(most);
const count = z.int().min(0).max(10_000_000).nullable();

/** What holds for the whole client; what is left out stays as it is usual. */
export const settingsPart = z
  .object({
    language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]+)*$/, "A language tag such as en."),
    keepsHolidays: z.boolean(),
    closedDates: z.array(z.iso.date()).max(400),
    gapMinutes: z.int().min(0).max(100_000),
    restDays: z.int().min(0).max(3650),
    needsConsent: z.boolean(),
    textsAnHour: count,
    emailsAnHour: count,
    textsAMonth: count,
    emailsAMonth: count,
    partPrice: z.int().min(0).max(1_000_000),
    mediaPrice: z.int().min(0).max(1_000_000),
    currency: z.string().regex(/^[A-Z]{3}$/, "A currency such as GBP."),
    leavesOutWhenUsedUp: z.boolean(),
    answerWithinHours: z.int().min(1).max(10_000),
    urgentWithinHours: z.int().min(1).max(10_000).nullable(),
    awayWord: AWAY_WORD.nullable(),
    openAnswers: answerRulesSchema.nullable(),
    bookedCountsAsFinished: z.boolean(),
    look: lookSchema.nullable(),
    linkDays: z.int().min(14).max(1095),
    privacyNote: privacyNotes.nullable(),
    keepsMarks: z.boolean(),
    replyTone: z.enum(TONES),
  })
  .partial();

const TAG_EFFECTS = ["none", "do not ask", "ask first", "email only", "text only"] as const;

export const tagPart = z.object({ name: typedText(60, "Every tag needs a name."), effect: z.enum(TAG_EFFECTS) });

/** Identifiers that stand for any; names take their place in a file. */
const ANY_ID = "00000000-0000-4000-8000-000000000000";

const namesOf = z.array(name(60)).max(200);

/** A plan's rules with the names of services and branches in place of their identifiers. */
export const rulesPart = z
  .looseObject({
    begins: z.looseObject({ services: namesOf.optional(), branches: namesOf.optional() }),
    words: z.looseObject({ own: z.record(z.string().max(200), z.string().max(4000)) }).nullish(),
    picture: z.looseObject({ photo: z.string().nullable() }).nullish(),
  })
  .superRefine((rules, context) => {
    const checked = planRulesSchema.safeParse(namedRules(rules, () => ANY_ID));
    for (const issue of checked.error?.issues ?? [])
      context.addIssue({ code: "custom", path: issue.path, message: issue.message });
  });
export type NamedRules = z.output<typeof rulesPart>;

/**
 * The same rules with each name of a service or branch changed by `to`, or each identifier into a name. A photo behind
 * words stays where it was uploaded: elsewhere the background shows.
 */
export function namedRules(rules: NamedRules, to: (kind: "service" | "branch", from: string) => string): NamedRules {
  const { begins, words, picture } = rules;
  return {
    ...rules,
    ...(picture ? { picture: { ...picture, photo: null } } : {}),
    ...(words
      ? {
          words: {
            ...words,
            own: Object.fromEntries(Object.entries(words.own).map(([key, said]) => [pieceOf(key, to), said])),
          },
        }
      : {}),
    begins: {
      ...begins,
      ...(begins.services ? { services: begins.services.map((each) => to("service", each)) } : {}),
      ...(begins.branches ? { branches: begins.branches.map((each) => to("branch", each)) } : {}),
    },
  };
}

/** The key of a text that is for one service alone ends with it: "en:page/happy@Check-up". */
function pieceOf(key: string, to: (kind: "service" | "branch", from: string) => string): string {
  const at = key.indexOf("@");
  return at < 0 ? key : `${key.slice(0, at)}@${to("service", key.slice(at + 1))}`;
}

export const planPart = z.object({
  name: typedText(80, "Every plan needs a name."),
  state: z.enum(["draft", "running", "paused", "archived"]).default("draft"),
  rules: rulesPart,
});

const path = z.string().max(1000);

export const feedPart = z
  .object({
    kind: z.enum(["webhook", "calendar", "drop-off", "end of day"]),
    name: typedText(80, "Every feed needs a name."),
    state: z.enum(["on", "off"]).default("on"),
    branch: name().nullable().default(null),
    service: name().nullable().default(null),
    mapping: feedMappingSchema.nullable().default(null),
    rules: z
      .array(
        z.object({
          where: z.enum(["title", "category", "place", "anything"]),
          word: name(),
          counts: z.boolean(),
          service: name().nullable(),
        }),
      )
      .max(200)
      .nullable()
      .default(null),
    url: path.nullable().default(null),
    pollMinutes: z.int().min(5).max(100_000).default(30),
  })
  .superRefine(({ kind, url }, context) => {
    // What is fetched needs an address; one that nobody can write in is found when it is fetched.
    if (kind === "calendar" && url !== null && webAddress(url) === null)
      context.addIssue({
        code: "custom",
        path: ["url"],
        message: "Enter the full address of the calendar, with https://.",
      });
  });

export const viewPart = z.object({ name: typedText(60, "Every view needs a name."), query: z.string().max(2000) });

export const knownNamePart = z.object({
  kind: z.enum(["service", "branch", "team", "tag"]),
  name: name(),
  /** What it stands for; null for nothing. */
  means: name().nullable(),
});

export const readingPart = z.object({
  shape: z.string().max(5000),
  choice: z.object({
    matching: z.array(z.enum(FIELDS).nullable()).max(300),
    order: z.enum(["day first", "month first"]).nullable(),
    birthOrder: z.enum(["day first", "month first"]).nullish(),
    undated: z.enum(["today", "no visit"]),
    sharedAddress: z.enum(["same person", "another person"]),
    kind: z.enum(["appointment", "job", "invoice", "order", "stay"]),
    service: name().nullable(),
    branch: name().nullable(),
    onlyBranch: z.boolean().optional(),
  }),
});

/** Text without what cannot be seen, or nothing. */
export const optionalText = (most: number) =>
  z.string().transform(cleanText).pipe(z.string().trim().max(most)).nullable().default(null);
