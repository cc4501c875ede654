import { ROOT } from "./local";
import { ALLOWED, BANNED, saidIn, saidInCatalogue, wordingFaults } from "./wording";

const CODE = `
import { x } from "somebody is not here, at once";
/** Somebody reads this comment. */
type Kind = "would not" | "at once";
const code = "at once";
const refused = { message: "This person is not there any more." };
const words = \`\${count} messages leave at once, by itself.\`;
const query = sql\`select somebody from people where not gone\`;
export const Page = () => <p className="somebody at once, really">Whoever writes is told of it.</p>;
`;

test("it reads what people read: sentences, templates and JSX, no codes, comments, queries or classes", () => {
  expect(saidIn("page.tsx", CODE).map(({ line, words }) => [line, words])).toEqual([
    [6, "This person is not there any more."],
    [7, "… messages leave at once, by itself."],
    [9, "Whoever writes is told of it."],
  ]);
  expect(saidInCatalogue("en.json", '{\n  "a": "Nobody, any more",\n  "b": {\n    "c": "d"\n  }\n}')).toEqual([
    { file: "en.json", line: 2, words: "Nobody, any more" },
    { file: "en.json", line: 4, words: "d" },
  ]);
});

test.each([
  "Ask somebody else.",
  "This person is not there any more.",
  "It is sent at once.",
  "The plan pauses by itself.",
  "The reply stands below.",
  "This version is in force.",
  "Take back the list.",
  "You are told of it by mail.",
  "12 % of its messages",
  "One moment ...",
  "It's saved.",
  "Thank you!",
  "Empty for nowhere.",
  "There is no such plan.",
  "The gateway did it.",
])("“%s” is refused", (words) => {
  expect(BANNED.some(({ pattern }) => pattern.test(words))).toBe(true);
});

test.each([
  "Ask someone else.",
  "This person no longer exists.",
  "It goes out straight away.",
  "12% of its messages",
  "Thank you.",
  "Leave blank for none.",
  "It isn’t saved yet.",
])("“%s” passes", (words) => {
  expect(BANNED.filter(({ pattern }) => pattern.test(words))).toEqual([]);
});

test("every exception says why, and nothing on screen breaks the style", () => {
  expect(ALLOWED.every(({ why }) => why.length > 5)).toBe(true);
  expect(wordingFaults(ROOT)).toEqual([]);
});
