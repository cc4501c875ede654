import { sql } from "drizzle-orm";
import { type OpenedDoors, openDoors } from "@/core/answers/doors";
import { doorRating } from "@/core/answers/recommendation";
import { goesOn } from "@/core/asks/nextStep";
import type { MoreQuestions, PlanRules } from "@/core/plans/planRules";
import { type Ask, type AskContext, askByToken, offeredListings, wordingFacts, writtenTo } from "@/features/asks";
import { type Branch, type Client, type Listing, todayOf } from "@/features/clients";
import { addresseeOf, canBeWrittenTo, type Person, type Reached } from "@/features/people";
import type { Visit } from "@/features/visits";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import type { answers } from "@/schema/answers";

/** What the page of an ask shows, read in one statement and worked out. */

export type Answer = typeof answers.$inferSelect;

/** Of an answer, what its page shows again or goes by. */
export type AnswerSeen = Pick<
  Answer,
  | "id"
  | "scale"
  | "rating"
  | "recommend"
  | "aspects"
  | "more"
  | "words"
  | "draftWords"
  | "draftMore"
  | "replyTo"
  | "mayShowAt"
> &
  Partial<Pick<Answer, "isDoubtful">> & {
    /** It is somebody's concern: its words are for the business alone, whatever the rating is by now. */
    hasConcern?: boolean;
  };

/** Of a person, what their page needs to know. */
type Reader = Pick<Person, "id" | "given" | "family" | "birthDate" | "language" | "pageLanguage"> &
  Omit<Reached, "tags" | "prefers">;

/** The same of an ask. */
type AskSeen = {
  ask: Pick<Ask, "branchId" | "firstSite" | "stop" | "done">;
  plan: { rules: PlanRules };
  person: Reader;
  guardian: Reader | null;
  visit: Pick<Visit, "branchId" | "serviceId" | "teamMemberId" | "about">;
  along: AskContext["along"];
};

type OfferedListing = Pick<Listing, "id" | "site" | "url" | "branchId">;

/** The same of a client; where a page is read, only what the ask names is among its branches, services and people. */
export type PageSetting = {
  client: Pick<
    Client,
    | "name"
    | "zone"
    | "language"
    | "country"
    | "senderEmail"
    | "postalAddress"
    | "privacyNote"
    | "keepsMarks"
    | "colour"
    | "logo"
    | "header"
    | "portrait"
    | "look"
  >;
  branches: readonly Pick<Branch, "id" | "name" | "look">[];
  services: readonly { id: string; name: string }[];
  team: readonly { id: string; name: string }[];
  listings: readonly OfferedListing[];
};

/** Everything the answer page shows. */
export type AnswerView = {
  token: string;
  setting: PageSetting;
  context: AskSeen;
  facts: ReturnType<typeof wordingFacts>;
  /** Who is written to. */
  person: Reader;
  answer: AnswerSeen | null;
  /** Whether a photo came with the answer. */
  hasPhoto: boolean;
  followed: string[];
  doors: OpenedDoors<OfferedListing> | null;
  /** They are happy, and the plan asks them for a review in a few days and not now. */
  waitsForReview: boolean;
  /** Whether someone can write to them. */
  isReached: boolean;
};

/** Looks up a customer's link; null when it leads nowhere. */
export async function viewAnswer(token: string): Promise<AnswerView | null> {
  return withAsk(token, (tx, _, askId) => loadView(tx, token, askId));
}

/** Does something with the ask behind a link, inside its client; null for a link that leads nowhere. */
export async function withAsk<T>(
  token: string,
  work: (tx: Tx, scope: Scope, askId: string) => Promise<T>,
): Promise<T | null> {
  const found = await askByToken(token);
  if (!found) return null;
  const scope = workFor(found.clientId);
  return withClient(scope, (tx) => work(tx, scope, found.askId));
}

/** What the page of an ask shows, worked out of what is known: the same for the real page and for one to look at. */
export function viewOf(it: {
  token: string;
  setting: PageSetting;
  context: AskSeen;
  answer: AnswerSeen | null;
  hasPhoto?: boolean;
  followed: string[];
  /** The sites that this person has reviewed already. */
  reviewed: readonly string[];
  now: number;
}): AnswerView {
  const { token, setting, context, answer, followed, now } = it;
  const { plan, ask } = context;
  const { mode, threshold } = plan.rules.doors;
  const sites = offeredListings(setting, plan, ask.branchId, ask.firstSite, [...it.reviewed]);
  const today = context.person.birthDate ? todayOf(setting, now) : "";
  const to = addresseeOf(context.person, context.guardian, today);
  return {
    token,
    setting,
    context,
    isReached: canBeWrittenTo(to),
    facts: wordingFacts(context, setting, now),
    person: writtenTo(context, setting, now),
    answer,
    hasPhoto: it.hasPhoto ?? false,
    followed,
    doors: answer?.rating
      ? openDoors(mode, threshold, judged(plan.rules.more, answer), sites, plan.rules.sites.most)
      : null,
    waitsForReview: answer?.rating ? ask.stop === null && goesOn(plan.rules, ask.done, answer.rating) : false,
  };
}

/** What `estima_answer_page` gives. */
export type PageRows = Omit<AskSeen, "plan" | "along"> & {
  rules: PlanRules;
  along: AskSeen["along"] | null;
  answer: AnswerSeen | null;
  hasPhoto: boolean;
  followed: string[] | null;
  reviewed: string[] | null;
  client: PageSetting["client"];
  branches: PageSetting["branches"] | null;
  /** The names of those of the visit. */
  service: string | null;
  teamMember: string | null;
  listings: OfferedListing[] | null;
};

/** Works the view out of what the database gave. `now` in milliseconds. */
export function viewFromRows(token: string, rows: PageRows, now: number): AnswerView {
  const { ask, person, guardian, visit, client } = rows;
  const named = (id: string | null, name: string | null) => (id !== null && name !== null ? [{ id, name }] : []);
  return viewOf({
    token,
    setting: {
      client,
      branches: rows.branches ?? [],
      services: named(visit.serviceId, rows.service),
      team: named(visit.teamMemberId, rows.teamMember),
      listings: rows.listings ?? [],
    },
    context: { ask, plan: { rules: rows.rules }, person, guardian, visit, along: rows.along ?? [] },
    answer: rows.answer,
    hasPhoto: rows.hasPhoto,
    followed: rows.followed ?? [],
    reviewed: rows.reviewed ?? [],
    now,
  });
}

/** The view of an ask, inside its client's transaction; null for another client's. */
export async function loadView(tx: Tx, token: string, askId: string): Promise<AnswerView | null> {
  const [{ page }] = await rowsIn<{ page: PageRows | null }>(tx, sql`select estima_answer_page(${askId}) as page`);
  return page && viewFromRows(token, page, await clockNow());
}

/** The rating by which doors open. */
export const judged = (
  more: MoreQuestions | null | undefined,
  { rating, recommend, aspects }: Pick<Answer, "rating" | "recommend" | "aspects">,
): number => doorRating(more, { rating: rating ?? 0, recommend, aspects });

/** Whether anything was written in an answer, to whichever question. */
export const hasWritten = ({ words, more }: Pick<Answer, "words" | "more">): boolean =>
  Boolean(words) || Object.keys(more).length > 0;
