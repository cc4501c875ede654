import { z } from "zod";
import { VISIT_KINDS } from "@/core/intake/visitKinds";
import {
  CONDITIONS,
  DOORS,
  MIXES,
  moreSchema,
  NOTHING_MORE,
  PLAIN_RULES,
  type PlanRules,
  type PlanStep,
  planRulesSchema,
  QUESTIONS,
  SENDERS,
  STEP_CHANNELS,
  STYLES,
} from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { wordingsOf } from "@/core/plans/trial";
import { parseClockTime } from "@/core/time/delay";
import { cleanText } from "@/core/words/clean";
import { PLAIN_PICTURE } from "@/core/words/namedPicture";
import { formText } from "@/ui/result";

/** What one form of the plan's page changes in its rules. */

export const PARTS = [
  "begins",
  "style",
  "step",
  "delay",
  "words",
  "add step",
  "remove step",
  "move step",
  "add wording",
  "drop wording",
  "keep wording",
  "repeat",
  "fresh",
  "tags",
  "households",
  "first",
  "portions",
  "doors",
  "question",
  "picture",
  "picture design",
  "sites",
] as const;
export type Part = (typeof PARTS)[number];

export type Changed = { rules: PlanRules } | { message: string; fields?: Record<string, string> };

const text = (form: FormData, name: string) => formText(form, name).trim();
const number = (form: FormData, name: string) => (text(form, name) === "" ? Number.NaN : Number(text(form, name)));
const all = (form: FormData, name: string) => form.getAll(name).map((value) => cleanText(String(value)).slice(0, 60));

/** The rules as `form` would have them, checked; else what is wrong, by field. */
export function changedRules(rules: PlanRules, part: Part, form: FormData): Changed {
  const wanted = wantedRules(rules, part, form);
  if ("message" in wanted) return wanted;
  const read = planRulesSchema.safeParse(wanted.rules);
  if (read.success) return { rules: withoutLostSteps(read.data) };
  const fields: Record<string, string> = {};
  for (const issue of read.error.issues) fields[String(issue.path.at(-1))] ??= issue.message;
  return { message: read.error.issues[0].message, fields };
}

/** A message that is taken out carries no picture any more. */
function withoutLostSteps(rules: PlanRules): PlanRules {
  if (!rules.picture) return rules;
  const isThere = (key: string) => rules.steps.some((step) => step.key === key);
  const { emails, texts } = rules.picture;
  return { ...rules, picture: { ...rules.picture, emails: emails.filter(isThere), texts: texts.filter(isThere) } };
}

type Wanted = { rules: unknown } | { message: string; fields?: Record<string, string> };

const choose = (field: string, message: string): Wanted => ({ message, fields: { [field]: message } });

function wantedRules(rules: PlanRules, part: Part, form: FormData): Wanted {
  switch (part) {
    case "begins":
      return begins(rules, form);
    case "style":
      return style(rules, form);
    case "repeat": {
      const kind = z.enum(["once", "rest", "every visit"]).safeParse(text(form, "kind"));
      if (!kind.success) return choose("kind", "Choose how often.");
      return {
        rules: {
          ...rules,
          repeat: kind.data === "rest" ? { kind: "rest", days: number(form, "days") } : { kind: kind.data },
        },
      };
    }
    case "fresh":
      return { rules: { ...rules, freshDays: number(form, "freshDays") } };
    case "tags":
      return { rules: { ...rules, excludeTags: all(form, "excludeTags"), onlyTags: all(form, "onlyTags") } };
    case "households":
      return { rules: { ...rules, households: text(form, "households") } };
    case "first":
      return { rules: { ...rules, goesFirst: text(form, "goesFirst") === "yes" } };
    case "portions": {
      if (text(form, "portions") !== "yes") return { rules: { ...rules, portions: null } };
      return {
        rules: {
          ...rules,
          portions: {
            perDay: number(form, "perDay"),
            mostBounced: number(form, "mostBounced"),
            mostOptedOut: number(form, "mostOptedOut"),
          },
        },
      };
    }
    case "doors":
      return doors(rules, form);
    case "question":
      return questions(rules, form);
    case "picture":
      return picture(rules, form);
    case "picture design":
      return pictureDesignOf(rules, form);
    case "sites":
      return sites(rules, form);
    case "add step":
      return addStep(rules, form);
    default:
      return stepChange(rules, part, form);
  }
}

function begins(rules: PlanRules, form: FormData): Wanted {
  const [services, branches] = [all(form, "services"), all(form, "branches")];
  const kind = text(form, "kind");
  const portions = kind === "list" ? rules.portions : null;
  if (kind === "visit")
    return {
      rules: {
        ...rules,
        portions,
        begins: {
          kind,
          services,
          branches,
          kinds: all(form, "kinds").filter((each) => (VISIT_KINDS as readonly string[]).includes(each)),
        },
      },
    };
  if (kind === "invoice" || kind === "list")
    return { rules: { ...rules, portions, begins: { kind, services, branches } } };
  if (kind === "tag") return { rules: { ...rules, portions, begins: { kind, tag: text(form, "tag") } } };
  if (kind === "customer") return { rules: { ...rules, portions, begins: { kind, days: number(form, "days") } } };
  if (kind === "put right") return { rules: { ...rules, portions, begins: { kind } } };
  if (kind === "by hand") return { rules: { ...rules, portions, begins: { kind } } };
  return choose("kind", "Choose when it starts.");
}

