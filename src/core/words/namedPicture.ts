import { z } from "zod";
import { greetingName } from "../contacts/name";
import { plainName } from "../web/address";
import type { WordingFacts } from "./compose";
import { fillIn } from "./placeholders";

/** A picture with the customer's first name written into it: what it says, and where its words stand. */

/** In pixels, drawn for screens with twice as many dots. */
export const PICTURE = { width: 960, height: 540 };

/** The backgrounds that ship with Estima, by what they show. */
export const BACKGROUNDS = ["hills", "leaves", "waves", "bunting", "window", "stones"] as const;
export type Background = (typeof BACKGROUNDS)[number];

export const pictureDesign = z.object({
  background: z.enum(BACKGROUNDS, "Choose a background."),
  /** A photo of the business's own in place of the background; null for none. */
  photo: z.uuid().nullable(),
  /** The middle of the words, in percent of the width and the height. */
  x: z.number().min(0, "Keep it inside the picture.").max(100, "Keep it inside the picture."),
  y: z.number().min(0, "Keep it inside the picture.").max(100, "Keep it inside the picture."),
  /** The height of the letters, in percent of the picture's. */
  size: z.number().min(4, "At least 4.").max(30, "At most 30."),
  /** Degrees, clockwise. */
  angle: z.number().min(-45, "At least −45 degrees.").max(45, "At most 45 degrees."),
  colour: z.string().regex(/^#[0-9A-Fa-f]{6}$/, "Choose a colour."),
});
export type PictureDesign = z.infer<typeof pictureDesign>;

/** A design to begin with. */
export const PLAIN_PICTURE: PictureDesign = {
  background: "hills",
  photo: null,
  x: 50,
  y: 32,
  size: 14,
  angle: 0,
  colour: "#221A2C",
};

/** Characters that every typeface that ships with Estima can draw: a test compares them with the fonts themselves. */
const DRAWABLE =
  /^[\u0020-\u007E\u00A1-\u00A3\u00A5-\u00AC\u00AE-\u0107\u010A-\u0113\u0116-\u011B\u011E-\u0123\u0126-\u012B\u012E-\u0131\u0136\u0137\u0139-\u013E\u0141-\u0148\u014A-\u014D\u0150-\u015B\u015E-\u0161\u0164\u0165\u0168-\u017E\u0218-\u021B\u2013\u2014\u2018-\u201A\u201C-\u201E\u2026]*$/;

/** Whether words can be drawn: in letters that the fonts have, from left to right. */
export const isDrawable = (words: string): boolean => DRAWABLE.test(words.normalize("NFC"));

/**
 * What stands in the picture for somebody; without their name where it is missing, hidden in an address, or written in
 * letters that cannot be drawn. Without a name there may be nothing to write: "".
 */
export function pictureWords(template: string, facts: Pick<WordingFacts, "person" | "business" | "branch">): string {
  const name = plainName(greetingName(facts.person.given, facts.person.family))?.normalize("NFC") ?? null;
  const drawable = (words: string | null) => (words !== null && isDrawable(words) ? words : null);
  const { text } = fillIn(template, {
    "first name": drawable(name),
    business: drawable(facts.business.normalize("NFC")),
    branch: drawable(facts.branch.normalize("NFC")),
  });
  const words = text.replace(/\s+/g, " ").trim().normalize("NFC");
  return [...words].filter(isDrawable).join("").slice(0, LONGEST_WORDS).trim();
}

/** As many characters as are ever drawn. */
export const LONGEST_WORDS = 160;

export type PlacedWords = {
  lines: string[];
  /** Pixels: the height of the letters, and of each line. */
  size: number;
  lineHeight: number;
  /** Pixels: the middle of the words, and the box around them before they are turned. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** Degrees, clockwise. */
  angle: number;
};

/** Left free along each edge, in pixels. */
const MARGIN = 18;
/** Lines at most, however the words are turned. */
const MOST_LINES = 6;
/** The lowest the letters become, in pixels: a single word too long even for that is broken. */
const SMALLEST = 10;

/**
 * Where words stand: as large as the design has them, or as large as they fit broken into lines, with as few of these as
 * that needs; and moved until nothing of them is outside.
 */
export function placeWords(words: string, design: PictureDesign): PlacedWords {
  let size = Math.max(SMALLEST, (design.size / 100) * PICTURE.height);
  let placed = placedAt(words, size, design);
  while (!placed && size > SMALLEST) {
    size = Math.max(SMALLEST, size * 0.96);
    placed = placedAt(words, size, design);
  }
  // Some hundred letters without a space.
  placed ??= placedAt(words, SMALLEST, design, true) ?? inLines([words], SMALLEST, design);
  const { across, down } = turnedBox(placed);
  return {
    ...placed,
    x: within(placed.x, across / 2 + MARGIN, PICTURE.width - across / 2 - MARGIN),
    y: within(placed.y, down / 2 + MARGIN, PICTURE.height - down / 2 - MARGIN),
  };
}

/** The words at a size in as few lines as fit; null where none do. */
function placedAt(words: string, size: number, design: PictureDesign, breaksWords = false): PlacedWords | null {
  for (let count = 1; count <= MOST_LINES; count++) {
    const lines = brokenInto(words, count, breaksWords);
    const placed = lines && inLines(lines, size, design);
    if (placed && fits(placed)) return placed;
  }
  return null;
}

function inLines(lines: string[], size: number, design: PictureDesign): PlacedWords {
  const lineHeight = size * 1.25;
  return {
    lines,
    size,
    lineHeight,
    x: (design.x / 100) * PICTURE.width,
    y: (design.y / 100) * PICTURE.height,
    width: Math.max(...lines.map((line) => widthOf(line) * size), size),
    height: lines.length * lineHeight,
    angle: design.angle,
  };
}

const fits = (placed: PlacedWords): boolean => {
  const { across, down } = turnedBox(placed);
  return across <= PICTURE.width - 2 * MARGIN && down <= PICTURE.height - 2 * MARGIN;
};

/** The upright box around words that are turned, in pixels. */
export function turnedBox({ width, height, angle }: Pick<PlacedWords, "width" | "height" | "angle">) {
  const turn = (Math.abs(angle) * Math.PI) / 180;
  return {
    across: width * Math.cos(turn) + height * Math.sin(turn),
    down: width * Math.sin(turn) + height * Math.cos(turn),
  };
}

const within = (value: number, least: number, most: number) =>
  most < least ? (least + most) / 2 : Math.min(most, Math.max(least, value));

/** Words in so many lines of about the same length, broken at spaces (or, `breaksWords`, anywhere); null where there are fewer parts. */
function brokenInto(words: string, count: number, breaksWords: boolean): string[] | null {
  const parts = breaksWords ? [...words] : words.split(" ");
  if (parts.length < count) return null;
  const between = breaksWords ? "" : " ";
  const longest = Math.max(...parts.map(widthOf));
  // The shortest line length at which it is that many lines, found by growing it.
  for (let most = Math.max(longest, widthOf(words) / count); ; most *= 1.04) {
    const lines: string[] = [];
    for (const part of parts) {
      const last = lines.at(-1);
      if (last !== undefined && widthOf(`${last}${between}${part}`) <= most)
        lines[lines.length - 1] = `${last}${between}${part}`;
      else lines.push(part);
    }
    if (lines.length <= count) return lines;
  }
}

const NARROW = /[iljtfrI.,:;'’‘!|()[\]{}\- ıìíîïĩīĭįİĺļľłţťŧŕŗř¡­·]/u;
const WIDE = /[mwMWŴŵ@%&æœÆŒ—…¼½¾ĲĳQOØGDNHĦUÐĐ©®ď#£]/u;

/** At most how wide a line is, in heights of a letter: the bold cut of each typeface that ships is narrower. */
export function widthOf(line: string): number {
  let width = 0;
  for (const letter of line.normalize("NFC")) {
    if (NARROW.test(letter)) width += 0.48;
    else if (WIDE.test(letter)) width += 1.09;
    else width += letter === letter.toLowerCase() ? 0.68 : 0.8;
  }
  return width;
}

/** Which messages carry the picture, by the keys of their steps. */
export function carriesPicture(
  picture: { emails: readonly string[]; texts: readonly string[] } | null | undefined,
  stepKey: string,
  channel: "text" | "email",
): boolean {
  return (picture?.[channel === "text" ? "texts" : "emails"] ?? []).includes(stepKey);
}

/** As many parts of a text as one with a picture counts for in an allowance: at least its price, at least one. */
export function mediaParts(mediaPrice: number, partPrice: number): number {
  return Math.max(1, Math.ceil(mediaPrice / Math.max(1, partPrice)));
}
