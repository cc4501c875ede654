import fc from "fast-check";
import { contrast, inkOn, nearestReadable, READABLE } from "./contrast";

const colour = fc
  .tuple(fc.nat(255), fc.nat(255), fc.nat(255))
  .map((parts) => `#${parts.map((part) => part.toString(16).padStart(2, "0")).join("")}`);

test("black on white has the most, a colour on itself the least", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  fc.assert(fc.property(colour, (one) => expect(contrast(one, one)).toBeCloseTo(1, 10)));
  // A published example: #777777 on white is just short of 4.5.
  expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
});

test("whichever way round, it is the same; and some ink is readable on every colour", () => {
  fc.assert(
    fc.property(colour, colour, (one, other) => {
      expect(contrast(one, other)).toBeCloseTo(contrast(other, one), 10);
      expect(contrast(one, inkOn(one))).toBeGreaterThanOrEqual(4.5);
    }),
  );
});

test("the nearest readable colour is readable, is the colour itself where that is, and no darker than it takes", () => {
  fc.assert(
    fc.property(colour, (one) => {
      const found = nearestReadable(one);
      expect(contrast(found, "#ffffff")).toBeGreaterThanOrEqual(READABLE);
      if (contrast(one, "#ffffff") >= READABLE) expect(found).toBe(one);
      // A little lighter would not do: eight shades are well seen as one.
      else expect(contrast(found, "#ffffff")).toBeLessThan(READABLE + 0.5);
      expect(contrast(nearestReadable(one, "#221a2c"), "#221a2c")).toBeGreaterThanOrEqual(READABLE);
    }),
  );
});