/** The two kinds of plan: the one that asks how it went first gains a second part, the other one loses it. */
function style(rules: PlanRules, form: FormData): Wanted {
  const wanted = z.enum(STYLES).safeParse(text(form, "style"));
  if (!wanted.success) return choose("style", "Choose how it asks.");
  const steps =
    wanted.data === "straight away"
      ? rules.steps.map(
          (step): PlanStep => ({
            ...step,
            part: "first",
            onlyIf: step.onlyIf === "rated 4 or more" || step.onlyIf === "would recommend" ? "always" : step.onlyIf,
          }),
        )
      : rules.steps.some(({ part }) => part === "review")
        ? rules.steps
        : [...rules.steps.slice(0, 5), { ...reviewStep(), key: freeKey(rules) }];
  return { rules: { ...rules, style: wanted.data, steps } };
}

function reviewStep(): PlanStep {
  const feeling = STARTERS.find(({ key }) => key === "feeling")
    ?.rules([])
    .steps.find(({ part }) => part === "review");
  return feeling ?? starterRules().steps[1];
}

function freeKey({ steps }: PlanRules): string {
  for (let n = steps.length + 1; ; n++) if (!steps.some(({ key }) => key === `step-${n}`)) return `step-${n}`;
}

function addStep(rules: PlanRules, form: FormData): Wanted {
  if (rules.steps.length >= 6) return { message: "A plan can have up to six messages." };
  const isReview = text(form, "in") === "review" && rules.style === "how it went first";
  const model = isReview ? reviewStep() : starterRules().steps[1];
  const step: PlanStep = {
    ...model,
    key: freeKey(rules),
    name: "Another ask",
    part: isReview ? "review" : "first",
    delay: { amount: 3, unit: "days", at: 600 },
  };
  const after = isReview ? rules.steps.length : rules.steps.filter(({ part }) => part === "first").length;
  return { rules: { ...rules, steps: [...rules.steps.slice(0, after), step, ...rules.steps.slice(after)] } };
}

function doors(rules: PlanRules, form: FormData): Wanted {
  const mode = z.enum(DOORS).safeParse(text(form, "mode"));
  if (!mode.success) return choose("mode", "Choose a door.");
  const acknowledgedBy = mode.data === "private only" ? text(form, "acknowledgedBy") || null : null;
  return { rules: { ...rules, doors: { mode: mode.data, threshold: number(form, "threshold"), acknowledgedBy } } };
}

/** Texts typed one a line. */
const lines = (form: FormData, name: string) =>
  text(form, name)
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean);

/** What the page asks. Nothing beyond the rating is kept as nothing, so that plans that never asked more stay equal. */
function questions(rules: PlanRules, form: FormData): Wanted {
  const question = z.enum(QUESTIONS).safeParse(text(form, "question"));
  if (!question.success) return choose("question", "Choose how the question is asked.");
  const more = {
    aspects: lines(form, "aspects"),
    recommend: text(form, "recommend"),
    questions: lines(form, "questions"),
    mayShow: text(form, "mayShow") === "yes",
    ...(text(form, "photo") === "yes" ? { photo: true } : {}),
    doorsLookAt: text(form, "doorsLookAt"),
  };
  const read = moreSchema.safeParse(more);
  if (!read.success) {
    const [issue] = read.error.issues;
    return choose(String(issue.path[0] ?? "question"), issue.message);
  }
  const repeated = more.aspects.find((aspect, at) => more.aspects.indexOf(aspect) !== at);
  if (repeated) return choose("aspects", `“${repeated}” is there twice.`);
  const isMore = JSON.stringify(read.data) !== JSON.stringify(NOTHING_MORE);
  return { rules: { ...rules, question: question.data, more: isMore || rules.more ? read.data : rules.more } };
}

/** Which messages carry the picture; what it shows stays. Nothing is kept of a picture that never stood anywhere. */
function picture(rules: PlanRules, form: FormData): Wanted {
  const known = (keys: string[]) => rules.steps.flatMap(({ key }) => (keys.includes(key) ? [key] : []));
  const [emails, texts] = [known(all(form, "emails")), known(all(form, "texts"))];
  if (!rules.picture && emails.length + texts.length === 0) return { rules };
  return { rules: { ...rules, picture: { ...(rules.picture ?? PLAIN_PICTURE), emails, texts } } };
}

/** What the picture shows. Without a photo of the business's own it is one of the backgrounds. */
function pictureDesignOf(rules: PlanRules, form: FormData): Wanted {
  const { emails = [], texts = [] } = rules.picture ?? {};
  const design = {
    background: text(form, "background"),
    photo: text(form, "photo") || null,
    x: number(form, "x"),
    y: number(form, "y"),
    size: number(form, "size"),
    angle: number(form, "angle"),
    colour: text(form, "colour"),
  };
  return { rules: { ...rules, picture: { ...design, emails, texts } } };
}

