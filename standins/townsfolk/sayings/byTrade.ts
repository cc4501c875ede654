import type { Trade } from "../words";
import type { Sayings, SayingTheme } from "./sayings";

/**
 * What people in Merrow Bay say of their own trade in English: of a dog and its stitches, of a chimney and its soot. And
 * which of the sayings for all speak of things that only some trades have.
 */

type OfTrade = Partial<Sayings>;

export const BY_TRADE: Record<Trade, OfTrade> = {
  vets: {
    result: {
      happy: [
        "{it} is eating again",
        "the limp is gone",
        "the stitches healed in a week",
        "{it} can chew again since the dental",
        "no more scratching since the new drops",
      ],
      unhappy: [
        "the wound opened again the next day",
        "{it} is still limping",
        "the cough came back within a week",
        "the drops made no difference",
      ],
    },
    damage: {
      happy: ["not a hair was pulled at the nail clipping", "{it} came home in one piece, cone and all"],
      unhappy: ["they cut a nail down to the quick", "{it} came home with a sore ear", "they lost our cat carrier"],
    },
    cleanliness: {
      happy: ["the tables are wiped after each animal", "it does not smell of wet dog at all"],
      unhappy: ["there was fur on the scales", "the waiting room smelled of cats"],
    },
    thoroughness: {
      happy: ["{who} felt every joint", "they looked in {it}’s mouth, ears and eyes"],
      unhappy: ["{who} did not even weigh {it}", "nobody listened to the heart"],
    },
  },
  driving: {
    result: {
      happy: ["I passed first time", "parallel parking is no horror any more", "two minors and a pass"],
      unhappy: ["I failed on things we never practised", "thirty lessons and I still cannot reverse round a corner"],
    },
    damage: {
      happy: ["I brought the car back without a scratch, thanks to the second brake"],
      unhappy: ["I was blamed for a dent that was there before"],
    },
    cleanliness: {
      happy: ["the car is always clean"],
      unhappy: ["the car smelled of cigarettes", "crisps all over the seats"],
    },
    thoroughness: {
      happy: ["we practised each roundabout in town", "{who} has a plan for every lesson"],
      unhappy: ["{who} was on the phone half of the lesson", "we drove the same three streets each week"],
    },
  },
  piano: {
    result: {
      happy: ["it sings again", "each note speaks now", "it has held its pitch all winter"],
      unhappy: ["the treble was out again within a week", "two keys still stick"],
    },
    damage: {
      happy: ["they handled the old piano like an egg", "not a mark on the lid"],
      unhappy: ["there is a scratch on the lid", "a string snapped and was left at that"],
    },
    cleanliness: {
      happy: ["{who} even wiped the dust from the soundboard"],
      unhappy: ["{who} left felt and dust on the carpet"],
    },
    thoroughness: {
      happy: ["{who} went over each string twice", "{who} was not content until every key felt the same"],
      unhappy: ["{who} did the middle and left the rest"],
    },
  },
  stove: {
    result: {
      happy: ["the stove draws as it should", "no more smoke in the room", "it lights at the first match now"],
      unhappy: ["the room still fills with smoke", "the new seal leaks", "it draws worse than before"],
    },
    damage: {
      happy: ["they replaced the cracked tile without a word", "the hearth is as it was"],
      unhappy: ["a tile was cracked", "they chipped the mantelpiece", "there is a burn mark on the rug"],
    },
    cleanliness: {
      happy: ["no soot, no dust, nothing", "{who} laid sheets from the door to the hearth"],
      unhappy: ["soot all over the hearth", "black fingerprints up the wall"],
    },
    thoroughness: {
      happy: ["{who} looked up the flue with a camera", "{who} tested the draught before and after"],
      unhappy: ["{who} never looked up the flue", "the cowl was not even checked"],
    },
  },
  counter: {
    result: {
      happy: ["just what I wanted", "the flowers lasted two weeks", "I can read the small print again"],
      unhappy: ["the roses were brown by Sunday", "it is not what I ordered", "one side is longer than the other"],
    },
    damage: {
      happy: ["well wrapped, and nothing was crushed on the way"],
      unhappy: ["the vase came broken", "the box was crushed"],
    },
  },
  workshop: {
    result: {
      happy: ["it runs like new", "no more rattling", "the brakes bite again"],
      unhappy: ["the noise was back on the way home", "the chain came off on the first hill"],
    },
    damage: {
      happy: ["not a scratch on the paint"],
      unhappy: ["it came back with a dent", "there is oil on the seat"],
    },
    thoroughness: {
      happy: ["{who} went over it bolt by bolt", "they found a crack that two others had missed"],
      unhappy: ["a nut was only finger tight", "they did not test it"],
    },
  },
  "at home": {
    result: {
      happy: ["warm for the first time this winter", "no drip since", "the lock turns like silk"],
      unhappy: ["the tap still drips", "the new switch sparks", "the door does not close any more"],
    },
    damage: {
      happy: ["{who} was careful with the furniture", "the walls are as they were"],
      unhappy: ["{who} knocked a hole in the wall", "a tile was cracked", "{who} scratched the door"],
    },
    cleanliness: {
      happy: ["they took their shoes off at the door", "they hoovered before they left"],
      unhappy: ["{who} walked over the carpet in muddy boots", "filthy hands on my white sofa"],
    },
  },
  lessons: {
    result: {
      happy: ["she passed her grade with merit", "he practises without being told now"],
      unhappy: ["a year of lessons and not one whole piece", "he likes it less than when he began"],
    },
    thoroughness: {
      happy: ["{who} prepares each lesson for the child in front of her"],
      unhappy: ["{who} gives everybody the same three pieces"],
    },
  },
};

