import { may } from "@/core/access/permissions";
import { capital, sayCount, sayCounted } from "@/core/time/say";
import { ReadAllButton } from "@/features/answers/parts/NoteForms.client";
import { CONVERSATIONS_PAGE } from "@/features/conversations";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { OWN_REVIEWS_PAGE } from "@/features/own-reviews";
import { REVIEWS_PAGE, viewQuery } from "@/features/reviews";
import { HeardKeys } from "@/features/reviews/parts/HeardKeys.client";
import { ReviewViews } from "@/features/reviews/parts/ReviewViews.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { HeardMargin } from "./HeardMargin";
import { entriesOf } from "./heardEntries";
import { type Change, filtersOf } from "./heardFilters";
import { loadHeard, readWanted, type Seen, type Wanted } from "./loadHeard";

export const metadata = { title: "Heard" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function Heard({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const search = await searchParams;
  const wanted = readWanted(search);
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await loadHeard(access, wanted, now);
  const { waiting } = seen;
  const mayReply = may(access.seat, "reply in public");
  const link = (change: Change) => {
    const to = new URLSearchParams();
    // What only narrows all reviews down falls away with them.
    const { member, language, rating, words, answered, since, theme, q } = wanted;
    // Days fall away with the choice of days.
    const days =
      (change.since === undefined ? since : change.since) === "days" ? { from: wanted.from, to: wanted.to } : {};
    const { state, who, order } = wanted;
    const show = change.show ?? wanted.show;
    for (const [name, value] of Object.entries({
      show: wanted.show,
      site: wanted.site,
      branch: wanted.branch,
      ...(show === "reviews" ? { member, language, rating, words, answered, since, theme, q, ...days } : {}),
      ...(show === "conversations" || show === "concerns" ? { state, who } : {}),
      ...(show === "kind" ? { state } : {}),
      ...(show === "concerns" ? { member } : {}),
      ...(show === "waiting" ? { order } : {}),
      ...change,
    }))
      if (value && value !== "waiting") to.set(name, value);
    return `/c/${slug}/heard${to.size ? `?${to}` : ""}`;
  };
  const kind = (href: string, here: boolean, words: string, count?: number) => (
    <Link key={words} href={href} className="tab gap-1.5" aria-current={here ? "true" : undefined}>
      {words}
      {count === undefined ? null : (
        <span className="text-second text-[14px] tabular-nums">{count.toLocaleString("en-GB")}</span>
      )}
    </Link>
  );
  const filters = filtersOf(seen, wanted, { slug, userId: access.user.id, link, now });
  const shownReviews = seen.reviews.slice(0, REVIEWS_PAGE);
  const { entries, isCut } = entriesOf(seen, wanted, { access, now, mayReply });
  const isAllWaiting = wanted.show === "waiting" && !wanted.site && !wanted.branch;
  const later = isAllWaiting ? waiting - entries.filter(({ isAnswered }) => !isAnswered).length : 0;
  const last = shownReviews.at(-1)?.review;
  const lastLetter = seen.conversations.length > CONVERSATIONS_PAGE ? seen.conversations[CONVERSATIONS_PAGE - 1] : null;
  return (
    <Page
      margin={
        <HeardMargin
          seen={seen}
          slug={slug}
          zone={zone}
          now={now}
          maySetUp={may(access.seat, "set up")}
          open={[...seen.pinned, ...seen.reviews].find(({ review }) => review.id === wanted.open) ?? null}
        />
      }
    >
      <LiveRefresh seconds={20} />
      <h1 className="title">{titleOf(wanted, seen)}</h1>
      <nav aria-label="What to show" className="border-rule mt-4 mb-4 flex flex-wrap gap-x-6 border-b">
        {kind(link({ show: "waiting", before: null }), wanted.show === "waiting", "Waiting", waiting)}
        {kind(link({ show: "concerns", before: null }), wanted.show === "concerns", "Concerns", seen.notes.all)}
        {kind(link({ show: "kind", before: null }), wanted.show === "kind", "Kind words", seen.unreadNotes)}
        {seen.letters.isAny
          ? kind(
              link({ show: "conversations", before: null }),
              wanted.show === "conversations",
              "Conversations",
              seen.letters.waiting,
            )
          : null}
        {kind(link({ show: "reviews", before: null }), wanted.show === "reviews", "Public reviews", seen.counts.all)}
        {seen.counts.aside > 0
          ? kind(link({ show: "aside", before: null }), wanted.show === "aside", "Set aside", seen.counts.aside)
          : null}
        {seen.counts.planned > 0
          ? kind(
              link({ show: "planned", before: null }),
              wanted.show === "planned",
              "Scheduled by rules",
              seen.counts.planned,
            )
          : null}
        {kind(link({ show: "own", before: null }), wanted.show === "own", "On your own page", seen.ownCounts.shown)}
      </nav>
      {wanted.show === "reviews" ? (
        <ReviewViews
          slug={slug}
          views={seen.views.map(({ id, name, query }) => ({ id, name, query }))}
          query={viewQuery(wanted)}
          mayKeep={may(access.seat, "draft replies")}
        />
      ) : null}
      {wanted.show === "reviews" ? (
        <SearchWords slug={slug} wanted={wanted} clear={link({ q: null, before: null })} />
      ) : null}
      {filters.length > 0 ? <FilterSentence parts={filters} /> : null}
      {entries.length === 0 ? (
        <Empty
          action={
            wanted.show === "waiting" ? (
              <Link href={link({ show: "reviews" })} className="button">
                See all reviews
              </Link>
            ) : null
          }
        >
          {wanted.show === "waiting"
            ? "You’ve answered everything."
            : wanted.show === "conversations"
              ? wanted.state === null
                ? "Nobody’s waiting for an answer. Texts and emails from customers appear here."
                : "Nothing matches."
              : wanted.show === "kind"
                ? "No kind words yet. Private notes from happy customers appear here."
                : wanted.show === "own"
                  ? "No customer has agreed to be shown yet. Turn this question on in a plan, under “What the page asks”."
                  : "Nothing yet. New reviews appear here automatically."}
        </Empty>
      ) : null}
      {wanted.show === "kind" && seen.unreadNotes > 0 && may(access.seat, "answer concerns") ? (
        <div className="-ml-2 mb-2">
          <ReadAllButton slug={slug} branchId={wanted.branch} />
        </div>
      ) : null}
      <HeardKeys>{entries.map(({ node }) => node)}</HeardKeys>
      {(isAllWaiting ? later > 0 : isCut) ? (
        <p className="text-second mt-4">
          {later > 0 ? `${sayCounted(later)} more ${later === 1 ? "is" : "are"} waiting` : "More are waiting"} after
          these
          {wanted.order === "date" ? " and have waited longer" : " and are happier or more recent"}. They’ll move up as
          you answer these.
        </p>
      ) : null}
      {(wanted.show === "reviews" || wanted.show === "aside" || wanted.show === "planned") &&
      seen.reviews.length > REVIEWS_PAGE &&
      last ? (
        <p className="mt-5">
          <Link href={link({ before: `${last.writtenAt}~${last.id}` })} className="button">
            Show earlier
          </Link>
        </p>
      ) : null}
      {wanted.show === "conversations" && lastLetter && wanted.state !== null ? (
        <p className="mt-5">
          <Link
            href={link({ before: `${lastLetter.conversation.lastAt}~${lastLetter.conversation.id}` })}
            className="button"
          >
            Show earlier
          </Link>
        </p>
      ) : null}
      {seen.kind?.isMore ? (
        <p className="mt-5">
          <Link href={link({ before: keyOf(seen.kind.list.at(-1)) })} className="button">
            Earlier ones
          </Link>
        </p>
      ) : null}
      {wanted.show === "own" && seen.own.length > OWN_REVIEWS_PAGE ? (
        <p className="mt-5">
          <Link href={link({ before: seen.own[OWN_REVIEWS_PAGE - 1].id })} className="button">
            Show earlier
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

const keyOf = (last: { answer: { id: string; wordsAt: number | null } } | undefined) =>
  last ? `${last.answer.wordsAt}~${last.answer.id}` : null;

/** "at Old Mill on Waypost": what everything but the reviews is narrowed down to. */
function placeOf({ branch, site, show }: Wanted, { setting }: Seen): string {
  const at = setting.branches.find(({ id }) => id === branch)?.name;
  const on = show === "waiting" || show === "aside" || show === "planned" ? site : null;
  return [at ? `at ${at}` : "", on ? `on ${on}` : ""].filter(Boolean).join(" ");
}

function titleOf(wanted: Wanted, seen: Seen): string {
  const whole = wholeTitle(wanted, seen);
  const place = wanted.show === "reviews" ? "" : placeOf(wanted, seen);
  // The figure is of all of them: whoever narrows them down is told so.
  return place ? `${whole} These are the ones ${place}.` : whole;
}

function wholeTitle(
  wanted: Wanted,
  { waiting, matching, notes, counts, ownCounts, reviews, letters, unreadNotes }: Seen,
): string {
  const { show } = wanted;
  if (show === "concerns") return `${sayCounted(notes.all)} concerns, ${notes.open} of them open.`;
  if (show === "kind")
    return unreadNotes === 0
      ? "You’ve read all the kind words."
      : `${capital(sayCount(unreadNotes, "kind note", "kind notes"))} nobody has read yet.`;
  if (show === "conversations")
    return letters.waiting === 0
      ? "Nobody’s waiting for an answer."
      : `${capital(sayCount(letters.waiting, "person is", "people are"))} waiting for an answer.`;
  if (show === "own")
    return ownCounts.shown === 1
      ? "One review on your own page."
      : `${capital(sayCounted(ownCounts.shown))} reviews on your own page.`;
  if (show === "aside")
    return `${capital(sayCount(counts.aside, "review is", "reviews are"))} set aside, with no reply needed.`;
  if (show === "planned")
    return `${capital(sayCount(counts.planned, "reply is", "replies are"))} scheduled by your rules.`;
  if (show === "reviews" && wanted.q)
    return reviews.length === 0
      ? `Nobody wrote “${wanted.q}”.`
      : `${reviews.length > REVIEWS_PAGE ? `More than ${REVIEWS_PAGE}` : capital(sayCount(reviews.length, "review"))} with “${wanted.q}”, latest first.`;
  if (show === "reviews")
    return matching === null || matching === counts.all
      ? `${counts.all.toLocaleString("en-GB")} public reviews.`
      : `${matching.toLocaleString("en-GB")} of ${counts.all.toLocaleString("en-GB")} public reviews.`;
  if (waiting === 0) return "Nobody is waiting for a reply.";
  return `${capital(sayCount(waiting, "is", "are"))} waiting for a reply, unhappiest first.`;
}

/** Finds reviews by words and names; what else is set stays set. */
function SearchWords({ slug, wanted, clear }: { slug: string; wanted: Wanted; clear: string }) {
  const { site, branch, member, language, rating, words, answered, since, from, to, theme } = wanted;
  const kept = { show: "reviews", site, branch, member, language, rating, words, answered, since, from, to, theme };
  return (
    <search>
      <form action={`/c/${slug}/heard`} className="mb-3 flex flex-wrap items-center gap-2">
        {Object.entries(kept).map(([name, value]) =>
          value ? <input key={name} type="hidden" name={name} value={value} /> : null,
        )}
        <label className="sr-only" htmlFor="find-reviews">
          Search words or names
        </label>
        <input
          id="find-reviews"
          type="search"
          name="q"
          defaultValue={wanted.q ?? ""}
          placeholder="Search words or names"
          className="field !w-[min(320px,100%)]"
        />
        <button type="submit" className="button">
          Find
        </button>
        {wanted.q ? (
          <Link href={clear} className="button-quiet">
            Clear search
          </Link>
        ) : null}
      </form>
    </search>
  );
}
