import { z } from "zod";
import type { PlanRules } from "../plans/planRules";
import { LANGUAGES } from "./languages";
import { carriesPicture } from "./namedPicture";
import { FIELDS, type Field } from "./pieces";
import { occasionOf } from "./planWords";

/** The customer's way: everything that a customer of a plan meets, in the order in which they meet it. */

export type Stop =
  | { key: string; kind: "message"; name: string; step: number; says: string }
  | { key: string; kind: "page"; name: string; says: string; moment: PageMoment }
  | { key: "answer"; kind: "letter"; name: string; says: string };

/** What has been said when a page is shown. */
export const PAGE_MOMENTS = [
  "question",
  "happy",
  "unhappy",
  "happy words",
  "unhappy words",
  "later",
  "would",
  "undecided",
  "would not",
  "member",
] as const;
export type PageMoment = (typeof PAGE_MOMENTS)[number];

/** Who the walk shows. */
export const WALKERS = ["made up", "real", "no family name", "long name"] as const;

export const walkChoice = z
  .object({
    stop: z.string().max(40).catch("message-0"),
    language: z.enum(LANGUAGES).nullable().catch(null),
    service: z.uuid().nullable().catch(null),
    by: z.enum(["text", "email"]).nullable().catch(null),
    who: z.enum(WALKERS).catch("made up"),
  })
  .catch({ stop: "message-0", language: null, service: null, by: null, who: "made up" });
export type WalkChoice = z.infer<typeof walkChoice>;

const DOORS_SAY = {
  open: "review sites and private form",
  "listen first": "private form first, sites below",
  "private only": "private form only",
} as const;

/** Every stop of a plan's way. */
export function walkOf(rules: PlanRules): Stop[] {
  const message = (index: number): Stop => ({
    key: `message-${index}`,
    kind: "message",
    step: index,
    name: rules.steps[index].name,
    says:
      rules.steps[index].channel === "email"
        ? "email"
        : rules.steps[index].channel === "both"
          ? "text and email"
          : "text",
  });
  const page = (moment: PageMoment, name: string, says: string): Stop => ({
    key: moment.replace(" ", "-"),
    kind: "page",
    name,
    says,
    moment,
  });
  const waits = rules.style === "how it went first";
  const firsts = rules.steps.flatMap(({ part }, index) => (part === "first" ? [index] : []));
  const reviews = rules.steps.flatMap(({ part }, index) => (part === "review" ? [index] : []));
  return [
    message(firsts[0] ?? 0),
    page("question", "The question", "their page"),
    page("unhappy", "An unhappy answer", DOORS_SAY[rules.doors.mode]),
    page("unhappy words", "An unhappy comment", "what we tell them"),
    { key: "answer", kind: "letter", name: "Your personal answer", says: "written by your team" },
    ...(waits
      ? [page("later", "A happy answer", "we ask for a review later")]
      : [page("happy", "A happy answer", "sites, in order"), page("happy words", "A happy comment", "thanks")]),
    ...firsts.slice(1).map(message),
    ...reviews.slice(0, 1).map(message),
    ...(waits && reviews.length > 0
      ? [page("happy", "After the review message", "sites, in order"), page("happy words", "A happy comment", "thanks")]
      : []),
    ...(rules.more && rules.more.recommend !== "not"
      ? [
          page("would", "They’d recommend you", "thanks"),
          page("undecided", "They might recommend you", "thanks"),
          page("would not", "They wouldn’t recommend you", "thanks"),
        ]
      : []),
    ...reviews.slice(1).map(message),
  ];
}

/** Every stop of the way from a standing link, which has no messages; `hasTeam` where links about one of the team exist. */
export function linkWalkOf(rules: PlanRules, hasTeam: boolean): Stop[] {
  const pages = walkOf({ ...rules, style: "straight away" }).filter(({ kind }) => kind === "page");
  const [question, ...rest] = pages;
  const member: Stop = {
    key: "member",
    kind: "page",
    name: "About a team member",
    says: "their page",
    moment: "member",
  };
  return [question, ...(hasTeam ? [member] : []), ...rest];
}

/** One text that is changed at a stop: what it is called there, and its place. */
export type StopPiece = { place: string; label: string; field: Field | "page" | "picture" };

const FIELD_LABELS: Record<Field, string> = { text: "Text", subject: "Subject", email: "Email" };

/** The texts of a stop, in the order in which they stand there. */
export function piecesOf(rules: PlanRules, stop: Stop): StopPiece[] {
  if (stop.kind === "message") {
    const { key } = rules.steps[stop.step];
    const words = FIELDS.map(
      (field): StopPiece => ({ place: `step.${key}/${field}`, label: FIELD_LABELS[field], field }),
    );
    const isPictured = carriesPicture(rules.picture, key, "text") || carriesPicture(rules.picture, key, "email");
    return isPictured ? [...words, { place: "page/picture", label: "In the picture", field: "picture" }] : words;
  }
  // Somebody writes it each time.
  if (stop.kind === "letter") return [];
  const page = (place: string, label: string): StopPiece => ({ place: `page/${place}`, label, field: "page" });
  switch (stop.moment) {
    case "question":
      return [
        page(`${rules.question === "two" ? "two" : "question"}.${occasionOf(rules)}`, "The question"),
        page("below", "Below it"),
      ];
    case "happy":
      return [
        page("happy", "The heading"),
        page("happy.invite", "Before the sites"),
        page("happy.prompt", "Above the private comment"),
        page("thanks.site", "After they’ve been to a site"),
      ];
    case "unhappy":
      return [page("unhappy", "The heading"), page("unhappy.prompt", "Above the private comment")];
    case "happy words":
      return [page("thanks.happy", "The thank-you")];
    case "unhappy words":
      return [page("thanks.unhappy", "The thank-you")];
    case "later":
      return [page("thanks.later", "The thank-you")];
    case "member":
      return [page(`${rules.question === "two" ? "two" : "question"}.member`, "The question")];
    case "would":
      return [page("thanks.would", "The thanks")];
    case "undecided":
      return [page("thanks.undecided", "The thanks")];
    case "would not":
      return [page("thanks.wouldnot", "The thanks")];
  }
}

/** What a place of a plan's words is called: "the question: below it"; the place itself where the plan has none such. */
export function sayPlace(rules: PlanRules, place: string): string {
  for (const stop of walkOf(rules)) {
    const piece = piecesOf(rules, stop).find((each) => each.place === place);
    if (piece) return `${stop.name}: ${piece.label}`;
  }
  return place;
}
