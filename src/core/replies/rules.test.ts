import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { UNHAPPY_UP_TO } from "../reviews/rating";
import { weekOf } from "../time/sendHours";
import { DAY, dayNumber, HOUR, timeOfDay, toLocal, weekday } from "../time/zone";
import { LANGUAGES } from "../words/languages";
import { GRAVITIES } from "./gravity";
import {
  decideReply,
  fits,
  type KeptRule,
  nextInTurn,
  postAt,
  REPLY_DEEDS,
  REPLY_RULE,
  type ReviewFacts,
} from "./rules";
import { fillReply, unknownPlaces } from "./saved";
import { sayRule } from "./sayRule";

/** Rules for replying: which decides, when it posts, and what it says. */

const BRANCHES = ["0198a000-0000-7000-8000-000000000001", "0198a000-0000-7000-8000-000000000002"];
const TUESDAY = Date.UTC(2026, 10, 24, 14, 5);

const rule = fc
  .record({
    sites: fc.subarray(["Waypost", "Commons", "Tenfold"]),
    ratings: fc.subarray([1, 2, 3, 4, 5]),
    recommends: fc.subarray([true, false]),
    words: fc.constantFrom("either", "with", "without"),
    branchIds: fc.subarray(BRANCHES),
    languages: fc.subarray([...LANGUAGES]),
    deed: fc.constantFrom(...REPLY_DEEDS),
    agreedBy: fc.option(fc.constant("Maud")),
  })
  .map((parts) => REPLY_RULE.parse(parts));
const rules = fc
  .array(rule, { maxLength: 6 })
  .map((list): KeptRule[] => list.map((each, index) => ({ ...each, id: String(index) })));
const facts: fc.Arbitrary<ReviewFacts> = fc
  .record({
    site: fc.constantFrom("Waypost", "commons", "Tenfold", "Another"),
    isRecommend: fc.boolean(),
    rating: fc.integer({ min: 1, max: 5 }),
    hasWords: fc.boolean(),
    gravity: fc.option(fc.constantFrom(...GRAVITIES), { freq: 2 }),
    branchId: fc.constantFrom(...BRANCHES),
    language: fc.constantFrom(...LANGUAGES),
    isLanguageSure: fc.boolean(),
  })
  .map(({ isRecommend, rating, ...rest }) => ({
    ...rest,
    scale: isRecommend ? "recommend" : "five",
    value: isRecommend ? Number(rating > 3) : rating,
    rating: isRecommend ? (rating > 3 ? 4 : 2) : rating,
  }));

test("the first rule that fits decides; nothing grave is answered automatically, nobody unhappy unless somebody agreed, nobody in a language that is not told", () => {
  fc.assert(
    fc.property(rules, facts, (list, it) => {
      const decision = decideReply(list, it);
      const first = list.find((each) => fits(each, it));
      expect(decision?.rule).toBe(first);
      if (!decision || !first) return;
      if (it.gravity) {
        expect(decision.deed).toBe(first.deed === "nothing" ? "nothing" : "suggest");
        return;
      }
      const isUnhappy = it.rating <= UNHAPPY_UP_TO && first.agreedBy === null;
      const mayNot = first.deed === "post" && (isUnhappy || !it.isLanguageSure);
      expect(decision.isUnsure).toBe(mayNot && !isUnhappy);
      expect(decision.deed).toBe(mayNot ? "approve" : first.deed);
      expect(decision.heldBack).toBe(mayNot);
    }),
    { numRuns: runs(3000) },
  );
});

test.each<[string, Partial<KeptRule>, Partial<ReviewFacts>, boolean]>([
  ["any site", {}, { site: "Anything" }, true],
  ["a site in any letters", { sites: ["Waypost"] }, { site: "waypost" }, true],
  ["another site", { sites: ["Commons"] }, {}, false],
  ["recommended is no 5", { ratings: [5], recommends: [] }, { scale: "recommend", value: 1, rating: 4 }, false],
  ["recommended", { ratings: [], recommends: [true] }, { scale: "recommend", value: 1, rating: 4 }, true],
  ["not recommended", { ratings: [1, 2], recommends: [true] }, { scale: "recommend", value: 0, rating: 2 }, false],
  ["8.1 of 10", { ratings: [5] }, { scale: "ten", value: 8.1, rating: 5 }, true],
  ["without words", { words: "without" }, { hasWords: false }, true],
  ["with words where none are", { words: "with" }, { hasWords: false }, false],
  ["Spanish only", { languages: ["es"] }, {}, false],
])("fits: %s", (_name, part, it, expected) => {
  const base: ReviewFacts = {
    site: "Waypost",
    scale: "five",
    value: 5,
    rating: 5,
    hasWords: true,
    branchId: BRANCHES[0],
    language: "en",
    isLanguageSure: true,
    gravity: null,
  };
  expect(fits({ ...REPLY_RULE.parse({ ratings: [5] }), ...part }, { ...base, ...it })).toBe(expected);
});

