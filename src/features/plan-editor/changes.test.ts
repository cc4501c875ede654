import fc from "fast-check";
import { differences } from "@/core/plans/differences";
import { NOTHING_MORE, type PlanRules, planRulesSchema } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { NO_WORDS } from "@/core/words/planWords";
import { runs } from "../../../tests/support/size";
import { changedRules, emptyRules, PARTS, type Part } from "./changes";

/** What the forms of a plan's sentences make of its rules. */

const form = (fields: Record<string, string | string[]>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) for (const one of [value].flat()) data.append(name, one);
  return data;
};
const change = (rules: PlanRules, part: Part, fields: Record<string, string | string[]>) =>
  changedRules(rules, part, form(fields));
const rulesOf = (changed: ReturnType<typeof changedRules>): PlanRules => {
  if ("message" in changed) throw new Error(changed.message);
  return changed.rules;
};
const feeling = STARTERS.find(({ key }) => key === "feeling")?.rules([]) as PlanRules;

test("whatever a form says, the rules stay sound or the form is told what is wrong", () => {
  const names = [
    "kind",
    "services",
    "branches",
    "kinds",
    "tag",
    "days",
    "style",
    "question",
    "step",
    "amount",
    "unit",
    "at",
    "channel",
    "from",
    "onlyIf",
    "name",
    "text",
    "subject",
    "email",
    "wording",
    "to",
    "in",
    "freshDays",
    "excludeTags",
    "households",
    "goesFirst",
    "portions",
    "perDay",
    "mostBounced",
    "mostOptedOut",
    "mode",
    "threshold",
    "acknowledgedBy",
    "order",
    "share Waypost",
    "mix",
    "most",
    "aspects",
    "recommend",
    "questions",
    "mayShow",
    "photo",
    "emails",
    "texts",
    "background",
    "x",
    "y",
    "size",
    "angle",
    "colour",
    "doorsLookAt",
  ];
  const values = fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.constantFrom(
      "0",
      "1",
      "2",
      "-1",
      "1e9",
      "visit",
      "list",
      "tag",
      "customer",
      "by hand",
      "once",
      "rest",
      "every visit",
      "days",
      "hours",
      "10:00",
      "25:00",
      "text",
      "both",
      "preferred",
      "b",
      "{link}",
      "yes",
      "no",
      "shares",
      "order",
      "mailbox",
      "Waypost",
      "open",
      "private only",
      "together",
      "straight away",
      "how it went first",
      "two",
      "five",
      "not opened",
      "review",
      "faces",
      "ten",
      "The waiting\nThe price",
      "rating",
      "lowest aspect",
      "would recommend",
      "first",
      "waves",
      "12.5",
      "#112233",
      "11111111-1111-4111-8111-111111111111",
    ),
  );
  fc.assert(
    fc.property(
      fc.constantFrom(...PARTS),
      fc.dictionary(fc.constantFrom(...names), values, { maxKeys: 12 }),
      fc.constantFrom(starterRules(), feeling, emptyRules([])),
      (part, fields, rules) => {
        const before = structuredClone(rules);
        const changed = change(rules, part, fields);
        expect(rules).toEqual(before);
        if ("message" in changed) expect(changed.message.length).toBeGreaterThan(3);
        else {
          expect(planRulesSchema.safeParse(changed.rules).success).toBe(true);
          // Whatever changed is told to whoever puts it in force.
          const plain = ({ more, words, ...rest }: PlanRules) =>
            JSON.stringify({ ...rest, more: more ?? NOTHING_MORE, words: words ?? NO_WORDS });
          const isTold = differences(before, changed.rules).length > 0;
          expect([part, fields, isTold]).toEqual([
            part,
            fields,
            plain(planRulesSchema.parse(before)) !== plain(changed.rules),
          ]);
        }
      },
    ),
    { numRuns: runs(1500) },
  );
});

test("asking how it went first brings a second part, asking straight away takes it back", () => {
  const first = rulesOf(change(starterRules(), "style", { style: "how it went first", question: "two" }));
  expect(first.steps.map(({ part }) => part)).toEqual(["first", "first", "review"]);
  const back = rulesOf(change(first, "style", { style: "straight away", question: "five" }));
  expect(back.steps.map(({ part, onlyIf }) => [part, onlyIf])).toEqual(back.steps.map(() => ["first", "always"]));
});

test("a message is added, moved within its part, renamed by its key never, and the last one stays", () => {
  const added = rulesOf(change(feeling, "add step", { in: "review" }));
  expect(added.steps.map(({ part }) => part)).toEqual(["first", "first", "review", "review", "review"]);
  expect(change(added, "move step", { step: "2", to: "1" })).toMatchObject({
    message: expect.stringContaining("before those"),
  });
  const moved = rulesOf(change(added, "move step", { step: "4", to: "2" }));
  expect(moved.steps[2].key).toBe(added.steps[4].key);
  expect(new Set(moved.steps.map(({ key }) => key)).size).toBe(5);
  expect(change(emptyRules([]), "remove step", { step: "0" })).toMatchObject({
    message: "A plan needs at least one message.",
  });
  let full = feeling;
  while (full.steps.length < 6) full = rulesOf(change(full, "add step", { in: "first" }));
  expect(change(full, "add step", {})).toMatchObject({ message: "A plan can have up to six messages." });
});

test("wordings are tried, changed each on its own, dropped, and the better is kept as the only one", () => {
  const two = rulesOf(change(starterRules(), "add wording", { step: "0" }));
  expect(two.steps[0].others.map(({ key }) => key)).toEqual(["b"]);
  const own = rulesOf(
    change(two, "words", { step: "0", wording: "b", text: "B {link} STOP", subject: "B", email: "B\r\n{link}" }),
  );
  expect(own.steps[0].text).toBe(starterRules().steps[0].text);
  expect(own.steps[0].others[0]).toEqual({ key: "b", text: "B {link} STOP", subject: "B", email: "B\n{link}" });
  const kept = rulesOf(change(own, "keep wording", { step: "0", wording: "b" }));
  expect(kept.steps[0]).toMatchObject({ text: "B {link} STOP", others: [] });
  expect(rulesOf(change(own, "drop wording", { step: "0", wording: "b" })).steps[0].others).toEqual([]);
});

test("portions go when the plan no longer begins with a list, and shares need at least one", () => {
  const list = STARTERS.find(({ key }) => key === "reawaken")?.rules([]) as PlanRules;
  expect(rulesOf(change(list, "begins", { kind: "visit" })).portions).toBeNull();
  expect(rulesOf(change(list, "begins", { kind: "list" })).portions).toEqual(list.portions);
  expect(change(starterRules(), "sites", { order: ["Waypost", "Commons"], mix: "shares", most: "3" })).toMatchObject({
    fields: { shares: "Give at least one site a share." },
  });
  expect(
    rulesOf(
      change(starterRules(), "sites", {
        order: ["Commons", "Waypost"],
        mix: "shares",
        most: "2",
        "share Commons": "1",
        "share Waypost": "3",
      }),
    ).sites,
  ).toEqual({
    order: ["Commons", "Waypost"],
    most: 2,
    mix: "shares",
    shares: { Commons: 1, Waypost: 3 },
  });
});
