import { describeDelay } from "../time/delay";
import { sayFigure } from "../time/say";
import { LANGUAGE_NAMES } from "../words/languages";
import { readKey } from "../words/pieces";
import { wordsOf } from "../words/planWords";
import { sayPlace } from "../words/walk";
import { NOTHING_MORE, type PlanRules, type PlanStep } from "./planRules";
import {
  MIX_WORDS,
  sayBegins,
  sayCondition,
  sayPicture,
  sayPictureDesign,
  sayQuestion,
  sayRepeat,
  sayStepChannel,
} from "./sayRules";

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
  compare("starts when", (rules) => sayBegins(rules.begins, nameOf));
  compare("kind of ask", ({ style }) => style);
  compare("what the page asks", ({ question, more }) => sayQuestion(question, more ?? NOTHING_MORE));
  compare("open questions", ({ more }) => more?.questions.join(" ") || "none");
  compare("messages with a picture", sayPicture);
  compare("what the picture shows", sayPictureDesign);
  compare("doors depend on", ({ more }) => (more ?? NOTHING_MORE).doorsLookAt);
  const keys = [...new Set([...before.steps, ...after.steps].map(({ key }) => key))];
  const named = (rules: PlanRules, key: string) => rules.steps.find((step) => step.key === key);
  for (const key of keys) {
    const [a, b] = [named(before, key), named(after, key)];
    if (a && b) found.push(...stepDifferences(a, b));
    else if (b)
      found.push({
        place: `message “${b.name}”`,
        before: "none",
        after: `added, ${describeDelay(b.delay)}, ${sayStepChannel(b.channel)}`,
      });
    else if (a)
      found.push({
        place: `message “${a.name}”`,
        before: `${describeDelay(a.delay)}, ${sayStepChannel(a.channel)}`,
        after: "removed",
      });
  }
  const order = (rules: PlanRules) =>
    rules.steps
      .filter(({ key }) => named(before, key) && named(after, key))
      .map(({ key }) => named(after, key)?.name)
      .join(", ");
  compare("order of messages", order);
  compare("how often", ({ repeat }) => sayRepeat(repeat));
  compare("too late after", ({ freshDays }) => sayFigure(freshDays, "day"));
  compare("tags left out", ({ excludeTags }) => [...excludeTags].sort().join(", ") || "none");
  compare("only people tagged", ({ onlyTags }) => [...onlyTags].sort().join(", ") || "everyone");
  compare("households", ({ households }) => households);
  compare("priority", ({ goesFirst }) => (goesFirst ? "ahead of other plans" : "in turn"));
  compare("daily batches", ({ portions }) =>
    portions
      ? `${portions.perDay} a day, pauses above ${portions.mostBounced}% bounced or ${portions.mostOptedOut}% opted out`
      : "none",
  );
  compare(
    "doors",
    ({ doors }) =>
      `${doors.mode}, unhappy at ${doors.threshold} or lower${doors.acknowledgedBy ? `, ${doors.acknowledgedBy} takes responsibility` : ""}`,
  );
  compare(
    "sites",
    ({ sites }) =>
      `${sites.order.filter((site) => !sites.leftOut?.includes(site)).join(", ") || "whichever each branch has"}${
        sites.leftOut?.length ? `, without ${sites.leftOut.join(", ")}` : ""
      }, at most ${sites.most}, ${MIX_WORDS[sites.mix]}${
        sites.mix === "shares"
          ? ` (${Object.entries(sites.shares)
              .map(([site, share]) => `${site} ${share}`)
              .join(", ")})`
          : ""
      }`,
  );
  found.push(...wordsDifferences(before, after, nameOf));
  return found;
}

/** Pieces of the words that differ, each named by its language, the place where it stands, and its service. */
function wordsDifferences(before: PlanRules, after: PlanRules, nameOf: (id: string) => string): Difference[] {
  return (["own", "taken"] as const).flatMap((level) => {
    const [a, b] = [wordsOf(before)[level], wordsOf(after)[level]];
    return [...new Set([...Object.keys(a), ...Object.keys(b)])]
      .filter((key) => a[key] !== b[key])
      .map((key): Difference => {
        const name = readKey(key);
        const where = name
          ? `${LANGUAGE_NAMES[name.language]}: ${sayPlace(after, name.place)}${name.serviceId ? `, after ${nameOf(name.serviceId)}` : ""}`
          : key;
        const none = level === "own" ? "not changed" : "the standard words";
        return {
          place: level === "own" ? `words, ${where}` : `agency’s words, ${where}`,
          before: a[key] ?? none,
          after: b[key] ?? none,
        };
      });
  });
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
    found.push({ place: `“${b.name}” wordings on trial`, before: "as before", after: "rewritten" });
  return found;
}
