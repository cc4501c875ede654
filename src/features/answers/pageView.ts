import type { OpenedDoors } from "@/core/answers/doors";
import { groupOf } from "@/core/answers/recommendation";
import { type MoreQuestions, NOTHING_MORE, type PlanWords, type Question } from "@/core/plans/planRules";
import { shownName } from "@/core/reviews/ownReviews";
import { valuesOf, type WordingFacts } from "@/core/words/compose";
import { type AnyLanguage, PSEUDO } from "@/core/words/languages";
import type { Logo } from "@/core/words/logo";
import type { Typeface } from "@/core/words/look";
import type { Occasion, PagePlace } from "@/core/words/pieces";
import { fillIn, type PlaceholderValues } from "@/core/words/placeholders";
import { occasionOf, pageWords, thanksWords, wordsOf } from "@/core/words/planWords";
import { privacyNote } from "@/core/words/privacy";
import { type Listing, lookAt } from "@/features/clients";
import type { Answer, AnswerSeen, AnswerView, PageSetting } from "./view";

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
    | (Pick<
        Answer,
        "rating" | "words" | "draftWords" | "scale" | "aspects" | "recommend" | "more" | "draftMore" | "replyTo"
      > & {
        mayShow: boolean;
        hasPhoto: boolean;
        /** It looks automated: nothing is promised of who reads it. */
        isDoubtful: boolean;
        /** Its words were written to the business alone: no review site is offered them. */
        hasConcern: boolean;
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
  /** Whether the team can write to them, as far as anyone knows. */
  isReached: boolean;
  /** Whether a copy of their words can be sent to a mailbox of theirs. */
  hasMailbox: boolean;
  /** What was wrong with what they said of that. */
  whoWrong?: string | null;
  /** Shown to look at: nothing that is tapped is kept. */
  isSample: boolean;
};

/** What decides which words a page says. */
type WordsFor = {
  words: PlanWords | null | undefined;
  occasion: Occasion | "member";
  question: Question;
  language: AnyLanguage;
  serviceId: string | null;
  facts: WordingFacts;
  /** What they said of recommending the business; null while nothing. */
  recommend: number | null;
};

/** The business's own words for a page, in a language, about a service, filled in. */
export const pageWordsFor = (it: WordsFor): PageWords => new FilledWords(it);

/** Each is filled in when the page says it: no page says more than four of them. */
class FilledWords implements PageWords {
  readonly #it: WordsFor;
  #values: PlaceholderValues | undefined;

  constructor(it: WordsFor) {
    this.#it = it;
  }

  #fill(piece: string): string {
    const { facts, language } = this.#it;
    this.#values ??= valuesOf({ ...facts, language }, null);
    return fillIn(piece, this.#values, language).text;
  }

  #say(place: PagePlace): string {
    return this.#fill(pageWords(wordsOf(this.#it), place, this.#it).words);
  }

  #thanks(isUnhappy: boolean): string {
    const group = groupOf(this.#it.recommend);
    return this.#fill(thanksWords(wordsOf(this.#it), { isUnhappy, group }, this.#it).words);
  }

  get question() {
    return this.#say(`${this.#it.question === "two" ? "two" : "question"}.${this.#it.occasion}`);
  }
  get below() {
    return this.#say("below");
  }
  get happy() {
    return this.#say("happy");
  }
  get invite() {
    return this.#say("happy.invite");
  }
  get happyPrompt() {
    return this.#say("happy.prompt");
  }
  get unhappy() {
    return this.#say("unhappy");
  }
  get unhappyPrompt() {
    return this.#say("unhappy.prompt");
  }
  get thanksHappy() {
    return this.#thanks(false);
  }
  get thanksUnhappy() {
    return this.#thanks(true);
  }
  get thanksSite() {
    return this.#say("thanks.site");
  }
  get thanksLater() {
    return this.#say("thanks.later");
  }
}

/** How the pages of a client's branch look. */
export function lookOf(
  setting: Pick<PageSetting, "client" | "branches">,
  branchId: string | null,
): Pick<PageView, "business" | "colour" | "logo" | "header" | "portrait" | "typeface"> {
  const { colour, logo, header, portrait, typeface } = lookAt(setting, branchId);
  return { business: setting.client.name, colour, logo, header, portrait, typeface };
}

/** What the client keeps of its customers and why: its own words in that language, else the starter text of its country. */
export const noteOf = ({ client }: Pick<PageSetting, "client">, language: AnyLanguage): string =>
  (language === PSEUDO ? undefined : client.privacyNote?.[language]) ||
  privacyNote(language, {
    business: client.name,
    country: client.country,
    email: client.senderEmail,
    address: client.postalAddress,
  });

/** What of an answer the page shows again. */
export const answerOf = (answer: AnswerSeen | null, hasPhoto: boolean): PageView["answer"] =>
  answer && {
    ...answer,
    mayShow: answer.mayShowAt !== null,
    hasPhoto,
    isDoubtful: answer.isDoubtful ?? false,
    hasConcern: answer.hasConcern ?? false,
  };

/** The page behind the link of a message. */
export function pageOf(view: AnswerView, chosen: AnyLanguage | null = null): PageView {
  const { facts, setting, context, answer, token } = view;
  const { rules } = context.plan;
  const language = chosen ?? facts.language ?? "en";
  const question = answer?.scale ?? rules.question;
  const reader = context.guardian ?? context.person;
  return {
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
    isReached: view.isReached,
    hasMailbox: Boolean(reader.email) && reader.emailBouncedAt === null,
    isSample: false,
    // What is spread comes last: an object that goes on after a spread takes fifty times as long to make.
    ...lookOf(setting, context.ask.branchId),
  };
}
