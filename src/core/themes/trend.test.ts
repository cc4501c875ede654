import fc from "fast-check";
import { runs, size } from "../../../tests/support/size";
import { readOwnThemes } from "./own";
import { chanceOfMore, noticedFrom, type Share, trendsOf } from "./trend";

const trendOf = (now: Share, before: Share) => trendsOf([{ now, before }])[0];

/** Whether something is named more than before, and what a business's own themes find. */

describe("the trend of a theme", () => {
  test.each([
    ["6 of 20 after 1 of 60", { named: 6, of: 20 }, { named: 1, of: 60 }, "rising"],
    ["none of 60 after 12 of 60", { named: 0, of: 60 }, { named: 12, of: 60 }, "falling"],
    ["as many as before", { named: 10, of: 50 }, { named: 30, of: 150 }, "steady"],
    ["a few more, as chance has it", { named: 6, of: 40 }, { named: 10, of: 100 }, "steady"],
    ["too few texts now", { named: 9, of: 9 }, { named: 1, of: 100 }, "cannot tell yet"],
    ["too few texts before", { named: 20, of: 40 }, { named: 0, of: 5 }, "cannot tell yet"],
    ["hardly named", { named: 3, of: 30 }, { named: 1, of: 300 }, "cannot tell yet"],
    ["nothing at all", { named: 0, of: 0 }, { named: 0, of: 0 }, "cannot tell yet"],
  ] as const)("%s", (_name, now, before, expected) => {
    expect(trendOf(now, before)).toBe(expected);
  });

  // The lady tasting tea: 4 of 4 by chance is 1 of 70, 3 or more 17 of 70.
  test.each([
    [4, 1 / 70],
    [3, 17 / 70],
    [0, 1],
  ])("is exact: %i of 4", (hits, chance) => {
    expect(chanceOfMore({ named: hits, of: 4 }, { named: 4 - hits, of: 4 })).toBeCloseTo(chance, 10);
  });

  /** Draws from 0 to 1, the same row of them each time. */
  function draws(seed: number): () => number {
    let state = seed;
    return () => {
      state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
      return state / 2_147_483_648;
    };
  }
  const drawn = (chance: () => number, of: number, share: number): Share => ({
    named: Array.from({ length: of }, chance).filter((at) => at < share).length,
    of,
  });

  test.each([
    [60, 180],
    [25, 70],
    [200, 600],
  ])("of twelve steady themes, not one is said to change in 19 of 20 months (%i texts after %i)", (of, earlier) => {
    const chance = draws(7);
    const SHARES = [0.4, 0.35, 0.3, 0.25, 0.2, 0.2, 0.15, 0.1, 0.1, 0.08, 0.05, 0.03];
    let alarmed = 0;
    const MONTHS = size(400, 3000);
    for (let month = 0; month < MONTHS; month++) {
      const trends = trendsOf(
        SHARES.map((share) => ({ now: drawn(chance, of, share), before: drawn(chance, earlier, share) })),
      );
      if (trends.some((trend) => trend === "rising" || trend === "falling")) alarmed += 1;
    }
    expect(alarmed / MONTHS).toBeLessThanOrEqual(0.05);
  });

  test("a rise as great as the page says is noticed four times out of five", () => {
    const chance = draws(11);
    const earlier = { named: 36, of: 180 };
    const percent = noticedFrom(60, earlier, 12) ?? 100;
    let found = 0;
    const RUNS = 400;
    for (let run = 0; run < RUNS; run++) {
      const others = Array.from({ length: 11 }, () => ({
        now: drawn(chance, 60, 0.1),
        before: drawn(chance, 180, 0.1),
      }));
      if (trendsOf([{ now: drawn(chance, 60, percent / 100), before: earlier }, ...others])[0] === "rising") found += 1;
    }
    expect(found / RUNS).toBeGreaterThan(0.74);
    expect(percent).toBeLessThan(55);
    // More texts tell a smaller rise; fewer than twenty tell none.
    expect(noticedFrom(300, { named: 180, of: 900 }, 12)).toBeLessThan(percent);
    expect(noticedFrom(12, earlier, 12)).toBeNull();
  });

  test("is a probability, whatever the numbers", () => {
    const share = fc.nat(300).chain((of) => fc.nat(of).map((named) => ({ named, of })));
    fc.assert(
      fc.property(share, share, (now, before) => {
        const p = chanceOfMore(now, before);
        expect(p).toBeGreaterThanOrEqual(0);
        expect(p).toBeLessThanOrEqual(1);
      }),
    );
  });
});

describe("themes of one's own", () => {
  const COFFEE = [
    { name: "Coffee", words: ["coffee", "café"] },
    { name: "Till", words: ["new till"] },
  ];
  test.each([
    ["The coffee was lovely, but we waited an hour.", "en", 3, ["Coffee happy"]],
    ["The coffee was awful.", "en", 5, ["Coffee unhappy"]],
    ["Two coffees on the house.", "en", 5, ["Coffee happy"]],
    ["They have a new till.", "en", 2, ["Till unhappy"]],
    ["Decoffeed rooms.", "en", 5, []],
    ["El café estaba muy bueno.", "es", 2, ["Coffee happy"]],
    ["Der Coffee war gut. Alles andere auch.", "de", 5, ["Coffee happy"]],
    ["", "en", 5, []],
  ])("%s", (text, language, rating, expected) => {
    const found = readOwnThemes(text, language, COFFEE, rating);
    expect(found.map(({ name, polarity }) => `${name} ${polarity}`)).toEqual(expected);
    for (const { from, to } of found) expect(text.slice(from, to).toLowerCase()).toMatch(/coffee|café|till/);
  });

  test("odd words are looked for as they stand, and none is none", () => {
    fc.assert(
      fc.property(fc.string(), fc.array(fc.string(), { maxLength: 5 }), (text, words) => {
        readOwnThemes(text, "en", [{ name: "x", words }], 3);
      }),
      { numRuns: runs(300) },
    );
    expect(readOwnThemes("a (b", "de", [{ name: "x", words: ["(b"] }], 5)).toHaveLength(1);
    expect(readOwnThemes("anything", "en", [{ name: "x", words: ["", " "] }], 5)).toEqual([]);
  });
});
