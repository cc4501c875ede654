import { sayCount, WEEKDAYS } from "../time/say";
import type { SendHours } from "../time/sendHours";
import { composeAsk } from "../words/compose";
import { placeholdersIn, withoutFallback } from "../words/placeholders";
import { textParts } from "../words/textParts";
import { NOTHING_MORE, type PlanRules, type PlanStep } from "./planRules";
import { wordingsOf } from "./trial";

/** Where on the plan's page a finding is put right. */
export type FindingPlace =
  | "begins"
  | "order"
  | "words"
  | "step"
  | "who"
  | "often"
  | "fresh"
  | "hours"
  | "doors"
  | "question"
  | "sites"
  | "branches"
  | "address";

/** "error": the plan cannot run like this. "warning": it can, and somebody should look. */
export type PlanFinding = {
  level: "error" | "warning";
  says: string;
  place: FindingPlace;
  step?: number;
  channel?: "text" | "email";
};

export type CheckFacts = {
  rules: PlanRules;
  business: string;
  postalAddress: string;
  sendHours: SendHours;
  branches: readonly { id: string; name: string }[];
  services: readonly { id: string; name: string; neverAsk: boolean; retired: boolean }[];
  /** Review pages; `problem` says why one leads nowhere, null where it was seen to work or was never looked at. */
  listings: readonly { branchId: string; site: string; url: string; problem: string | null }[];
  tags: readonly { name: string; neverAsks: boolean }[];
  /** A customer's link, as long as they really are. */
  link: string;
  /** Running plans that stand before it. */
  before?: readonly { name: string; rules: PlanRules }[];
};

/** What is wrong with a plan before it runs, worst first. */
export function checkPlan(facts: CheckFacts): PlanFinding[] {
  const found = [
    ...checkBeginning(facts),
    ...checkSites(facts),
    ...facts.rules.steps.flatMap((step, index) => checkStep(facts, step, index)),
    ...checkQuestion(facts.rules),
    ...checkHours(facts),
    ...checkRules(facts),
  ];
  return [...found.filter(({ level }) => level === "error"), ...found.filter(({ level }) => level === "warning")];
}

function checkBeginning({ rules, services, branches, tags, before = [] }: CheckFacts): PlanFinding[] {
  const found: PlanFinding[] = [];
  const { begins } = rules;
  const gone = (says: string) => found.push({ level: "error", says, place: "begins" });
  if ("services" in begins && begins.services.length > 0) {
    const chosen = begins.services.map((id) => services.find((service) => service.id === id));
    if (chosen.every((service) => !service || service.retired))
      gone("All the services it starts with have been removed.");
    else if (chosen.every((service) => !service || service.neverAsk))
      gone("It only starts with services you never ask about.");
  }
  if (
    "branches" in begins &&
    begins.branches.length > 0 &&
    !begins.branches.some((id) => branches.some((branch) => branch.id === id))
  )
    gone("All the branches it starts with have been removed.");
  if (begins.kind === "tag") {
    const tag = tags.find(({ name }) => name === begins.tag);
    if (!tag) gone(`It starts with the tag “${begins.tag}”, which has been removed.`);
    else if (tag.neverAsks || rules.excludeTags.includes(begins.tag))
      gone(`It starts with the tag “${begins.tag}”, but that tag leaves people out.`);
  }
  const takesAll = before.find(
    ({ rules: { begins: other } }) =>
      other.kind === "visit" && other.services.length + other.branches.length + other.kinds.length === 0,
  );
  if (takesAll && (begins.kind === "visit" || begins.kind === "invoice" || begins.kind === "list"))
    found.push({
      level: "warning",
      says: `“${takesAll.name}” comes first and covers every visit, so this plan never gets any.`,
      place: "order",
    });
  if (rules.portions && begins.kind !== "list")
    found.push({ level: "error", says: "Daily batches only work for plans that start with a list.", place: "begins" });
  return found;
}

function checkSites({ rules, branches, listings }: CheckFacts): PlanFinding[] {
  const found: PlanFinding[] = [];
  const { begins } = rules;
  const asked =
    "branches" in begins && begins.branches.length > 0
      ? branches.filter(({ id }) => begins.branches.includes(id))
      : branches;
  for (const branch of asked) {
    const own = listings.filter(({ branchId }) => branchId === branch.id);
    if (own.length === 0)
      found.push({
        level: "warning",
        says: `${branch.name} has no review page, so its customers can’t be sent to a review site.`,
        place: "branches",
      });
    for (const { site, url, problem } of own) {
      if (!/^https?:\/\/[^/\s]+\.?[^/\s]*/.test(url))
        found.push({
          level: "error",
          says: `The link to ${site} for ${branch.name} isn’t a web address.`,
          place: "branches",
        });
      else if (problem)
        found.push({
          level: "error",
          says: `The link to ${site} for ${branch.name} is broken: ${problem}.`,
          place: "branches",
        });
    }
  }
  const sites = new Set(listings.map(({ site }) => site));
  const lost = Object.entries(rules.sites.shares).filter(
    ([site, share]) => rules.sites.mix === "shares" && share > 0 && !sites.has(site),
  );
  for (const [site] of lost)
    found.push({ level: "warning", says: `${site} has a share, but no branch has a page there.`, place: "sites" });
  if (rules.sites.most > 3)
    found.push({
      level: "warning",
      says: "With more than three sites to choose from, fewer people choose any.",
      place: "sites",
    });
  return found;
}

