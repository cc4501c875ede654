import fc from "fast-check";
import { tallyThemes } from "./tally";
import { THEMES } from "./themes";

test("each text counts once for a theme, as unhappy where it is so at all", () => {
  expect(
    tallyThemes([
      [
        { theme: "waiting", polarity: "happy" },
        { theme: "waiting", polarity: "unhappy" },
        { theme: "price", polarity: "happy" },
      ],
      [{ theme: "waiting", polarity: "happy" }],
      [],
    ]),
  ).toEqual([
    { theme: "waiting", texts: 2, unhappy: 1 },
    { theme: "price", texts: 1, unhappy: 0 },
  ]);
});

test("no theme is named by more texts than there are, nor more unhappily than it is named", () => {
  const named = fc.array(
    fc.record({ theme: fc.constantFrom(...THEMES), polarity: fc.constantFrom("happy" as const, "unhappy" as const) }),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(fc.array(named, { maxLength: 30 }), (texts) => {
      const tallies = tallyThemes(texts);
      for (const { theme, texts: count, unhappy } of tallies) {
        expect(count).toBe(texts.filter((one) => one.some((each) => each.theme === theme)).length);
        expect(unhappy).toBeLessThanOrEqual(count);
      }
      expect(tallies.map(({ texts }) => texts)).toEqual([...tallies.map(({ texts }) => texts)].sort((a, b) => b - a));
    }),
  );
});