describe("when a reply is posted", () => {
  const week = weekOf([0, 1, 2, 3, 4], 9 * 60, 17 * 60);
  const zones = ["Europe/London", "America/New_York", "Asia/Kolkata"];

  test("after its hours, in those of the branch, and never more on a day than it may", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: 0, max: 400 * 24 * 60 }),
        fc.record({
          afterHours: fc.integer({ min: 0, max: 100 }),
          hours: fc.constantFrom("office" as const, "any" as const),
          mostPerDay: fc.integer({ min: 1, max: 3 }),
        }),
        fc.integer({ min: 1, max: 14 }),
        (zone, minutes, parts, count) => {
          const one = REPLY_RULE.parse({ deed: "post", ...parts });
          const calendar = { zone, hours: { text: week, email: week }, closedDays: new Set([20_790]) };
          const from = TUESDAY + minutes * 60_000;
          const posted: number[] = [];
          for (let n = 0; n < count; n++) {
            const at = postAt(one, from, calendar, posted);
            if (at === null) throw new Error("Nothing opened.");
            expect(at).toBeGreaterThanOrEqual(from + one.afterHours * HOUR);
            if (one.hours === "office") {
              const local = toLocal(zone, at);
              expect(weekday(dayNumber(local))).toBeLessThan(5);
              expect(dayNumber(local)).not.toBe(20_790);
              expect(timeOfDay(local)).toBeGreaterThanOrEqual(9 * HOUR);
              expect(timeOfDay(local)).toBeLessThan(17 * HOUR);
            }
            posted.push(at);
          }
          const days = posted.map((at) => dayNumber(toLocal(zone, at)));
          for (const day of days)
            expect(days.filter((each) => each === day).length).toBeLessThanOrEqual(one.mostPerDay);
        },
      ),
      { numRuns: runs(1000) },
    );
  });

  test("never where nothing opens", () => {
    const closed = weekOf([], 0, 0);
    const one = REPLY_RULE.parse({});
    expect(
      postAt(one, TUESDAY, { zone: zones[0], hours: { text: closed, email: closed }, closedDays: new Set() }, []),
    ).toBeNull();
  });

  test("at the very hour that was meant", () => {
    const calendar = { zone: zones[0], hours: { text: week, email: week }, closedDays: new Set<number>() };
    const one = REPLY_RULE.parse({ afterHours: 3, mostPerDay: 1 });
    // Tuesday at 14:05: three hours later it is closed, so Wednesday at 9:00; the next one on Thursday.
    expect(postAt(one, TUESDAY, calendar, [])).toBe(Date.UTC(2026, 10, 25, 9));
    expect(postAt(one, TUESDAY, calendar, [Date.UTC(2026, 10, 25, 11)])).toBe(Date.UTC(2026, 10, 26, 9));
    expect(postAt({ ...one, hours: "any" }, TUESDAY, calendar, [])).toBe(TUESDAY + 3 * HOUR);
    expect(postAt({ ...one, hours: "any" }, TUESDAY, calendar, [TUESDAY])).toBe(Date.UTC(2026, 10, 25));
    expect(DAY).toBe(24 * HOUR);
  });
});

test("saved replies take turns", () => {
  const list = [
    { id: "a", uses: 2 },
    { id: "b", uses: 1 },
    { id: "c", uses: 1 },
    { id: "d", uses: 0 },
  ];
  expect(nextInTurn(list, ["a", "b", "c", "gone"]).map(({ id }) => id)).toEqual(["b", "c", "a"]);
});

test("places of saved replies are filled, or give way", () => {
  const from = { author: "Odette M.", business: "Bramble Lane", branch: "Fenwick", signature: "Maud" };
  const words = "Hello {first name|there}, thank you from {business} in { branch }.\n\n{signature}";
  expect(fillReply(words, from)).toBe("Hello Odette, thank you from Bramble Lane in Fenwick.\n\nMaud");
  expect(fillReply(words, { ...from, author: "anonymous 12" })).toMatch(/^Hello there, /);
  expect(fillReply("Hello {first name}, thanks.", { ...from, author: "x" })).toBe("Hello, thanks.");
  expect(unknownPlaces("Hello {first name|you} {price} {branch}")).toEqual(["price"]);
  // Somebody who is called like a place stays a name.
  expect(fillReply("{first name}", { ...from, author: "{business}" })).toBe("");
});

test("a rule reads as a sentence", () => {
  const names = { branches: [{ id: BRANCHES[0], name: "Fenwick" }], saved: [{ id: "s", purpose: "Thanks" }] };
  expect(
    sayRule(
      REPLY_RULE.parse({ sites: ["Waypost", "Commons"], branchIds: [BRANCHES[0]], deed: "post", languages: ["en"] }),
      names,
    ),
  ).toBe(
    "When Waypost or Commons gets a rating of 4 or 5, or a recommendation, with or without a comment, at Fenwick, in English: write and post a reply, based on the review itself, three hours later, in the branch’s office hours, at most 10 a day.",
  );
  expect(
    sayRule(REPLY_RULE.parse({ ratings: [1, 2, 3, 4, 5], recommends: [true, false], deed: "nothing" }), names),
  ).toBe(
    "When any site gets any rating, with or without a comment, at every branch, in any language: leave it to your team.",
  );
});
