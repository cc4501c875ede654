import { chanceFor, pick } from "./chance";
import { ENGLISH } from "./sayings/english";

/** What people wrote at a site in the two years before anybody looked: the same for a seed and a place. */

const DAY = 86_400_000;
const NAMES = ["Ines", "Rafi", "Maren", "Tove", "Lio", "Petra", "Anselm", "Noor", "Bea", "Karim", "Wyn", "Sunniva"];

export type Past = {
  author: string;
  isHappy: boolean /** 0 to 1: how much so. */;
  much: number;
  words: string;
  at: number;
};

/** So many of them, the eldest first; `now` in milliseconds since the epoch. */
export function pastOf(seed: number, name: string, count: number, now: number): Past[] {
  const chance = chanceFor(seed, name);
  return Array.from({ length: count }, (_, index) => {
    const isHappy = chance() < 0.82;
    const said = pick(Object.values(ENGLISH), chance)[isHappy ? "happy" : "unhappy"];
    const words = chance() < 0.25 ? "" : `${plainly(pick(said, chance))}.`;
    return {
      author: `${pick(NAMES, chance)} ${String.fromCharCode(65 + Math.floor(chance() * 20))}.`,
      isHappy,
      much: chance(),
      words,
      at: now - Math.floor(((count - index) / count) * 700 * DAY) - Math.floor(chance() * DAY),
    };
  });
}

/** A saying with its blanks filled by plain words, and a capital. */
function plainly(saying: string): string {
  const fills: Record<string, string> = { minutes: "40", few: "five", amount: "60", who: "the man", place: "the yard" };
  const words = saying.replace(/\{(\w+)\}/g, (_, name: string) => fills[name] ?? "it");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
