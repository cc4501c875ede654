import { z } from "zod";
import { may } from "@/core/access/permissions";
import { READING_ORDERS } from "@/core/heard/readingOrder";
import { THEMES } from "@/core/themes/themes";
import { dayText } from "@/core/time/range";
import { DAY, fromLocal, parseDay } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { LANGUAGES } from "@/core/words/languages";
import { automatedCount, listNotes, NOTES_PAGE, saidBeside, unreadNotesCount } from "@/features/answers";
import { loadSetting, type Setting, todayOf } from "@/features/clients";
import { concernCounts, listConcerns } from "@/features/concerns";
import { conversationCounts, listConversations } from "@/features/conversations";
import { staffOf } from "@/features/notices";
import { listOwnReviews, ownReviewCounts, waitingOwnReviews } from "@/features/own-reviews";
import { addresseeOf, guardiansOf, letterboxesOf } from "@/features/people";
import {
  alikeOf,
  countMatching,
  draftedOf,
  type ListedReview,
  listPinned,
  listReviews,
  listReviewViews,
  namedLately,
  openDesk,
  ownLanguage,
  REVIEWS_PAGE,
  type ReviewFilter,
  readOf,
  reviewCounts,
  viewQuery,
  writerOf,
} from "@/features/reviews";
import type { Access } from "@/platform/access";
import { type Tx, together, withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";

/** What Heard is asked for in its address, and all that it shows of it. */

const SHOWS = ["waiting", "concerns", "kind", "conversations", "reviews", "own", "aside", "planned"] as const;

const query = z.object({
  show: z.enum(SHOWS).catch("waiting"),
  site: z.string().max(60).transform(cleanText).nullable().catch(null),
  branch: z.uuid().nullable().catch(null),
  member: z.uuid().nullable().catch(null),
  language: z.enum(LANGUAGES).nullable().catch(null),
  rating: z.enum(["unhappy", "mixed", "happy"]).nullable().catch(null),
  words: z.enum(["with", "without"]).nullable().catch(null),
  answered: z.enum(["yes", "no"]).nullable().catch(null),
  since: z.enum(["week", "month", "quarter", "days"]).nullable().catch(null),
  /** Between which days, both included, where somebody chose days. */
  from: dayText.nullable().catch(null),
  to: dayText.nullable().catch(null),
  theme: z.enum(THEMES).nullable().catch(null),
  q: z
    .string()
    .max(100)
    .transform((text) => cleanText(text).trim())
    .nullable()
    .catch(null),
  /** Of conversations: those that wait (null), those set aside, or all; of private notes all or
   * open ones, of kind words all or unread ones. Whose they are. */
  state: z.enum(["aside", "all", "open", "unread"]).nullable().catch(null),
  who: z.string().max(64).nullable().catch(null),
  /** Of those that wait: the unhappiest first (null), or by date. */
  order: z.enum(READING_ORDERS).nullable().catch(null),
  open: z.uuid().nullable().catch(null),
  before: pageKey,
  ownBefore: z.uuid().nullable().catch(null),
});

const RATINGS = { unhappy: [1, 2], mixed: [3, 3], happy: [4, 5] } as const;
const SINCE_DAYS = { week: 7, month: 30, quarter: 91 } as const;

export type Wanted = z.output<typeof query>;
export type Seen = Awaited<ReturnType<typeof loadHeard>>;

/** What of all reviews is wanted. */
export function reviewFilter(wanted: Wanted, now: number, zone: string): ReviewFilter {
  const { show, site, branch, before } = wanted;
  const days = wanted.since === "days";
  const startOf = (text: string, later = 0) => fromLocal(zone, (parseDay(text) + later) * DAY);
  const narrowed =
    show === "reviews"
      ? {
          ratings: wanted.rating && RATINGS[wanted.rating],
          words: wanted.words,
          answered: wanted.answered && wanted.answered === "yes",
          since:
            wanted.since === "days"
              ? wanted.from === null
                ? null
                : startOf(wanted.from)
              : wanted.since && now - SINCE_DAYS[wanted.since] * DAY,
          until: days && wanted.to ? startOf(wanted.to, 1) : null,
          theme: wanted.theme,
          language: wanted.language,
          memberId: wanted.member,
          search: wanted.q || null,
        }
      : {};
  return {
    waiting: show === "waiting",
    order: wanted.order,
    only: show === "aside" || show === "planned" ? show : null,
    site,
    branchId: branch,
    ...narrowed,
    before,
  };
}

/** The address of Heard as it is read: what is not understood is as if it were not there. */
export function readWanted(search: Record<string, string | string[] | undefined>): Wanted {
  return query.parse({
    ...Object.fromEntries(Object.keys(query.shape).map((name) => [name, search[name] ?? null])),
    show: search.show ?? "waiting",
    ownBefore: search.before ?? null,
  });
}

export async function loadHeard(access: Access, wanted: Wanted, now: number) {
  const { show, site, branch, before, ownBefore } = wanted;
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const filter = reviewFilter(wanted, now, access.seat.zone);
    const isOfReviews = ["waiting", "reviews", "aside", "planned"].includes(show);
    const reviews = isOfReviews ? await listReviews(tx, access, filter, setting) : [];
    const shown = new Set(reviews.slice(0, REVIEWS_PAGE).map(({ review }) => review.id));
    const pinned = new Map<string, ListedReview>();
    if (isOfReviews)
      for (const each of await listPinned(tx, access, wanted.open, filter, setting))
        if (!shown.has(each.review.id)) pinned.set(each.review.id, each);
    const own =
      show === "own"
        ? await listOwnReviews(tx, access, branch, ownBefore)
        : show === "waiting" && !site
          ? await waitingOwnReviews(tx, access, branch, now)
          : [];
    const isNarrowed = viewQuery(wanted) !== "";
    return {
      setting,
      reviews,
      /** Of all reviews, how many the filters leave; null where there are none. */
      matching: show === "reviews" && isNarrowed ? await countMatching(tx, access, filter) : null,
      /** What is shown beside them, wherever it stands in their order. */
      pinned: [...pinned.values()],
      views: show === "reviews" ? await listReviewViews(tx, access) : [],
      writer: wanted.open ? await writerOf(tx, access, wanted.open) : null,
      alike: wanted.open ? await alikeOf(tx, access, wanted.open) : null,
      lately: await namedLately(tx, access, branch, ownLanguage(setting)),
      drafted: await loadDrafts(tx, access, setting, [...reviews, ...pinned.values()], wanted),
      own,
      besideOwn: await saidBeside(
        tx,
        access,
        own.map(({ answerId }) => answerId),
      ),
      concerns:
        (show !== "waiting" || site) && show !== "concerns"
          ? []
          : await listConcerns(tx, access, {
              open: show === "waiting" || wanted.state === "open",
              branchId: branch,
              takenById: show === "concerns" ? wanted.who : null,
              memberId: show === "concerns" ? wanted.member : null,
            }),
      conversations:
        (show !== "waiting" || site) && show !== "conversations"
          ? []
          : await listConversations(
              tx,
              access,
              {
                state:
                  show === "conversations" && (wanted.state === "aside" || wanted.state === "all")
                    ? wanted.state
                    : "waiting",
                assigned: show === "conversations" ? wanted.who : null,
                branchId: branch,
                before: show === "conversations" ? before : null,
              },
              now,
            ),
      staff:
        show === "conversations" || show === "concerns"
          ? (await staffOf(tx)).filter((one) => may(one, "answer concerns")).map(({ id, name }) => ({ id, name }))
          : [],
      ...(await together(tx, {
        ownCounts: ownReviewCounts(access, now),
        letters: conversationCounts(access, now),
        counts: reviewCounts(access, now - 30 * DAY),
        notes: concernCounts(access),
        unread: unreadNotesCount(access),
        automated: automatedCount(access),
      })),
      kind: show === "kind" ? await loadKind(tx, access, wanted, now) : null,
    };
  });
  return {
    ...seen,
    ...seen.drafted,
    unreadNotes: seen.unread.count,
    automated: seen.automated.count,
    waiting: seen.notes.waiting + seen.counts.waiting + seen.letters.waiting + seen.ownCounts.waiting,
  };
}

