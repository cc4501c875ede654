import fc from "fast-check";
import { NOTHING_MORE } from "../plans/planRules";
import { averageOf, branchAddress, reviewsAddress, shownName } from "../reviews/ownReviews";
import { doorRating, GROUPS, groupOf, THREE } from "./recommendation";

const rating = fc.integer({ min: 1, max: 5 });
const recommend = fc.option(fc.integer({ min: 0, max: 10 }), { nil: null });
const aspects = fc.dictionary(fc.string({ maxLength: 5 }), fc.option(rating, { nil: null }), { maxKeys: 5 });

test("everybody who was asked is in one group, the happier never in a lower one", () => {
  expect(groupOf(null)).toBeNull();
  expect(Object.values(THREE).map(groupOf)).toEqual([...GROUPS]);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 10 }), fc.integer({ min: 0, max: 10 }), (a, b) => {
      const place = (value: number) => GROUPS.indexOf(groupOf(value) ?? "would not");
      if (a >= b) expect(place(a)).toBeLessThanOrEqual(place(b));
    }),
  );
});

test("doors go by what the plan says; where that was not answered, by the rating", () => {
  fc.assert(
    fc.property(rating, recommend, aspects, (given, likely, sides) => {
      const it = { rating: given, recommend: likely, aspects: sides };
      expect(doorRating(null, it)).toBe(given);
      const byRecommendation = doorRating({ ...NOTHING_MORE, doorsLookAt: "recommendation" }, it);
      if (likely === null) expect(byRecommendation).toBe(given);
      else {
        expect(byRecommendation).toBeGreaterThanOrEqual(1);
        expect(byRecommendation).toBeLessThanOrEqual(5);
        // Whoever would not recommend counts as unhappy with the usual threshold, whoever would never does.
        if (groupOf(likely) === "would not") expect(byRecommendation).toBeLessThanOrEqual(3);
        if (groupOf(likely) === "would recommend") expect(byRecommendation).toBe(5);
      }
      const byLowest = doorRating({ ...NOTHING_MORE, doorsLookAt: "lowest aspect" }, it);
      expect(byLowest).toBe(Math.min(given, ...Object.values(sides).filter((each) => each !== null)));
    }),
  );
});

test("an average is between the lowest and the highest, and there is none of nothing", () => {
  expect(averageOf([0, 0, 0, 0, 0])).toBeNull();
  fc.assert(
    fc.property(fc.array(fc.nat(1000), { minLength: 5, maxLength: 5 }), (counts) => {
      const found = averageOf(counts);
      if (!found) return;
      expect(found.count).toBe(counts.reduce((sum, each) => sum + each, 0));
      expect(found.average).toBeGreaterThanOrEqual(counts.findIndex((each) => each > 0) + 1);
      expect(found.average).toBeLessThanOrEqual(counts.findLastIndex((each) => each > 0) + 1);
    }),
  );
});

test("names and addresses of own reviews", () => {
  expect(shownName({ given: "Odette", family: "Marsh" })).toBe("Odette M.");
  expect(shownName({ given: "Anna Maria", family: "łęcka" })).toBe("Anna Ł.");
  expect(shownName({ given: " ", family: "" })).toBe("");
  expect(["Old Mill", "Łódź Śródmieście", "Café “Élan”"].map(branchAddress)).toEqual([
    "old-mill",
    "lodz-srodmiescie",
    "cafe-elan",
  ]);
  expect(["bramble-lane", " Bramble ", "a", "-a-", "a b", "x".repeat(61), "../x"].map(reviewsAddress)).toEqual([
    "bramble-lane",
    "bramble",
    null,
    null,
    null,
    null,
    null,
  ]);
});
