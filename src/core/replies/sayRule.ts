import { capital, sayCount } from "../time/say";
import { LANGUAGE_NAMES } from "../words/languages";
import type { ReplyRule } from "./rules";

/** A rule for replying in words, part by part: what stands in its sentence. */

const or = new Intl.ListFormat("en-GB", { type: "disjunction" });

export type Names = {
  branches: readonly { id: string; name: string }[];
  saved: readonly { id: string; purpose: string }[];
};

export const saySites = ({ sites }: ReplyRule) => (sites.length === 0 ? "any site" : or.format(sites));

/** "4 or 5, or recommends"; in words where everything is meant. */
export function sayRatings({ ratings, recommends }: ReplyRule): string {
  if (ratings.length === 5 && recommends.length === 2) return "any rating";
  const figures =
    ratings.length === 5
      ? "any rating"
      : ratings.length === 0
        ? ""
        : `a rating of ${or.format([...ratings].sort().map(String))}`;
  const yes =
    recommends.length === 2
      ? "recommended or not recommended"
      : recommends[0] === true
        ? "a recommendation"
        : recommends[0] === false
          ? "a “not recommended”"
          : "";
  return [figures, yes].filter(Boolean).join(", or ") || "nothing";
}

export const sayWords = ({ words }: ReplyRule) =>
  words === "with" ? "with a comment" : words === "without" ? "without a comment" : "with or without a comment";

export function sayBranches({ branchIds }: ReplyRule, { branches }: Names): string {
  if (branchIds.length === 0) return "every branch";
  return (
    or.format(branches.filter(({ id }) => branchIds.includes(id)).map(({ name }) => name)) ||
    "a branch that’s been removed"
  );
}

export const sayLanguages = ({ languages }: ReplyRule) =>
  languages.length === 0 ? "any language" : or.format(languages.map((one) => LANGUAGE_NAMES[one]));

export function sayDeed({ deed }: ReplyRule): string {
  return {
    nothing: "leave it to your team",
    suggest: "suggest a draft",
    approve: "write a reply for approval",
    post: "write and post a reply",
  }[deed];
}

export function sayTexts({ savedReplyIds }: ReplyRule, { saved }: Names): string {
  if (savedReplyIds.length === 0) return "based on the review itself";
  const purposes = [...new Set(saved.filter(({ id }) => savedReplyIds.includes(id)).map(({ purpose }) => purpose))];
  return purposes.length === 0
    ? "from saved replies that have been deleted"
    : `from the saved replies “${purposes.join("”, “")}” in turn`;
}

export function sayWhen({ afterHours, hours }: ReplyRule): string {
  const after = afterHours === 0 ? "straight away" : `${sayCount(afterHours, "hour")} later`;
  return hours === "office" ? `${after}, in the branch’s office hours` : `${after}, at any hour`;
}

export const sayMost = ({ mostPerDay }: ReplyRule) => `at most ${mostPerDay} a day`;

/** The whole rule as one sentence, for the trail and for what was decided by it. */
export function sayRule(rule: ReplyRule, names: Names): string {
  const what =
    rule.deed === "nothing" || rule.deed === "suggest" ? sayDeed(rule) : `${sayDeed(rule)}, ${sayTexts(rule, names)}`;
  const when = rule.deed === "post" ? `, ${sayWhen(rule)}, ${sayMost(rule)}` : "";
  return capital(
    `when ${saySites(rule)} gets ${sayRatings(rule)}, ${sayWords(rule)}, at ${sayBranches(rule, names)}, in ${sayLanguages(rule)}: ${what}${when}.`,
  );
}