/** The private notes of happy customers, each with what was said beside it and how its writer can be thanked. */
async function loadKind(tx: Tx, access: Access, { state, branch, before }: Wanted, now: number) {
  const list = await listNotes(tx, access, { unread: state === "unread", branchId: branch, before });
  const shown = list.slice(0, NOTES_PAGE);
  const people = shown.flatMap(({ person }) => person ?? []);
  const guardians = await guardiansOf(tx, people);
  const today = todayOf(await loadSetting(tx), now);
  return {
    list: shown.map((one) => {
      const { person, answer } = one;
      const to = person && addresseeOf(person, guardians.get(person.guardianId ?? "") ?? null, today);
      return { ...one, channels: person ? letterboxesOf(to, answer.replyTo) : [] };
    }),
    isMore: list.length > NOTES_PAGE,
    beside: await saidBeside(
      tx,
      access,
      shown.map(({ answer }) => answer.id),
    ),
  };
}

/** So many of those that wait have a draft at once; the others get theirs when somebody asks for it. */
const MOST_DRAFTED = 12;

/** What the reviews that are shown name, with a draft for each that is about to be replied to. */
async function loadDrafts(
  tx: Tx,
  access: Access,
  setting: Setting,
  list: readonly ListedReview[],
  { show, open }: Wanted,
) {
  const drafted = list.filter(
    ({ review }, index) => review.id === open || (show === "waiting" && index < MOST_DRAFTED),
  );
  const desk = await openDesk(
    tx,
    access,
    setting,
    drafted.map(({ review }) => review),
    access.user.signature ?? "",
  );
  return {
    drafts: new Map(
      list.map((each) => [
        each.review.id,
        drafted.includes(each) ? draftedOf(desk, each.review) : readOf(each.review, setting),
      ]),
    ),
    /** How many replies of each listing drafts were made unlike. */
    unlike: new Map([...desk.recent].map(([listingId, replies]) => [listingId, replies.length])),
  };
}