function sites(rules: PlanRules, form: FormData): Wanted {
  const mix = z.enum(MIXES).safeParse(text(form, "mix"));
  if (!mix.success) return choose("mix", "Choose which site comes first.");
  const order = all(form, "order");
  const shares: Record<string, number> = {};
  for (const site of order) {
    const share = text(form, `share ${site}`);
    if (share !== "" && Number(share) !== 0) shares[site] = Number(share);
  }
  const offered = text(form, "asksOffered") ? all(form, "offered") : order;
  const leftOut = order.filter((site) => !offered.includes(site));
  const kept = (rules.sites.leftOut ?? []).filter((site) => !order.includes(site));
  if (order.length > 0 && offered.length === 0) return choose("offered", "Offer at least one site.");
  return {
    rules: {
      ...rules,
      sites: {
        order,
        most: number(form, "most"),
        mix: mix.data,
        shares,
        ...(leftOut.length + kept.length > 0 ? { leftOut: [...kept, ...leftOut] } : {}),
      },
    },
  };
}

function stepChange(rules: PlanRules, part: Part, form: FormData): Wanted {
  const index = number(form, "step");
  const step = rules.steps[index];
  if (!step) return { message: "This message no longer exists." };
  const withStep = (change: Partial<PlanStep>): Wanted => ({
    rules: { ...rules, steps: rules.steps.map((one, at) => (at === index ? { ...one, ...change } : one)) },
  });
  const key = text(form, "wording") || "a";
  switch (part) {
    case "delay":
    case "step": {
      const delay = delayOf(form);
      if ("message" in delay) return delay;
      if (part === "delay") return withStep({ delay: delay.delay });
      const channel = z.enum(STEP_CHANNELS).safeParse(text(form, "channel"));
      const from = z.enum(SENDERS).safeParse(text(form, "from"));
      const onlyIf = z.enum(CONDITIONS).safeParse(text(form, "onlyIf"));
      if (!channel.success || !from.success || !onlyIf.success) return { message: "Choose from the lists." };
      return withStep({
        name: text(form, "name"),
        delay: delay.delay,
        channel: channel.data,
        from: from.data,
        onlyIf: onlyIf.data,
      });
    }
    case "words": {
      const words = {
        text: text(form, "text"),
        subject: text(form, "subject"),
        email: text(form, "email").replace(/\r\n/g, "\n"),
      };
      return key === "a"
        ? withStep(words)
        : withStep({ others: step.others.map((other) => (other.key === key ? { key, ...words } : other)) });
    }
    case "remove step":
      if (rules.steps.length === 1) return { message: "A plan needs at least one message." };
      return { rules: { ...rules, steps: rules.steps.filter((_, at) => at !== index) } };
    case "move step": {
      const to = number(form, "to");
      if (!Number.isInteger(to) || to < 0 || to >= rules.steps.length) return { message: "It can’t move any further." };
      if (rules.steps[to].part !== step.part)
        return { message: "Put messages that ask how it went before those that ask for a review." };
      const steps = rules.steps.filter((_, at) => at !== index);
      steps.splice(to, 0, step);
      return { rules: { ...rules, steps } };
    }
    case "add wording": {
      const free = ["b", "c", "d"].find((each) => !step.others.some((other) => other.key === each));
      if (!free) return { message: "Up to four wordings." };
      return withStep({
        others: [...step.others, { key: free, text: step.text, subject: step.subject, email: step.email }],
      });
    }
    case "drop wording":
      return withStep({ others: step.others.filter((other) => other.key !== key) });
    case "keep wording": {
      const kept = wordingsOf(step).find((one) => one.key === key);
      if (!kept) return { message: "This wording no longer exists." };
      return withStep({ text: kept.text, subject: kept.subject, email: kept.email, others: [] });
    }
    default:
      return { message: "That setting doesn’t exist." };
  }
}

function delayOf(form: FormData): { delay: PlanStep["delay"] } | { message: string; fields: Record<string, string> } {
  const unit = z.enum(["minutes", "hours", "days", "weeks"]).safeParse(text(form, "unit"));
  if (!unit.success) return { message: "Choose from the list.", fields: { unit: "Choose from the list." } };
  const isDays = unit.data === "days" || unit.data === "weeks";
  const at = text(form, "at");
  const minutes = at ? parseClockTime(at) : null;
  const wrong = "Enter a time like 10:00, or leave it blank.";
  if (isDays && at && (minutes === null || minutes > 1439)) return { message: wrong, fields: { at: wrong } };
  return { delay: { amount: number(form, "amount"), unit: unit.data, at: isDays ? minutes : null } };
}

/** A plan from nothing: one message, everything else as plans start with it. */
export function emptyRules(excludeTags: string[]): PlanRules {
  const [first] = starterRules().steps;
  return { ...PLAIN_RULES, excludeTags, steps: [{ ...first, key: "step-1", name: "First ask" }] };
}
