import { chanceFor, pickByShare } from "./chance";
import type { Spoken } from "./sayings/compose";
import { say, type Trade, writeBack } from "./words";

/** What one townsperson will do about one message: decided at once from the seed, done when its time comes. */

export type Heard = {
  seed: number;
  channel: "text" | "email";
  address: string;
  link: string;
  at: number;
  trade: Trade;
  it: string | null;
};

export type Act = { at: number } & (
  | { kind: "open" }
  | { kind: "stop" }
  | { kind: "unsubscribe" }
  | { kind: "write back"; words: string }
  | { kind: "answer"; rating: number; words: string | null; review: string | null; looksAtSite: boolean }
);

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

const RATINGS: [number, number][] = [
  [5, 0.6],
  [4, 0.21],
  [3, 0.09],
  [2, 0.06],
  [1, 0.04],
];

/** People read within minutes or hours, and sleep at night. */
function moment(at: number, chance: () => number): number {
  const delay = 2 * MINUTE + chance() ** 3 * 9 * HOUR;
  const then = at + delay;
  const hour = new Date(then).getUTCHours();
  return hour >= 22 || hour < 7 ? then + 9 * HOUR : then;
}

const LANGUAGES: [Spoken, number][] = [
  ["en", 0.92],
  ["es", 0.03],
  ["fr", 0.015],
  ["de", 0.015],
  ["pt", 0.01],
  ["pl", 0.01],
];

/** The language that somebody writes in: most of Merrow Bay English. */
function speaks(seed: number, address: string): Spoken {
  return pickByShare(LANGUAGES, ([, share]) => share, chanceFor(seed, `language of ${address}`))[0];
}

/** Decides what this person does. The same message gives the same deeds. */
export function decide(heard: Heard): Act[] {
  // By person and minute, not by link: links are new at every seeding, and the town should not be another one each
  // time.
  const chance = chanceFor(heard.seed, `${heard.address} ${Math.floor(heard.at / MINUTE)}`);
  const acts: Act[] = [];
  const at = Math.round(moment(heard.at, chance));
  const mood = chance();
  if (mood < 0.012) {
    acts.push(heard.channel === "text" ? { kind: "stop", at } : { kind: "unsubscribe", at });
    return acts;
  }
  if (heard.channel === "email" && chance() < 0.55) acts.push({ kind: "open", at: at - MINUTE });
  if (mood < 0.024) {
    acts.push({ kind: "write back", at, words: writeBack(heard.trade, heard.it, chance) });
    return acts;
  }
  if (mood > (heard.channel === "text" ? 0.43 : 0.27)) return acts;
  const language = speaks(heard.seed, heard.address);
  const [rating] = pickByShare(RATINGS, ([, share]) => share, chance);
  const unhappy = rating <= 3;
  const goesPublic = chance() < (unhappy ? 0.12 : 0.5);
  const words = unhappy
    ? chance() < 0.78
      ? say(heard.trade, rating, heard.it, chance, language)
      : null
    : chance() < 0.07
      ? say(heard.trade, rating, heard.it, chance, language)
      : null;
  const review = goesPublic && chance() < 0.62 ? say(heard.trade, rating, heard.it, chance, language) : null;
  acts.push({ kind: "answer", at, rating, words, review, looksAtSite: goesPublic });
  return acts;
}
