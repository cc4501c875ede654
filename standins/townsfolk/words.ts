import { pick } from "./chance";
import { compose, type Spoken } from "./sayings/compose";

/** What people in Merrow Bay say. `{it}` is whom or what the visit was about. */

export const TRADES = ["vets", "driving", "piano", "stove", "counter", "workshop", "at home", "lessons"] as const;
export type Trade = (typeof TRADES)[number];

type Bank = { good: string[]; warm: string[]; bad: string[]; sore: string[] };

const BANKS: Record<Trade, Bank> = {
  vets: {
    good: [
      "{it} was seen on time and came home wagging.",
      "The vet took ten minutes to explain every step, and {it} hardly noticed the needle.",
      "They rang the next morning to ask how {it} was doing.",
      "The nurses got down on the floor with {it} until the shaking stopped.",
      "Clear about what it would cost before anything was done.",
      "{it} is an old grump and they were patient all the same.",
      "We were fitted in the same afternoon, and {it} is eating again.",
    ],
    warm: [
      "I would not take {it} anywhere else.",
      "Kind people who know their work.",
      "Worth the drive from the far side of town.",
      "A calm place, even on a full morning.",
      "Thank you all.",
    ],
    bad: [
      "We waited fifty minutes past our slot and nobody told us why. {it} was shaking by the end.",
      "The bill was double the estimate and nobody had rung to ask.",
      "I rang four times about {it}'s results before anyone called back.",
      "The waiting room was so full that {it} and a large dog ended up nose to nose.",
      "I felt hurried out. I still do not know what the tablets are for.",
      "The desk had no note of our booking, and we were sent home and called back.",
    ],
    sore: [
      "The vet herself was kind, so it hurts to write this.",
      "It was not like this two years ago.",
      "I only want somebody to tell me what happened.",
      "Lovely staff, but this has to be better.",
    ],
  },
  driving: {
    good: [
      "Passed first time, and the mock tests were harder than the real one.",
      "My instructor never once raised his voice, even on the ring road.",
      "Lessons started on the minute and the app of excuses stayed shut.",
      "I was terrified of roundabouts. I am not any more.",
    ],
    warm: ["Patient and funny.", "I told all my friends at school.", "Thank you for not giving up on me."],
    bad: [
      "Three lessons were moved the night before.",
      "Half the hour went on picking up somebody else.",
      "I was told off in front of another learner.",
    ],
    sore: ["I paid for ten and would like to talk about the rest.", "The car was good, at least."],
  },
  piano: {
    good: [
      "The old upright sings again.",
      "He found the buzz that two others had missed.",
      "On time, careful with the floor, and the tuning has held for months.",
    ],
    warm: ["A pleasure to listen to him work.", "Fair price for good hands."],
    bad: ["The top octave drifted within a week.", "Nobody came and nobody called."],
    sore: ["I would like it looked at again."],
  },
  stove: {
    good: [
      "Not a speck of soot on the carpet.",
      "Explained what the cracked brick meant and what could wait.",
      "Came when he said, swept both flues and showed me the photos.",
    ],
    warm: ["We burn better wood now, too.", "Will have them back next autumn."],
    bad: ["There was soot on the cream sofa.", "The morning slot turned into half past four."],
    sore: ["The work itself was sound."],
  },
  counter: {
    good: [
      "Nobody hurried me, and the first pair was the right one.",
      "Measured twice, explained once, ready the day they said.",
      "They told me I did not need the dear one.",
      "Put right on the spot what another place wanted a week for.",
    ],
    warm: ["A pleasure to walk into.", "I have sent my sister there.", "Honest people."],
    bad: [
      "It was ready on the third promise, not the first.",
      "I was served by three people, and told the story three times.",
      "What I paid was not what I had been told.",
    ],
    sore: ["I do like the place.", "A word beforehand would have been enough."],
  },
  workshop: {
    good: [
      "You cannot see where it was mended.",
      "They sent a picture of every step.",
      "Runs better than on the day I bought it.",
      "Finished a day early, and swept up after.",
    ],
    warm: ["Proper hands.", "I will not take it anywhere else.", "Worth the wait."],
    bad: [
      "It came back with the same rattle it went in with.",
      "Two months instead of three weeks, and I had to ring each time.",
      "There is a new scratch that nobody wants to know of.",
    ],
    sore: ["The work is good, the waiting is not.", "I would have them look again."],
  },
  "at home": {
    good: [
      "Came when he said, and left it cleaner than he found it.",
      "Showed me what had gone wrong before touching anything.",
      "Half an hour from the call to the door being open.",
      "Not a leaf left on the lawn.",
    ],
    warm: ["Calm and quick.", "Kept the number on the fridge.", "Fair price, no fuss."],
    bad: [
      "Between eight and twelve turned into ten past five.",
      "The price on the phone had nothing to do with the bill.",
      "They left the gate open and the hedge half done.",
    ],
    sore: ["Nice lad, though.", "I want it finished, that is all."],
  },
  lessons: {
    good: [
      "She practises without being asked now.",
      "Took me back to the beginning without making me feel it.",
      "The end-of-term concert had us all in tears.",
    ],
    warm: ["Patient beyond belief.", "The best hour of my week."],
    bad: ["Four lessons moved in one term.", "We were not told that the teacher had left."],
    sore: ["He still likes going, so we stay for now."],
  },
};

/** What they write back to somebody who asked them how it was: thanks, or something that wants an answer. */
const WRITE_BACKS: Partial<Record<Trade, readonly string[]>> = {
  vets: [
    "Thank you, all well here. See you at the next visit.",
    "Could {it} have the same tablets again? We have three left.",
    "All fine, thanks. Do you do claws without an appointment?",
    "Is it normal that {it} sleeps so much the day after?",
    "Thanks. Can we move Friday to the week after?",
  ],
  driving: [
    "Thanks, it was good. Is Thursday at four still free?",
    "Can I have two hours next time, before the test?",
    "All good. Who do I pay for the next ten?",
  ],
  piano: ["Lovely, thank you. When should you come again?", "One key sticks a little, is that normal at first?"],
  stove: [
    "All fine. Do I need a certificate for the landlord?",
    "Thanks. It smells a bit when I light it, is that all right?",
  ],
};

/** What somebody writes back, by text or email. */
export function writeBack(trade: Trade, it: string | null, chance: () => number): string {
  const words = pick(
    WRITE_BACKS[trade] ?? ["Thank you, all well here.", "Could somebody ring me about the bill?"],
    chance,
  );
  return words.replaceAll("{it}", it ?? "our dog");
}

/** A few sentences for a rating of 1 to 5. */
export function say(
  trade: Trade,
  rating: number,
  it: string | null,
  chance: () => number,
  language: Spoken = "en",
): string {
  // Half of them say what people of any trade say.
  if (language !== "en" || chance() < 0.5) return compose({ language, trade, rating, about: it }, chance).text;
  const bank = BANKS[trade];
  const sentences =
    rating >= 4
      ? [pick(bank.good, chance), ...(chance() < 0.6 ? [pick(bank.warm, chance)] : [])]
      : [pick(bank.bad, chance), ...(chance() < 0.5 ? [pick(bank.sore, chance)] : [])];
  const named = it ?? (trade === "vets" ? "our dog" : "it");
  return sentences
    .join(" ")
    .replaceAll("{it}", named)
    .replace(/(^|[.!?] )([a-z])/g, (_, before: string, letter: string) => before + letter.toUpperCase());
}