/** Words of sayings for all that speak of what only these trades have to do with. */
const ONLY: readonly [RegExp, readonly Trade[]][] = [
  [/tablets|shaking stopped|animal/, ["vets"]],
  [/\bstove\b|\bsoot\b|\bhearth\b/, ["stove"]],
  [/\blessons?\b|\binstructor\b/, ["driving", "lessons", "piano"]],
  [/\bold piano\b/, ["piano"]],
  [
    /\btiles?\b|muddy boots|shoes off|\bsofa\b|\bcurtain\b|hole in the wall|\bcarpet\b|dust sheets/,
    ["stove", "at home", "piano"],
  ],
  [/furniture|\bwalls?\b|rubbish was left|burn mark|\bscratched the door\b/, ["stove", "at home"]],
  [/\bworkshop\b|my car|on the paint/, ["workshop"]],
  [/\bparts?\b|\brepair\b|\bleaks?\b|makes a noise/, ["stove", "workshop", "at home", "piano"]],
  [/\bcoat\b|\bvase\b/, ["counter", "at home"]],
  [/\bglass\b/, ["stove", "at home", "counter"]],
  [
    /\bpram\b|\bwheelchair\b|\bcar park\b|\blift\b|first floor|drive right up|\btable was sticky\b|hairs on the chair|magazine/,
    ["vets", "counter", "workshop", "lessons"],
  ],
  [/call-out/, ["stove", "at home", "piano"]],
  [/mantelpiece|\bgate\b|\bchina\b|handle came off/, ["stove", "at home", "piano"]],
  [/muebles|sof[áa]|rayaron la puerta/, ["stove", "at home"]],
  [/jarr[óo]n/, ["counter", "at home"]],
  [/el coche|\bpieza\b|el arreglo/, ["workshop"]],
  [/rampa|aparcar|ascensor/, ["vets", "counter", "workshop", "lessons"]],
];

/** Trades that come to the customer: nobody speaks of the way to them. */
const COMES_ALONG: readonly Trade[] = ["stove", "at home", "driving", "piano"];

/** Whether somebody who has to do with this trade would say it of a theme. */
export const fitsTrade = (said: string, theme: SayingTheme, trade: Trade): boolean =>
  !(theme === "access" && COMES_ALONG.includes(trade) && !/\bopen\b|\bclose\b/.test(said)) &&
  ONLY.every(([words, trades]) => !words.test(said) || trades.includes(trade));

/** Where somebody waits or is met, by trade. */
export const PLACES: Record<Trade, readonly string[]> = {
  vets: ["front desk", "waiting room"],
  driving: ["office"],
  piano: ["office", "workshop"],
  stove: ["office", "shop"],
  counter: ["counter", "shop"],
  workshop: ["front desk", "workshop"],
  "at home": ["office"],
  lessons: ["front desk", "waiting room"],
};

/** What is said of a theme in a trade, beside what is said in all. */
export const sayingsOf = (trade: Trade, theme: SayingTheme, mood: "happy" | "unhappy"): readonly string[] =>
  BY_TRADE[trade][theme]?.[mood] ?? [];
