import type { Found } from "./reading";
import { THEMES, type Theme } from "./themes";

/** How often texts name a theme, and how many of these are unhappy with it. A text that says both counts as unhappy. */
export type Tally = { theme: Theme; texts: number; unhappy: number };

/** What is named in these texts, the most often named first; what nobody names is left out. */
export function tallyThemes(texts: readonly (readonly Pick<Found, "theme" | "polarity">[])[]): Tally[] {
  const sums = new Map<Theme, Tally>();
  for (const named of texts) {
    const once = new Map<Theme, boolean>();
    for (const { theme, polarity } of named) once.set(theme, once.get(theme) || polarity === "unhappy");
    for (const [theme, isUnhappy] of once) {
      const sum = sums.get(theme) ?? { theme, texts: 0, unhappy: 0 };
      sums.set(theme, { theme, texts: sum.texts + 1, unhappy: sum.unhappy + (isUnhappy ? 1 : 0) });
    }
  }
  return [...sums.values()].sort(
    (a, b) => b.texts - a.texts || b.unhappy - a.unhappy || THEMES.indexOf(a.theme) - THEMES.indexOf(b.theme),
  );
}
