import { describeDelay } from "../time/delay";
import type { PlanRules, PlanStep } from "./planRules";
import { MIX_WORDS, sayBegins, sayCondition, sayRepeat, sayStepChannel } from "./sayRules";

/** One difference between two versions, in words. `place` is what changed. */
export type Difference = { place: string; before: string; after: string };

/**
 * What differs between two versions of a plan, in the order of its page. Services, branches and tags are named by
 * `nameOf`.
 */
export function differences(
  before: PlanRules,
  after: PlanRules,
  nameOf: (id: string) => string = (id) => id,
): Difference[] {
  const found: Difference[] = [];
  const compare = (place: string, say: (rules: PlanRules) => string) => {
    const [a, b] = [say(before), say(after)];
    if (a !== b) found.push({ place, before: a, after: b });
  };
  compare("begins", (rules) => sayBegins(rules.begins, nameOf));
  compare("kind of ask", ({ style, question }) =>
    style === "straight away" ? style : `${style}, by ${question === "two" ? "two buttons" : "one to five"}`,
  );
  const keys = [...new Set([...before.steps, ...after.steps].map(({ key }) => key))];
  const named = (rules: PlanRules, key: string) => rules.steps.find((step) => step.key === key);
  for (const key of keys) {
    const [a, b] = [named(before, key), named(after, key)];
    if (a && b) found.push(...stepDifferences(a, b));
    else if (b)
      found.push({
        place: `message “${b.name}”`,
        before: "not there",
        after: `added, ${describeDelay(b.delay)}, ${sayStepChannel(b.channel)}`,
      });
    else if (a)
      found.push({
        place: `message “${a.name}”`,
        before: `${describeDelay(a.delay)}, ${sayStepChannel(a.channel)}`,
        after: "taken out",
      });
  }
  const order = (rules: PlanRules) =>
    rules.steps
      .filter(({ key }) => named(before, key) && named(after, key))
      .map(({ key }) => named(after, key)?.name)
      .join(", ");
  compare("order of messages", order);
  compare("how often", ({ repeat }) => sayRepeat(repeat));
  compare("while it is fresh", ({ freshDays }) => `${freshDays} days`);
  compare("tags left out", ({ excludeTags }) => [...excludeTags].sort().join(", ") || "none");
  compare("only people tagged", ({ onlyTags }) => [...onlyTags].sort().join(", ") || "everybody");
  compare("households", ({ households }) => households);
  compare("leaves first", ({ goesFirst }) => (goesFirst ? "before other plans" : "in its turn"));
  compare("daily portions", ({ portions }) =>
    portions
      ? `${portions.perDay} a day, stops at ${portions.mostBounced} % back or ${portions.mostOptedOut} % opted out`
      : "none",
  );
  compare(
    "doors",
    ({ doors }) =>
      `${doors.mode}, unhappy is ${doors.threshold} and below${doors.acknowledgedBy ? `, ${doors.acknowledgedBy} answers for it` : ""}`,
  );
  compare(
    "sites",
    ({ sites }) =>
      `${sites.order.join(", ") || "as each branch has them"}, at most ${sites.most}, ${MIX_WORDS[sites.mix]}${
        sites.mix === "shares"
          ? ` (${Object.entries(sites.shares)
              .map(([site, share]) => `${site} ${share}`)
              .join(", ")})`
          : ""
      }`,
  );
  return found;
}

function stepDifferences(a: PlanStep, b: PlanStep): Difference[] {
  const found: Difference[] = [];
  const compare = (what: string, before: string, after: string) => {
    if (before !== after) found.push({ place: `“${b.name}” ${what}`, before, after });
  };
  compare("is named", a.name, b.name);
  compare("goes out", describeDelay(a.delay), describeDelay(b.delay));
  compare("goes by", sayStepChannel(a.channel), sayStepChannel(b.channel));
  compare("goes to", sayCondition(a.onlyIf), sayCondition(b.onlyIf));
  compare("comes from", a.from, b.from);
  compare("as a text", a.text, b.text);
  compare("subject", a.subject, b.subject);
  compare("as an email", a.email, b.email);
  compare("wordings on trial", String(a.others.length + 1), String(b.others.length + 1));
  if (a.others.length === b.others.length && JSON.stringify(a.others) !== JSON.stringify(b.others))
    found.push({ place: `“${b.name}” wordings on trial`, before: "as they were", after: "rewritten" });
  return found;
}
