import type { ReminderStage } from "@/core/notices/choices";
import { type Scale, sayRating } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import { capital, sayCount, sayWhen } from "@/core/time/say";
import type { Channel } from "@/core/time/sendHours";
import { strangersName, strangersWords } from "@/core/words/strangers";
import { siteProblemWords } from "./operations";
import { translate } from "./translate";

/** What staff are told, in words. */

type OfConcern = {
  who: string;
  words: string;
  rating: number | null;
  branch: string;
  answerBy: number;
  takenBy: string | null;
  /** A serious allegation. */
  isUrgent?: boolean;
};

/** A matter as it stands when it is told. */
export type ToldSeen =
  | ({ code: "concern" } & OfConcern)
  | { code: "note"; who: string; words: string; rating: number | null; branch: string }
  | ({ code: "reminder"; stage: ReminderStage } & OfConcern)
  | {
      code: "review";
      who: string;
      words: string;
      branch: string;
      site: string;
      value: number;
      scale: Scale;
      isUrgent?: boolean;
    }
  | { code: "approval"; who: string; branch: string; site: string; reply: string; draftedBy: string | null }
  | { code: "conversation"; who: string; words: string; channel: Channel }
  | { code: "site"; site: string; branch: string; since: number; problem: SiteProblem };

type At = { client: string; zone: string; now: number };

/** One matter as a line: "Ferris O. gave 2 of 5 on Waypost, Old Mill". */
export function toldLine(seen: ToldSeen, { zone, now }: Pick<At, "zone" | "now">): string {
  const isUrgent = "isUrgent" in seen && seen.isUrgent;
  const code = seen.code === "reminder" ? `reminder ${seen.stage}` : isUrgent ? `urgent ${seen.code}` : seen.code;
  return translate("toldLine", code, {
    branch: "branch" in seen ? seen.branch : "",
    who: "who" in seen ? strangersName(seen.who) || "Someone" : "",
    site: "site" in seen ? seen.site : "",
    rating:
      seen.code === "review"
        ? sayRating(seen.value, seen.scale)
        : "rating" in seen && seen.rating
          ? sayRating(seen.rating)
          : "no rating",
    answerBy: "answerBy" in seen ? sayWhen(zone, seen.answerBy, now) : "",
    taken: "takenBy" in seen && seen.takenBy ? seen.takenBy : "none",
    by: seen.code === "approval" ? (seen.draftedBy ?? "A rule") : seen.code === "conversation" ? seen.channel : "",
    since: seen.code === "site" ? sayWhen(zone, seen.since, now) : "",
    why: seen.code === "site" ? siteProblemWords(seen.problem) : "",
  });
}

/** What they said, or would be answered, as it stands below the line; "" for nothing. */
function quoteOf(seen: ToldSeen): string {
  // What a customer wrote stands here without links: nobody who reads our mail follows one of theirs by mistake.
  const words = seen.code === "approval" ? seen.reply : "words" in seen ? strangersWords(seen.words) : "";
  const short = words.length > 400 ? `${words.slice(0, 399).trimEnd()}…` : words;
  return short ? `\n“${short}”` : "";
}

/** One message about one matter or several: its subject, and its words with a link to each and one to one's choices. */
export function toldMail(
  list: readonly (ToldSeen & { link: string })[],
  it: At & { choices: string },
): { subject: string; words: string } {
  const lines = list.map((seen) => `${toldLine(seen, it)}.${quoteOf(seen)}\n${seen.link}`);
  const subject =
    list.length === 1
      ? `${it.client}: ${toldLine(list[0], it)}`
      : `${it.client}: ${translate("toldMany", null, { count: capital(sayCount(list.length, "thing")) })}`;
  return { subject, words: `${lines.join("\n\n")}\n\n${translate("toldChoices", null)} ${it.choices}` };
}