function checkStep({ rules, postalAddress, business, link }: CheckFacts, step: PlanStep, index: number): PlanFinding[] {
  const found: PlanFinding[] = [];
  const add = (level: PlanFinding["level"], says: string, place: FindingPlace = "words") =>
    found.push({ level, says: `“${step.name}”: ${says}`, place, step: index });
  const sample = {
    person: { given: "Rosalind", family: "Fairweather" },
    about: "Bramley",
    service: "Surgery follow-up",
    teamMember: "Nurse Arkwright",
    branch: "Merrow Bay",
    business,
  };
  for (const wording of wordingsOf(step)) {
    const whose = step.others.length > 0 ? ` in wording ${wording.key.toUpperCase()}` : "";
    if (![wording.text, wording.subject, wording.email].every((words) => words.trim()))
      add("error", `some words are missing${whose}.`);
    const bare = [...new Set([wording.text, wording.subject, wording.email].flatMap(withoutFallback))];
    if (bare.length > 0)
      add(
        "warning",
        `${bare.map((name) => `{${name}}`).join(" and ")} ${bare.length === 1 ? "has" : "have"} no fallback${whose}.`,
      );
    if (!/\bstop\b/i.test(wording.text)) add("warning", `the text doesn’t say how to opt out${whose}.`);
    const { parts, alphabet } = textParts(composeAsk(wording, "text", sample, link).body);
    if (parts > 3)
      add(
        "warning",
        `the text takes about ${parts} parts${alphabet === "UCS-2" ? ", because one letter isn’t in the standard alphabet for texts" : ""}${whose}.`,
      );
    if (rules.question === "two" && step.part === "first" && rules.style === "how it went first") {
      const named = placeholdersIn(wording.text).map(({ name }) => name);
      if (named.includes("good link") !== named.includes("bad link"))
        add("error", `it only offers one of the two answers${whose}.`);
    }
  }
  const sends = step.channel;
  if (sends !== "text" && !postalAddress.trim())
    found.push({
      level: "error",
      says: `“${step.name}” goes out by email, but there’s no postal address to put at the bottom.`,
      place: "address",
      step: index,
    });
  if (index === 0 && step.onlyIf === "not opened")
    add("error", "the first message can’t depend on an earlier one.", "step");
  if (step.onlyIf === "rated 4 or more" && step.part === "first")
    add("error", "it only goes to people who’ve rated, but a rating ends this part of the plan.", "step");
  if (step.onlyIf === "would recommend" && step.part === "first")
    add("error", "it only goes to people who’d recommend you, but an answer ends this part of the plan.", "step");
  if (step.onlyIf === "would recommend" && (rules.more ?? NOTHING_MORE).recommend === "not")
    add("error", "it only goes to people who’d recommend you, but the page doesn’t ask that.", "question");
  return found;
}

/** Doors that look at something which the page does not ask. */
export function checkQuestion(rules: Pick<PlanRules, "more">): PlanFinding[] {
  const more = rules.more ?? NOTHING_MORE;
  const says =
    more.doorsLookAt === "recommendation" && more.recommend === "not"
      ? "The doors depend on the recommendation, but the page doesn’t ask for one."
      : more.doorsLookAt === "lowest aspect" && more.aspects.length === 0
        ? "The doors depend on the lowest-rated aspect, but the page doesn’t ask about any."
        : null;
  return says ? [{ level: "error", says, place: "question" }] : [];
}

function checkHours({ rules, sendHours }: CheckFacts): PlanFinding[] {
  const used = new Set(
    rules.steps.flatMap(({ channel }) =>
      channel === "text" || channel === "email" ? [channel] : (["text", "email"] as const),
    ),
  );
  return [...used].flatMap((channel): PlanFinding[] => {
    const closed = sendHours[channel].flatMap((ranges, day) => (ranges.length === 0 ? [WEEKDAYS[day]] : []));
    const what = channel === "text" ? "text" : "email";
    if (closed.length === 7)
      return [{ level: "error", says: `There are no send hours for ${what}s on any day.`, place: "hours", channel }];
    // One closed day a week is what nearly everybody means.
    if (closed.length <= 1) return [];
    return [
      {
        level: "warning",
        says: `No ${what}s go out on ${closed.slice(0, -1).join(", ")} or ${closed.at(-1)}.`,
        place: "hours",
        channel,
      },
    ];
  });
}

function checkRules({ rules, tags }: CheckFacts): PlanFinding[] {
  const found: PlanFinding[] = [];
  const both = rules.onlyTags.filter(
    (tag) => rules.excludeTags.includes(tag) || tags.find(({ name }) => name === tag)?.neverAsks,
  );
  if (both.length > 0)
    found.push({
      level: "error",
      says: `It only asks people tagged ${both.join(", ")}, but the same tag leaves them out.`,
      place: "who",
    });
  if (rules.style === "how it went first" && !rules.steps.some(({ part }) => part === "review"))
    found.push({
      level: "warning",
      says: "It asks how it went, but never asks for a review.",
      place: "step",
      step: rules.steps.length - 1,
    });
  const rest = rules.repeat.kind === "rest" ? rules.repeat.days : null;
  const spans = rules.steps.reduce(
    (sum, { delay }) => sum + (delay.unit === "days" ? delay.amount : delay.unit === "weeks" ? delay.amount * 7 : 0),
    0,
  );
  if (rest !== null && rest < spans)
    found.push({
      level: "warning",
      says: `Its messages span ${sayCount(spans, "day")}, which is longer than people’s rest.`,
      place: "often",
    });
  if (rules.doors.mode === "private only")
    found.push({
      level: "warning",
      says: `Unhappy people see no review sites; ${rules.doors.acknowledgedBy} takes responsibility for that.`,
      place: "doors",
    });
  return found;
}
