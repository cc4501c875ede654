import fc from "fast-check";
import { averageOnFive, normaliseRating, sayAverage } from "./rating";

test("a site's figure is said as the site shows it; compared ones are not rounded first", () => {
  expect(sayAverage(78, 10, "ten")).toBe("7.8 of 10");
  expect(sayAverage(17, 20, "recommend")).toBe("85% recommend");
  expect(sayAverage(46, 10, "five")).toBe("4.6 of 5");
  // Each of these is a 4 when it is rounded up alone; together they are less.
  expect(averageOnFive(7.6 + 7.8 + 8, 3, "ten")).toBeCloseTo(3.9);
  expect(averageOnFive(17, 20, "recommend")).toBeCloseTo(3.7);
});

test("what is compared stays between 1 and 5, and grows with what a site shows", () => {
  const points = fc.array(fc.double({ min: 0, max: 10, noNaN: true }), { minLength: 1, maxLength: 30 });
  fc.assert(
    fc.property(points, (list) => {
      const sum = list.reduce((all, each) => all + each, 0);
      const average = averageOnFive(sum, list.length, "ten");
      expect(average).toBeGreaterThanOrEqual(1);
      expect(average).toBeLessThanOrEqual(5);
      expect(averageOnFive(sum + 0.5, list.length, "ten")).toBeGreaterThanOrEqual(average);
    }),
  );
  expect(averageOnFive(1, 1, "recommend")).toBe(normaliseRating(1, "recommend"));
  expect(averageOnFive(0, 1, "recommend")).toBe(normaliseRating(0, "recommend"));
});
