import { sql } from "drizzle-orm";
import { groupBy } from "@/core/groups";
import { anotherDraft, type Draft, type DraftInput, draftReply, refusedOf } from "@/core/replies/draft";
import { type Gravity, gravityOfReview } from "@/core/replies/gravity";
import { NOTHING_KNOWN, nearestOf, type PrivateFacts, type Refusal } from "@/core/replies/guards";
import type { Mood } from "@/core/replies/sentences/bank";
import type { Found } from "@/core/themes/reading";
import { firstLanguage, isLanguage, LANGUAGES, type Language } from "@/core/words/languages";
import type { Setting } from "@/features/clients";
import { LOCALES } from "@/locales/customer";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { reviews } from "@/schema/reviews";
import { isPlanned } from "./queries";
import { readingOf } from "./readings";
import type { Review } from "./service";

/** Drafts of replies: from what a review names, unlike the last replies of its listing, and within the guards. */

/** The longest reply that a site takes, in characters. */
export const MOST_REPLY = 4000;

/** Drafts are made unlike so many of the listing's last replies. */
export const UNLIKE_LAST = 30;

/** What stands with a review in the list: what it names, and a draft that answers it. */
export type Drafted = {
  language: Language;
  named: readonly Found[];
  draft: Draft | null;
  turn: number;
  /** Why a person has to answer it: what it speaks of, or a visit of its writer's; null where no reason is known. */
  gravity: Gravity | "visit" | null;
};

/** A reply that stands in public, or is planned, and to which review. */
export type RecentReply = { reviewId: string; reply: string };

/** What a draft is made from, for reviews of a client. */
export type DraftDesk = {
  setting: Setting;
  signature: string;
  /** By listing. */
  recent: Map<string, RecentReply[]>;
  /** By person. */
  facts: Map<string, PrivateFacts>;
  /** People whose visits lately were about something that is never asked about, such as end-of-life care. */
  bereaved: Set<string>;
  /** By person, the language in which they are written to, where that is known. */
  languages: Map<string, Language>;
};

/**
 * Loads what drafts of these reviews need, in a few statements. `afresh` passes over the replies before, as if these
 * reviews came in now, one after the other.
 */
export async function openDesk(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  list: readonly Pick<Review, "listingId" | "personId">[],
  signature: string,
  afresh = false,
): Promise<DraftDesk> {
  const desk: DraftDesk = {
    setting,
    signature,
    recent: new Map(),
    facts: new Map(),
    bereaved: new Set(),
    languages: new Map(),
  };
  if (!afresh) desk.recent = await recentReplies(tx, scope, [...new Set(list.map(({ listingId }) => listingId))]);
  const people = [...new Set(list.flatMap(({ personId }) => personId ?? []))];
  return people.length > 0 ? { ...desk, ...(await factsOf(tx, scope, setting, people)) } : desk;
}

/** The last replies of these listings, and before them what rules have planned, which will stand there too. */
async function recentReplies(tx: Tx, scope: Scope, listingIds: readonly string[]): Promise<Map<string, RecentReply[]>> {
  if (listingIds.length === 0) return new Map();
  const of = sql`${reviews.clientId} = ${scope.clientId} and ${reviews.listingId} = l.id and ${reviews.reply} is not null`;
  const rows = await rowsIn<RecentReply & { listingId: string }>(
    tx,
    sql`select l.id as "listingId", r.id as "reviewId", r.reply from unnest(${sql.param(listingIds)}::uuid[]) l(id), lateral (
      (select id, reply from ${reviews} where ${of} and ${isPlanned} limit ${UNLIKE_LAST})
      union all
      (select id, reply from ${reviews} where ${of} and ${reviews.repliedAt} is not null order by ${reviews.repliedAt} desc limit ${UNLIKE_LAST})) r`,
  );
  return groupBy(rows, ({ listingId }) => listingId);
}

/** As far back as a visit still colours what its person writes, in days. */
const BEREAVED_DAYS = 120;

/**
 * What is known of these people and may not be said in public (their names, visits and addresses), who of them had a
 * visit lately about which nobody is ever asked, and their languages.
 */
