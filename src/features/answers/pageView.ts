import type { OpenedDoors } from "@/core/answers/doors";
import { groupOf } from "@/core/answers/recommendation";
import { type MoreQuestions, NOTHING_MORE, type PlanWords, type Question } from "@/core/plans/planRules";
import { shownName } from "@/core/reviews/ownReviews";
import { valuesOf, type WordingFacts } from "@/core/words/compose";
import type { AnyLanguage } from "@/core/words/languages";
import type { Logo } from "@/core/words/logo";
import type { Typeface } from "@/core/words/look";
import type { Occasion, PagePlace } from "@/core/words/pieces";
import { fillIn } from "@/core/words/placeholders";
import { occasionOf, pageWords, thanksWords, wordsOf } from "@/core/words/planWords";
import { privacyNote } from "@/core/words/privacy";
import { type Listing, lookAt, type Setting } from "@/features/clients";
import type { Answer, AnswerView } from "./service";

/** What the business itself says on the page, filled in for whoever sees it. */
export type PageWords = Record<
  | "question"
  | "below"
  | "happy"
  | "invite"
  | "happyPrompt"
  | "unhappy"
  | "unhappyPrompt"
  | "thanksHappy"
  | "thanksUnhappy"
  | "thanksSite"
  | "thanksLater",
  string
>;

/** What the page shows, whether a message or a standing link led there. */
export type PageView = {
  /** The address of the page, below which its forms go: "/a/x". */
  base: string;
  business: string;
  branch: string;
  colour: string;
  logo: Logo | null;
  header: Logo | null;
  portrait: Logo | null;
  typeface: Typeface;
  language: AnyLanguage;
  /** Whether the language was chosen on the page: its forms carry it on. */
  isChosen: boolean;
  words: PageWords;
  /** Whom it speaks to; null where nobody knows. */
  given: string | null;
  /** "Odette M.": as whom their words would be shown. */
  shownAs: string;
  question: Question;
  more: MoreQuestions;
  answer:
    | (Pick<Answer, "rating" | "words" | "draftWords" | "scale" | "aspects" | "recommend" | "more"> & {
        mayShow: boolean;
        hasPhoto: boolean;
      })
    | null;
  followed: string[];
  doors: OpenedDoors<Pick<Listing, "id" | "site">> | null;
  /** They are happy, and the plan asks them for a review in a few days and not now. */
  waitsForReview: boolean;
  /** Where they say that nobody should write to them again; null where nobody has. */
  optOut: string | null;
  /** For a page without a person: what its forms carry, so that machines are told apart. */
  stamp: string | null;
  /** Whether they are asked who they are, for a reply. */
  asksWho: boolean;
  /** Whether a copy of their words can be sent to a mailbox of theirs. */
  hasMailbox: boolean;
  /** What was wrong with what they said of that. */
  whoWrong?: string | null;
  /** Shown to look at: nothing that is tapped is kept. */
  isSample: boolean;
};

/** The business's own words for a page, in a language, about a service, filled in. */
export function pageWordsFor(it: {
  words: PlanWords | null | undefined;
  occasion: Occasion | "member";
  question: Question;
  language: AnyLanguage;
  serviceId: string | null;
  facts: WordingFacts;
  /** What they said of recommending the business; null while nothing. */
  recommend: number | null;
}): PageWords {
  const { words, language, serviceId } = it;
  const values = valuesOf({ ...it.facts, language }, null);
  const say = (place: PagePlace) =>
    fillIn(pageWords(wordsOf({ words }), place, { language, serviceId }).words, values).text;
  const group = groupOf(it.recommend);
  const thanks = (isUnhappy: boolean) =>
    fillIn(thanksWords(wordsOf({ words }), { isUnhappy, group }, { language, serviceId }).words, values).text;
  return {
    question: say(`${it.question === "two" ? "two" : "question"}.${it.occasion}`),
    below: say("below"),
    happy: say("happy"),
    invite: say("happy.invite"),
    happyPrompt: say("happy.prompt"),
    unhappy: say("unhappy"),
    unhappyPrompt: say("unhappy.prompt"),
    thanksHappy: thanks(false),
    thanksUnhappy: thanks(true),
    thanksSite: say("thanks.site"),
    thanksLater: say("thanks.later"),
  };
}

/** How the pages of a client's branch look. */
export function lookOf(
  setting: Setting,
  branchId: string | null,
): Pick<PageView, "business" | "colour" | "logo" | "header" | "portrait" | "typeface"> {
  const { colour, logo, header, portrait, typeface } = lookAt(setting, branchId);
  return { business: setting.client.name, colour, logo, header, portrait, typeface };
}

/** What the client keeps of its customers and why: its own words, else the starter text of its country. */
export const noteOf = ({ client }: Setting, language: AnyLanguage): string =>
  client.privacyNote ||
  privacyNote(language, {
    business: client.name,
    country: client.country,
    email: client.senderEmail,
    address: client.postalAddress,
  });

/** What of an answer the page shows again. */
export const answerOf = (answer: Answer | null, hasPhoto: boolean): PageView["answer"] =>
  answer && { ...answer, mayShow: answer.mayShowAt !== null, hasPhoto };

/** The page behind the link of a message. */
export function pageOf(view: AnswerView, chosen: AnyLanguage | null = null): PageView {
  const { facts, setting, context, answer, token } = view;
  const { rules } = context.plan;
  const language = chosen ?? facts.language ?? "en";
  const question = answer?.scale ?? rules.question;
  const reader = context.guardian ?? context.person;
  return {
    ...lookOf(setting, context.ask.branchId),
    base: `/a/${token}`,
    branch: facts.branch,
    language,
    isChosen: chosen !== null,
    words: pageWordsFor({
      words: rules.words,
      occasion: occasionOf(rules),
      question,
      language,
      serviceId: context.visit.serviceId,
      facts,
      recommend: answer?.recommend ?? null,
    }),
    given: facts.person.given || null,
    shownAs: shownName(facts.person),
    question,
    more: rules.more ?? NOTHING_MORE,
    answer: answerOf(answer, view.hasPhoto),
    followed: view.followed,
    doors: view.doors,
    waitsForReview: view.waitsForReview,
    optOut: `/u/${token}`,
    stamp: null,
    asksWho: false,
    hasMailbox: Boolean(reader.email) && reader.emailBouncedAt === null,
    isSample: false,
  };
}
