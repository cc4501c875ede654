import fc from "fast-check";
import { Multimap } from "./multimap";

test("gives each value of a key once, in the order in which they came", () => {
  const values = Array.from({ length: 5 }, (_, n) => ({ n }));
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom("a", "b", "", "__proto__"), fc.constantFrom(...values))), (added) => {
      const map = new Multimap<{ n: number }>();
      for (const [key, value] of added) map.add(key, value);
      for (const key of ["a", "b", "", "__proto__", "c"])
        expect(map.get(key)).toEqual([...new Set(added.filter(([each]) => each === key).map(([, value]) => value))]);
    }),
  );
});
