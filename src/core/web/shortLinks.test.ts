import fc from "fast-check";
import { longPath, shortPath } from "./shortLinks";

const token = (length: number) =>
  fc
    .array(fc.constantFrom(..."23456789bcdfghjkmnpqrstvwxyzBCDFGHJKLMNPQRSTVWXYZ"), {
      minLength: length,
      maxLength: length,
    })
    .map((letters) => letters.join(""));

test("a short path leads to the message or the standing link that it was made of, and nothing else leads anywhere", () => {
  fc.assert(
    fc.property(token(14), token(12), fc.integer({ min: 0, max: 11 }), (ask, standing, message) => {
      expect(longPath(shortPath(ask, message))).toBe(`/a/${ask}.${message}`);
      expect(longPath(shortPath(standing, null))).toBe(`/s/${standing}`);
    }),
  );
  fc.assert(
    fc.property(fc.string(), (path) => {
      if (longPath(path) !== null) expect(path).toMatch(/^\/[0-9A-Za-z]{12,16}$/);
    }),
  );
});

test("with a host of twelve letters a link has 28 at most", () => {
  expect(`abcdefgh.exa${shortPath("23456789bcdfgh", 9)}`).toHaveLength(28);
});
