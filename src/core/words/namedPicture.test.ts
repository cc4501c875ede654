import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import * as fontkit from "fontkit";
import { runs } from "../../../tests/support/size";
import {
  BACKGROUNDS,
  isDrawable,
  LONGEST_WORDS,
  mediaParts,
  PICTURE,
  type PictureDesign,
  pictureWords,
  placeWords,
  turnedBox,
  widthOf,
} from "./namedPicture";

const FONTS = ["hanken-grotesk", "bricolage-grotesque", "newsreader"];
const file = (name: string, part: string) =>
  fontkit.create(
    readFileSync(join(process.cwd(), `node_modules/@fontsource/${name}/files/${name}-${part}-600-normal.woff`)),
  ) as fontkit.Font;
const cuts = FONTS.map((name) => [file(name, "latin"), file(name, "latin-ext")]);

/** The advance of a letter in a typeface, in heights of a letter; null where it has no such letter. */
function advance(fonts: fontkit.Font[], letter: string): number | null {
  const code = letter.codePointAt(0) ?? 0;
  const font = fonts.find((each) => each.hasGlyphForCodePoint(code));
  return font ? font.glyphForCodePoint(code).advanceWidth / font.unitsPerEm : null;
}

const DRAWABLE = Array.from({ length: 0x2100 }, (_, code) => String.fromCodePoint(code + 0x20)).filter(
  (letter) => letter === letter.normalize("NFC") && isDrawable(letter),
);

const design: fc.Arbitrary<PictureDesign> = fc.record({
  background: fc.constantFrom(...BACKGROUNDS),
  photo: fc.constant(null),
  x: fc.double({ min: 0, max: 100, noNaN: true }),
  y: fc.double({ min: 0, max: 100, noNaN: true }),
  size: fc.double({ min: 4, max: 30, noNaN: true }),
  angle: fc.double({ min: -45, max: 45, noNaN: true }),
  colour: fc.constant("#221A2C"),
});
const words = fc
  .array(fc.array(fc.constantFrom(...DRAWABLE), { minLength: 1, maxLength: 40 }), { minLength: 1, maxLength: 6 })
  .map((each) =>
    each
      .map((letters) => letters.join(""))
      .join(" ")
      .replace(/\s+/g, " ")
      .trim()
      .slice(0, LONGEST_WORDS),
  )
  .filter((each) => each.trim() !== "");

test("each typeface has every letter that counts as drawable, and none is wider than is reckoned with", () => {
  expect(DRAWABLE.length).toBeGreaterThan(300);
  for (const fonts of cuts)
    for (const letter of DRAWABLE) {
      const real = advance(fonts, letter);
      expect([letter, real === null]).toEqual([letter, false]);
      expect([letter, (real ?? 0) <= widthOf(letter) + 1e-9]).toEqual([letter, true]);
    }
});

test("whatever the words and wherever they are put, all of them stand inside the picture", () => {
  fc.assert(
    fc.property(words, design, (said, how) => {
      const placed = placeWords(said, how);
      const { across, down } = turnedBox(placed);
      expect(placed.lines.join(" ")).toBe(said);
      expect(placed.x - across / 2).toBeGreaterThanOrEqual(0);
      expect(placed.x + across / 2).toBeLessThanOrEqual(PICTURE.width);
      expect(placed.y - down / 2).toBeGreaterThanOrEqual(0);
      expect(placed.y + down / 2).toBeLessThanOrEqual(PICTURE.height);
      for (const line of placed.lines) expect(widthOf(line) * placed.size).toBeLessThanOrEqual(placed.width + 1e-6);
    }),
    { numRuns: runs(400) },
  );
});

test.each([0, 20, 40, 45, -45])(
  "long words at %i degrees break into lines that can be read, and stand inside",
  (angle) => {
    for (const letters of [60, 115, 130, LONGEST_WORDS]) {
      const said = "Thank you for coming all the way to Merrow Bay with Biscuit and with Odette "
        .repeat(3)
        .slice(0, letters)
        .trim();
      for (const size of [4, 14, 30]) {
        const design = { background: "hills", photo: null, x: 90, y: 90, size, angle, colour: "#221A2C" } as const;
        const placed = placeWords(said, design);
        const { across, down } = turnedBox(placed);
        expect(placed.lines.join(" ")).toBe(said);
        expect([across <= PICTURE.width, down <= PICTURE.height]).toEqual([true, true]);
        // Where they are wanted small they are; else they never become hard to read.
        expect(placed.size).toBeGreaterThanOrEqual(Math.min(20, (size / 100) * PICTURE.height));
      }
      // Without a space to break at, they are broken all the same.
      const { across, down } = turnedBox(placeWords("W".repeat(letters), { ...PLAIN, angle }));
      expect([across <= PICTURE.width, down <= PICTURE.height]).toEqual([true, true]);
    }
  },
);

const PLAIN: PictureDesign = { background: "hills", photo: null, x: 50, y: 32, size: 14, angle: 0, colour: "#221A2C" };

const facts = (given: string) => ({
  person: { given, family: "Marsh" },
  business: "Bramble Lane Vets",
  branch: "Fenwick",
});

test.each([
  ["Odette", "Thank you, Odette!"],
  ["Łucja", "Thank you, Łucja!"],
  ["Wilhelmina-Bartholomea", "Thank you, Wilhelmina-Bartholomea!"],
  ["José", "Thank you, José!"],
  ["", "Thank you!"],
  ["Юлия", "Thank you!"],
  ["明", "Thank you!"],
  ["مريم", "Thank you!"],
  ["שרה", "Thank you!"],
  ["Odette‮", "Thank you, Odette!"],
  ["😀", "Thank you!"],
  ["https://elsewhere.example", "Thank you!"],
])("a picture for %p says %p", (given, says) => {
  expect(pictureWords("Thank you, {first name|}!", facts(given))).toBe(says);
});

test("whatever somebody is called, what is drawn can be drawn, without a brace or a doubled space", () => {
  const templates = [
    "Thank you, {first name|}!",
    "{first name|Dear guest}, see you soon at {business}",
    "{first name}",
  ];
  fc.assert(
    fc.property(fc.string({ unit: "grapheme", maxLength: 60 }), fc.constantFrom(...templates), (given, template) => {
      const said = pictureWords(template, facts(given.replace(/[{}]/g, "")));
      expect(isDrawable(said)).toBe(true);
      expect(said).not.toMatch(/[{}]| {2}/);
      expect(said.length).toBeLessThanOrEqual(LONGEST_WORDS);
    }),
  );
});

test("a picture counts for as many parts of texts as it costs", () => {
  expect([mediaParts(120, 40), mediaParts(121, 40), mediaParts(0, 40), mediaParts(120, 0)]).toEqual([3, 4, 1, 120]);
});