async function factsOf(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  people: readonly string[],
): Promise<Pick<DraftDesk, "facts" | "bereaved" | "languages">> {
  const ids = sql`${`{${people.join(",")}}`}::uuid[]`;
  const persons = await rowsIn<{
    id: string;
    family: string;
    email: string | null;
    phone: string | null;
    language: string | null;
    bereaved: boolean;
  }>(
    tx,
    sql`select p.id, p.family, p.email, p.phone, coalesce(p.language, p.page_language) as language, exists (
        select 1 from visits v join services s on s.id = v.service_id
        where v.client_id = p.client_id and v.person_id = p.id and s.never_ask and v.ends_at > (
          select max(x.ends_at) from visits x where x.client_id = p.client_id and x.person_id = p.id
        ) - make_interval(days => ${BEREAVED_DAYS})) as bereaved
      from people p where p.client_id = ${scope.clientId} and p.id = any(${ids})`,
  );
  const visits = await rowsIn<{ person: string; about: string | null; service: string | null; at: string }>(
    tx,
    sql`select v.person_id as person, v.about, s.name as service, v.ends_at as at
      from visits v left join services s on s.id = v.service_id
      where v.client_id = ${scope.clientId} and v.person_id = any(${ids})
      order by v.ends_at desc limit 400`,
  );
  // A day is private in whatever language it is written.
  const days = LANGUAGES.map(
    (language) =>
      new Intl.DateTimeFormat(LOCALES[language], { day: "numeric", month: "long", timeZone: setting.client.zone }),
  );
  const facts = new Map(
    persons.map(({ id, family, email, phone }): [string, PrivateFacts] => {
      const own = visits.filter(({ person }) => person === id).slice(0, 20);
      return [
        id,
        {
          family: family || null,
          abouts: own.flatMap(({ about }) => about ?? []),
          services: own.flatMap(({ service }) => service ?? []),
          days: own.flatMap(({ at }) => days.map((day) => day.format(new Date(at)))),
          teamMembers: setting.team.map(({ name }) => name),
          emails: email ? [email] : [],
          phones: phone ? [phone] : [],
        },
      ];
    }),
  );
  return {
    facts,
    bereaved: new Set(persons.filter(({ bereaved }) => bereaved).map(({ id }) => id)),
    languages: new Map(
      persons.flatMap(({ id, language: said }) => {
        const language = said && firstLanguage(said);
        return language && isLanguage(language) ? [[id, language] as const] : [];
      }),
    ),
  };
}

/** What a review speaks of that a person has to answer: by its words, or by what its writer was there for. */
export function gravityFor(desk: DraftDesk, review: Pick<Review, "words" | "rating" | "personId">): Gravity | null {
  const said = gravityOfReview(review);
  return said ?? (review.personId && desk.bereaved.has(review.personId) ? "loss" : null);
}

/** How somebody was on the whole: by their rating, and mixed where a good one comes with something that was not. */
function moodOf({ rating }: Pick<Review, "rating">, named: readonly Found[]): Mood {
  if (rating <= 2) return "unhappy";
  if (rating === 3) return "mixed";
  return named.some(({ polarity }) => polarity === "unhappy") && named.length > 1 ? "mixed" : "happy";
}

export const ownLanguage = ({ client }: Setting): Language => {
  const language = firstLanguage(client.language);
  return isLanguage(language) ? language : "en";
};

/** The language in which a review is likeliest to be written, where its words do not tell: its writer's, or the client's. */
export const likeliestLanguage = (desk: DraftDesk, { personId }: Pick<Review, "personId">): Language =>
  desk.languages.get(personId ?? "") ?? ownLanguage(desk.setting);

/** What somebody's words name, in a language that is read; else nothing. */
export const namedIn = (words: string, setting: Setting): readonly Found[] =>
  readingOf(words, ownLanguage(setting)).named ?? [];

/** The input from which a review's draft is made, whoever asks for it. */
export function draftInput(desk: DraftDesk, review: Review, turn: number): DraftInput {
  const { setting, signature } = desk;
  const { language, named: read } = readingOf(review.words, likeliestLanguage(desk, review), review.rating);
  const named = read ?? [];
  const { client, team } = setting;
  return {
    review: { text: review.words, author: review.author, language, mood: moodOf(review, named) },
    gravity: gravityFor(desk, review),
    named,
    tone: client.replyTone,
    signature,
    most: MOST_REPLY,
    facts: desk.facts.get(review.personId ?? "") ?? { ...NOTHING_KNOWN, teamMembers: team.map(({ name }) => name) },
    own: [client.senderEmail, client.textNumber, ...setting.branches.flatMap(({ phone }) => phone ?? [])],
    // A reply is not unlike itself: whoever looks its own over again is not told that it repeats one.
    recent: (desk.recent.get(review.listingId) ?? []).flatMap(({ reviewId, reply }) =>
      reviewId === review.id ? [] : reply,
    ),
    turn,
  };
}

/** What a review names, without a draft. */
export function readOf(review: Review, setting: Setting): Drafted {
  const { language, named } = readingOf(review.words, ownLanguage(setting), review.rating);
  return { language, named: named ?? [], draft: null, turn: 0, gravity: gravityOfReview(review) };
}

/** What a review names, and its draft. */
export function draftedOf(desk: DraftDesk, review: Review): Drafted {
  const input = draftInput(desk, review, 0);
  return {
    language: input.review.language,
    named: input.named,
    draft: draftReply(input),
    turn: 0,
    gravity: input.gravity ? (gravityOfReview(review) ?? "visit") : null,
  };
}

/** Another draft than the one that stands there; null where there is no other. */
export function redrafted(desk: DraftDesk, review: Review, turn: number, before: string) {
  return anotherDraft(draftInput(desk, review, turn), before);
}

/** What somebody's own words would say that had better not be said, and how like the last replies they are. */
export function lookedOver(desk: DraftDesk, review: Review, words: string): { refusals: Refusal[]; alike: number } {
  const input = draftInput(desk, review, 0);
  return { refusals: refusedOf(words, input), alike: nearestOf(words, input.recent)?.alike ?? 0 };
}
