import fc from "fast-check";
import { type Heard, inReadingOrder } from "./readingOrder";

const heard = fc.record({
  rating: fc.option(fc.integer({ min: 1, max: 5 })),
  at: fc.integer({ min: 0, max: 1000 }),
  isAnswered: fc.boolean(),
});

test("the unhappiest first, then the longest waiting; a conversation stands in the middle, what is answered last", () => {
  const list: (Heard & { name: string })[] = [
    { name: "happy", rating: 5, at: 1 },
    { name: "letter", rating: null, at: 2 },
    { name: "answered", rating: 1, at: 0, isAnswered: true },
    { name: "later", rating: 2, at: 9 },
    { name: "earlier", rating: 2, at: 3 },
    { name: "worst", rating: 1, at: 8 },
  ];
  const names = (order: "unhappiest" | "date") => inReadingOrder(list, order).map(({ name }) => name);
  expect(names("unhappiest")).toEqual(["worst", "earlier", "later", "letter", "happy", "answered"]);
  expect(names("date")).toEqual(["later", "worst", "earlier", "letter", "happy", "answered"]);
});

test("everything is there once, and nothing less unhappy stands before what waits and is more so", () => {
  fc.assert(
    fc.property(fc.array(heard), (list) => {
      const read = inReadingOrder(list, "unhappiest");
      expect(new Set(read)).toEqual(new Set(list));
      for (const [index, next] of read.slice(1).entries()) {
        const before = read[index];
        if (before.isAnswered === next.isAnswered) expect(before.rating ?? 3).toBeLessThanOrEqual(next.rating ?? 3);
        else expect(next.isAnswered).toBe(true);
      }
    }),
  );
});
