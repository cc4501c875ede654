import { FASTEST, isDoubtful } from "./doubt";

test.each([
  [{ shownFor: 4000, trap: "" }, false],
  [{ shownFor: FASTEST, trap: " " }, false],
  [{ shownFor: FASTEST - 1, trap: "" }, true],
  [{ shownFor: 60_000, trap: "https://buy.example" }, true],
  [{ shownFor: null, trap: "" }, true],
  [{ shownFor: -5, trap: "" }, true],
])("%p is doubtful: %p", (given, doubtful) => {
  expect(isDoubtful(given)).toBe(doubtful);
});
