/** How well colours stand out from one another (WCAG 2.2, relative luminance). Colours are "#rrggbb". */

function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5]
    .map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255)
    .map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** From 1 (the same) to 21 (black on white). */
export function contrast(one: string, other: string): number {
  const [dark, light] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (light + 0.05) / (dark + 0.05);
}

/** White or near black, whichever is read better on a colour; always at 4.5 or more. */
export function inkOn(colour: string): "#ffffff" | "#000000" {
  return contrast(colour, "#ffffff") >= contrast(colour, "#000000") ? "#ffffff" : "#000000";
}

/** What is asked of words on a colour (WCAG 2.2, level AA). */
export const READABLE = 4.5;

const mix = (colour: string, to: string, share: number): string =>
  `#${[1, 3, 5]
    .map((at) => {
      const [from, end] = [colour, to].map((each) => Number.parseInt(each.slice(at, at + 2), 16));
      return Math.round(from + (end - from) * share)
        .toString(16)
        .padStart(2, "0");
    })
    .join("")}`;

/**
 * The colour itself where it is read well enough beside `ground`, else the nearest that is: mixed with as little black
 * as it takes, or with white on a dark ground.
 */
export function nearestReadable(colour: string, ground = "#ffffff", least = READABLE): string {
  if (contrast(colour, ground) >= least) return colour.toLowerCase();
  const end = contrast("#000000", ground) >= contrast("#ffffff", ground) ? "#000000" : "#ffffff";
  for (let step = 1; step < 256; step++) {
    const mixed = mix(colour, end, step / 256);
    if (contrast(mixed, ground) >= least) return mixed;
  }
  return end;
}
