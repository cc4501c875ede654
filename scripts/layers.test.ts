import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { breaches } from "./layers";

/** The check itself, on made trees: what it must refuse and what it must let pass. */

const made: string[] = [];
afterAll(() => {
  for (const folder of made) rmSync(folder, { recursive: true });
});

/** The breaches of a tree of these files, without paths beyond its root. */
function breachesOf(files: Record<string, string>): string[] {
  const root = mkdtempSync(join(tmpdir(), "estima-layers-"));
  made.push(root);
  for (const [file, text] of Object.entries(files)) {
    mkdirSync(join(root, dirname(file)), { recursive: true });
    writeFileSync(join(root, file), text);
  }
  return breaches(root);
}

const TREE = {
  "src/core/time.ts": "export const HOUR = 1;",
  "src/schema/people.ts": 'import { HOUR } from "@/core/time"; export const people = HOUR;',
  "src/platform/action.ts": "export const action = (work: unknown) => work;",
  "src/platform/database.ts": 'import { people } from "@/schema/people"; export const tx = people;',
  "src/features/people/index.ts": 'export { find } from "./queries";',
  "src/features/people/queries.ts": 'import { tx } from "@/platform/database"; export const find = tx;',
  "src/features/people/actions.ts":
    '"use server"; import { action } from "@/platform/action"; import { find } from "./queries"; export const act = action(find);',
  "src/features/people/parts/Form.client.tsx": 'import { act } from "../actions"; export const Form = act;',
  "src/features/asks/index.ts": 'export { ask } from "./ask";',
  "src/features/asks/ask.ts": 'import { find } from "@/features/people"; export const ask = find;',
  "src/app/page.tsx":
    'import { ask } from "@/features/asks"; import { Form } from "@/features/people/parts/Form.client"; export default [ask, Form];',
};

test("a tree whose imports point down has no breach", () => {
  expect(breachesOf(TREE)).toEqual([]);
});

const REFUSED: [string, string, string, string][] = [
  ["core that knows a table", "src/core/x.ts", 'import { people } from "@/schema/people";', "core knows nobody"],
  ["core that reads a file", "src/core/x.ts", 'import { readFileSync } from "node:fs";', "core is pure"],
  ["a type only, from above", "src/core/x.ts", 'import type { X } from "@/features/asks";', "core knows nobody"],
  ["a table that knows a feature", "src/schema/x.ts", 'import type { A } from "@/features/asks";', "schema knows core"],
  ["a feature that looks up", "src/features/people/x.ts", 'import { ask } from "@/features/asks";', "point down"],
  ["… by a type", "src/features/people/x.ts", 'import type { Ask } from "@/features/asks";', "point down"],
  ["… by a relative path", "src/features/people/x.ts", 'import { ask } from "../asks";', "point down"],
  ["… within an expression", "src/features/people/x.ts", 'await import("@/features/asks");', "point down"],
  ["… within a type", "src/features/people/x.ts", 'type A = import("@/features/asks").A;', "point down"],
  ["… by its parts", "src/features/people/parts/X.tsx", 'import { Y } from "@/features/asks/parts/Y";', "point down"],
  ["… by its actions", "src/features/people/parts/X.tsx", 'import { y } from "@/features/asks/actions";', "point down"],
  ["… by handing it on", "src/features/people/x.ts", 'export { ask } from "@/features/asks";', "point down"],
  ["an action by itself", "src/app/actions.ts", '"use server"; export async function act() {}', "through action()"],
  ["… as a constant", "src/app/actions.ts", '"use server"; export const act = async () => {};', "through action()"],
  ["… made by another", "src/app/actions.ts", '"use server"; export const act = guarded(1);', "through action()"],
  ["… handed on", "src/app/actions.ts", '"use server"; const act = 1; export { act };', "through action()"],
  [
    "one that reaches inside",
    "src/features/asks/x.ts",
    'import { find } from "@/features/people/queries";',
    "its index",
  ],
  ["a page that reaches inside", "src/app/x.tsx", 'import { find } from "@/features/people/queries";', "its index"],
  [
    "a service that loads React",
    "src/features/asks/x.ts",
    'import "@/features/people/parts/Form.client";',
    "its index",
  ],
  ["a script that reaches inside", "scripts/x.ts", 'import { find } from "@/features/people/queries";', "its index"],
  ["an island with the database", "src/ui/X.client.tsx", 'import { tx } from "@/platform/database";', "islands hold"],
  [
    "an island with a feature's index",
    "src/app/X.client.tsx",
    'import { ask } from "@/features/asks";',
    "islands hold",
  ],
  ["a stand-in that knows the program", "standins/x.ts", 'import { HOUR } from "../src/core/time";', "stand-ins stand"],
  ["a page with SQL", "src/app/x.tsx", 'import { sql } from "drizzle-orm";', "no SQL"],
  ["a feature without a place", "src/features/extra/index.ts", "export const x = 1;", "have a place"],
  [
    "a query that loads a part of a page",
    "src/features/people/more.ts",
    'import { Form } from "./parts/Form.client";',
    "load no parts",
  ],
  ["a service that loads actions", "src/features/people/more.ts", 'import { act } from "./actions";', "load no parts"],
  ["an index that shows everything", "src/features/asks/index.ts", 'export * from "./ask";', "names what it shows"],
];

test.each([
  ["by name", "await tx.update(visits).set({});"],
  ["by SQL", "await tx.execute(sql`delete from visits where true`);"],
  // biome-ignore lint/suspicious/noTemplateCurlyInString: a file's text
  ["by SQL with its name", "await tx.execute(sql`insert into ${visits} default values`);"],
])("a table that another feature writes, %s, is refused", (_, text) => {
  const files = {
    ...TREE,
    "src/schema/visits.ts": 'export const visits = pgTable("visits", {});',
    "src/features/visits/index.ts": text,
  };
  expect(breachesOf(files)).toEqual([]);
  expect(breachesOf({ ...files, "src/features/asks/x.ts": text })).toEqual([
    "a table is written by its own feature: src/features/asks/x.ts writes visits",
  ]);
});

test.each(REFUSED)("%s is refused", (_, file, text, rule) => {
  expect(breachesOf({ ...TREE, [file]: text })).toContainEqual(expect.stringContaining(rule));
});

test("two files that need each other are a circle, also within one feature", () => {
  const found = breachesOf({
    ...TREE,
    "src/features/asks/a.ts": 'import { b } from "./b"; export const a = b;',
    "src/features/asks/b.ts": 'import { a } from "./a"; export const b = a;',
  });
  expect(found).toEqual([expect.stringContaining("no circles")]);
});
