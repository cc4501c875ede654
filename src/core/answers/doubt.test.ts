import { doubtAfter, FASTEST, isDoubtful } from "./doubt";

test.each([
  [{ step: "tap", shownFor: 4000, trap: "" }, false],
  [{ step: "tap", shownFor: FASTEST, trap: " " }, false],
  [{ step: "tap", shownFor: FASTEST - 1, trap: "" }, true],
  [{ step: "tap", shownFor: 60_000, trap: "https://buy.example" }, true],
  [{ step: "tap", shownFor: null, trap: "" }, true],
  [{ step: "tap", shownFor: -5, trap: "" }, true],
  [{ step: "writing", shownFor: null, trap: "" }, false],
  [{ step: "writing", shownFor: 60_000, trap: "" }, false],
  [{ step: "writing", shownFor: 10, trap: "" }, true],
  [{ step: "writing", shownFor: null, trap: "https://buy.example" }, true],
] as const)("%p is doubtful: %p", (given, doubtful) => {
  expect(isDoubtful(given)).toBe(doubtful);
});

test("doubt ends with what only a person does, and does not come back", () => {
  expect(doubtAfter(true, true)).toBe(true);
  expect(doubtAfter(true, false)).toBe(false);
  expect(doubtAfter(false, true)).toBe(false);
});
