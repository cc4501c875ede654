import type { VisitKind } from "../intake/visitKinds";
import { sayCount, sayFigure } from "../time/say";
import type { Begins, Condition, MoreQuestions, PlanRules, Question, StepChannel } from "./planRules";

/** Settings of a plan as the words of its sentences. */

export const KIND_WORDS: Record<VisitKind, string> = {
  appointment: "appointment",
  job: "job",
  invoice: "paid invoice",
  order: "order",
  stay: "stay",
};

/** How each kind of visit comes to its end, before and after what it was for. */
const KIND_ENDS: Record<VisitKind, readonly [string, string]> = {
  appointment: ["an appointment", "ends"],
  job: ["a job", "is finished"],
  invoice: ["an invoice", "is paid"],
  order: ["an order", "has arrived"],
  stay: ["a stay", "ends"],
};
const VISIT_ENDS = ["a visit", "ends"] as const;

export const MIX_WORDS: Record<PlanRules["sites"]["mix"], string> = {
  order: "always in this order",
  shares: "the first one by share of asks",
  mailbox: "the first one going by the person’s email address",
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
      const kinds = begins.kinds.length > 0 ? begins.kinds.map((kind) => KIND_ENDS[kind]) : [VISIT_ENDS];
      return `${either(kinds.map(([it, ends]) => `${it}${of} ${ends}`))}${at}`;
    }
    case "invoice":
      return `an invoice${of} is paid${at}`;
    case "tag":
      return `someone gets the tag ${begins.tag}`;
    case "customer":
      return `someone has been a customer for ${sayFigure(begins.days, "day")}`;
    case "list":
      return `a list comes in${of}${at}`;
    case "put right":
      return "a concern is closed as put right";
    case "by hand":
      return "someone asks by hand";
  }
}

export function sayRepeat(repeat: PlanRules["repeat"]): string {
  return repeat.kind === "once"
    ? "once only"
    : repeat.kind === "rest"
      ? repeat.days === 1
        ? "at most once a day"
        : `at most once every ${repeat.days} days`
      : "after every visit";
}

export function sayStepChannel(channel: StepChannel): string {
  return {
    text: "by text",
    email: "by email",
    both: "by text and email",
    preferred: "the way the person prefers",
  }[channel];
}

/** What the answer page asks: "a rating from 1 to 5, then three sides of the visit". */
export function sayQuestion(question: Question, more: MoreQuestions): string {
  const rating = {
    five: "a rating from 1 to 5",
    two: "a choice of two answers",
    faces: "a choice of five faces",
  }[question];
  const then = [
    more.aspects.length > 0
      ? `${sayCount(more.aspects.length, "aspect")} of the visit (${more.aspects.join(", ")})`
      : "",
    {
      not: "",
      ten: "how likely they are to recommend you, from 0 to 10",
      three: "whether they’d recommend you (yes, maybe or no)",
    }[more.recommend],
    more.questions.length > 0 ? sayCount(more.questions.length, "open question") : "",
    more.photo ? "a photo" : "",
    more.mayShow ? "whether you can show their comments" : "",
  ].filter(Boolean);
  return then.length === 0
    ? rating
    : `${rating}, then ${[then.slice(0, -1).join(", "), then.at(-1)].filter(Boolean).join(" and ")}`;
}

/** Which messages carry a picture with the customer's name: "First ask as an email, and Second ask as a text". */
export function sayPicture({ picture, steps }: Pick<PlanRules, "picture" | "steps">): string {
  const carrying = steps.flatMap(({ key, name }) => {
    const [email, text] = [picture?.emails.includes(key), picture?.texts.includes(key)];
    if (!email && !text) return [];
    return [`“${name}” ${email && text ? "(email and text)" : email ? "as an email" : "as a text"}`];
  });
  if (carrying.length === 0) return "no message";
  return [carrying.slice(0, -1).join(", "), carrying.at(-1)].filter(Boolean).join(" and ");
}

/** What the picture shows, for telling versions apart. */
export function sayPictureDesign({ picture }: Pick<PlanRules, "picture">): string {
  if (!picture) return "none";
  const { background, photo, x, y, size, angle, colour } = picture;
  const of = (value: number) => String(Math.round(value * 10) / 10);
  return `${photo ? `a photo of your own (${photo.slice(0, 8)})` : background}, words at ${of(x)} and ${of(y)} percent, ${of(size)} high, turned by ${of(angle)}, ${colour}`;
}

export function sayCondition(condition: Condition): string {
  return {
    always: "everyone who hasn’t answered",
    "not opened": "only people who haven’t opened the one before",
    "rated 4 or more": "only people who rated 4 or more",
    "would recommend": "only people who’d recommend you",
  }[condition];
}
