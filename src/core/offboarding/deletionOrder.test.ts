import fc from "fast-check";
import { deletionOrder } from "./deletionOrder";

test("whatever refers to what, without a circle, each table comes before those it refers to, once", () => {
  const tables = Array.from({ length: 12 }, (_, index) => `t${index}`);
  const index = fc.nat(11);
  fc.assert(
    fc.property(fc.array(fc.tuple(index, index)), fc.shuffledSubarray(tables, { minLength: 12 }), (pairs, given) => {
      // From a lower number to a higher one alone: no circle, but any shape else.
      const references = pairs.map(([a, b]) => ({ from: `t${Math.min(a, b)}`, to: `t${Math.max(a, b)}` }));
      const order = deletionOrder(given, references);
      expect([...order].sort()).toEqual([...tables].sort());
      for (const { from, to } of references)
        if (from !== to) expect(order.indexOf(from)).toBeLessThan(order.indexOf(to));
    }),
  );
});

test("a circle is refused; a table that refers to itself or to one that is not meant is fine", () => {
  expect(() =>
    deletionOrder(
      ["a", "b"],
      [
        { from: "a", to: "b" },
        { from: "b", to: "a" },
      ],
    ),
  ).toThrow("a, b");
  expect(
    deletionOrder(
      ["a"],
      [
        { from: "a", to: "a" },
        { from: "a", to: "users" },
      ],
    ),
  ).toEqual(["a"]);
});
