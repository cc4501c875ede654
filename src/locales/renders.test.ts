import { AUDIT_ACTIONS, AUDIT_SUBJECTS } from "@/core/audit/actions";
import { auditSentence } from "./operations";
import { CATALOGUES, type Catalogue, translate, type Values } from "./translate";

/** Every message of the catalogue with every value of its choices, as a page would say it. */

type Choice = { name: string; values: (string | number)[] };

/** The choices of an ICU message, at any depth: what its selects and plurals tell apart. */
function choicesOf(message: string): Choice[] {
  const choices = new Map<string, Set<string | number>>();
  for (const [, name, kind] of message.matchAll(/\{(\w+), (select|plural),/g)) {
    const values = choices.get(name) ?? new Set();
    choices.set(name, values);
    if (kind === "plural") for (const count of [0, 1, 2, 13]) values.add(count);
    else {
      const at = message.indexOf(`{${name}, select,`);
      for (const value of keysAt(message, at)) values.add(value);
    }
  }
  return [...choices].map(([name, values]) => ({ name, values: [...values] }));
}

/** The keys of the select that begins at `at`. */
function keysAt(message: string, at: number): string[] {
  const keys: string[] = [];
  let depth = 0;
  let word = "";
  for (const letter of message.slice(message.indexOf("select,", at) + 7)) {
    if (letter === "{") {
      if (depth === 0) keys.push(word.trim());
      depth += 1;
      word = "";
    } else if (letter === "}") {
      if (depth === 0) break;
      depth -= 1;
      word = "";
    } else if (depth === 0) word += letter;
  }
  return keys;
}

/** What stands for the values that are only inserted. */
const SAMPLES: Values = {
  ...{ name: "Odette Marsh", who: "Odette Marsh", by: "Maud Ellery", client: "Bramble Lane Vets", at: "Fenwick" },
  ...{ branch: "Fenwick", site: "Waypost", plan: "After every visit", service: "check-up", what: "the plan Spring" },
  ...{ why: "the site didn’t answer", time: "9:00", delay: "2 hours", since: "yesterday", until: "Monday" },
  ...{
    share: 12.5,
    of: 40,
    most: 10,
    status: 404,
    megabytes: 25,
    rest: 60,
    answerBy: "tomorrow",
    renewed: "1 December",
  },
};

/** Every wording of a message, with the values that gave it. */
function rendered(part: keyof Catalogue, code: string | null, message: string): string[] {
  const inserted = [...message.matchAll(/\{(\w+)(?:\}|, number)/g)].map(([, name]) => name);
  const base: Values = Object.fromEntries(inserted.map((name) => [name, SAMPLES[name] ?? 3]));
  const said = choicesOf(message).reduce<Values[]>(
    (all, { name, values }) => all.flatMap((before) => values.map((value) => ({ ...before, [name]: value }))),
    [base],
  );
  return [...new Set(said.map((values) => translate(part, code, values)))];
}

const all = Object.entries(CATALOGUES.en).flatMap(([part, words]) =>
  typeof words === "string"
    ? rendered(part as keyof Catalogue, null, words).map((said) => ({ key: part, said }))
    : Object.entries(words as Record<string, string>).flatMap(([code, message]) =>
        rendered(part as keyof Catalogue, code, message).map((said) => ({ key: `${part}.${code}`, said })),
      ),
);

/** What no sentence may hold: a gap, a placeholder, a sign without its words, a word twice. */
const BROKEN =
  /[{}]|undefined|\[object| {2}| [,;:?]| \.(?!\w)|\(\s*\)|\b(\w+) \1\b(?<!had had)|[.,;:]{2,}(?<!…)|\bof of\b/i;

test("no message holds a gap or a placeholder, whatever its choices", () => {
  expect(all.length).toBeGreaterThan(700);
  expect(all.filter(({ said }) => BROKEN.test(said))).toEqual([]);
});

test("counts agree with what is counted", () => {
  const wrong =
    /\b1 (?:days|weeks|hours|minutes|people|messages|visits|rows|texts|emails|clients|reviews)\b|\b(?:2|13) (?:day|week|hour|minute|person|message|visit|row|text(?! part)|email|client|review)\b/;
  expect(all.filter(({ said }) => wrong.test(said))).toEqual([]);
});

test("the trail is one sentence, for whatever was done to whatever, with its name or without", () => {
  for (const action of AUDIT_ACTIONS)
    for (const subject of AUDIT_SUBJECTS)
      for (const name of [null, "Odette Marsh"]) {
        const { before, name: shown, after } = auditSentence({ action, subject, name, count: 3 });
        const said = `${before}${shown}${after}`;
        expect(said).not.toMatch(BROKEN);
        expect(said).not.toMatch(/\uE000|\b(?:of|to|with|from|for|by)$/);
      }
});
