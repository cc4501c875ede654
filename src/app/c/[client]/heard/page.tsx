import type { ReactNode } from "react";
import { may } from "@/core/access/permissions";
import { type Heard as HeardEntry, inReadingOrder } from "@/core/heard/readingOrder";
import { THEMES } from "@/core/themes/themes";
import { capital, sayCount, sayCounted } from "@/core/time/say";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { ConcernCard } from "@/features/concerns/parts/ConcernCard";
import { CONVERSATIONS_PAGE } from "@/features/conversations";
import { ConversationCard } from "@/features/conversations/parts/ConversationCard";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { OWN_REVIEWS_PAGE } from "@/features/own-reviews";
import { OwnReviewCard } from "@/features/own-reviews/parts/OwnReviewCard";
import { namedIn, REVIEWS_PAGE, viewQuery } from "@/features/reviews";
import { HeardKeys } from "@/features/reviews/parts/HeardKeys.client";
import { ReviewCard } from "@/features/reviews/parts/ReviewCard";
import { ReviewViews } from "@/features/reviews/parts/ReviewViews.client";
import { themeWords } from "@/locales/themes";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { countChoices } from "./actions";
import { HeardMargin } from "./HeardMargin";
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
    const { state, who, order } = wanted;
    const show = change.show ?? wanted.show;
    for (const [name, value] of Object.entries({
      show: wanted.show,
      site: wanted.site,
      branch: wanted.branch,
      ...(show === "reviews" ? { member, language, rating, words, answered, since, theme, q } : {}),
      ...(show === "conversations" || show === "concerns" ? { state, who } : {}),
      ...(show === "concerns" ? { member } : {}),
      ...(show === "waiting" ? { order } : {}),
      ...change,
    }))
      if (value && value !== "waiting") to.set(name, value);
    return `/c/${slug}/heard${to.size ? `?${to}` : ""}`;
  };
  const chip = (href: string, here: boolean, words: string, count?: number) => (
    <Link key={words} href={href} className="chip" aria-current={here ? "true" : undefined}>
      {words}
      {count === undefined ? null : <span className="opacity-75">{count.toLocaleString("en-GB")}</span>}
    </Link>
  );
  const filters = filtersOf(seen, wanted, { slug, userId: access.user.id, link });
  const shownReviews = seen.reviews.slice(0, REVIEWS_PAGE);
  const entries = entriesOf(seen, wanted, { access, now, mayReply });
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
          open={seen.reviews.find(({ review }) => review.id === wanted.open) ?? null}
        />
      }
    >
      <LiveRefresh seconds={20} />
      <h1 className="title">{titleOf(wanted, seen)}</h1>
      <nav aria-label="What is shown" className="mt-4 mb-4 flex flex-wrap gap-2">
        {chip(link({ show: "waiting", before: null }), wanted.show === "waiting", "Waiting", waiting)}
        {chip(link({ show: "concerns", before: null }), wanted.show === "concerns", "Private notes", seen.notes.all)}
        {seen.letters.isAny
          ? chip(
              link({ show: "conversations", before: null }),
              wanted.show === "conversations",
              "Conversations",
              seen.letters.waiting,
            )
          : null}
        {chip(link({ show: "reviews", before: null }), wanted.show === "reviews", "Public reviews", seen.counts.all)}
        {seen.counts.aside > 0
          ? chip(link({ show: "aside", before: null }), wanted.show === "aside", "Set aside", seen.counts.aside)
          : null}
        {seen.counts.planned > 0
          ? chip(
              link({ show: "planned", before: null }),
              wanted.show === "planned",
              "Planned by rule",
              seen.counts.planned,
            )
          : null}
        {chip(link({ show: "own", before: null }), wanted.show === "own", "On your own page", seen.ownCounts.shown)}
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
            ? "Everything is answered."
            : wanted.show === "conversations"
              ? wanted.state === null
                ? "Nobody waits for an answer. What people write by text or email appears here."
                : "There is none of these."
              : wanted.show === "own"
                ? "No customer has let you show their words yet. A plan asks for it under “What the page asks”."
                : "Nothing has come in yet. It appears here by itself."}
        </Empty>
      ) : null}
      <HeardKeys>{entries.map(({ node }) => node)}</HeardKeys>
      {later > 0 ? (
        <p className="text-second mt-4">
          {capital(sayCounted(later))} more wait behind these, happier or more recent. They move up as these are
          answered.
        </p>
      ) : null}
      {(wanted.show === "reviews" || wanted.show === "aside" || wanted.show === "planned") &&
      seen.reviews.length > REVIEWS_PAGE &&
      last ? (
        <p className="mt-5">
          <Link href={link({ before: `${last.writtenAt}~${last.id}` })} className="button">
            Earlier ones
          </Link>
        </p>
      ) : null}
      {wanted.show === "conversations" && lastLetter && wanted.state !== null ? (
        <p className="mt-5">
          <Link
            href={link({ before: `${lastLetter.conversation.lastAt}~${lastLetter.conversation.id}` })}
            className="button"
          >
            Earlier ones
          </Link>
        </p>
      ) : null}
      {wanted.show === "own" && seen.own.length > OWN_REVIEWS_PAGE ? (
        <p className="mt-5">
          <Link href={link({ before: seen.own[OWN_REVIEWS_PAGE - 1].id })} className="button">
            Earlier ones
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

type Entry = HeardEntry & { node: ReactNode };

/** All that the page shows, each as its card, in the order in which it is read. */
function entriesOf(seen: Seen, wanted: Wanted, it: { access: Access; now: number; mayReply: boolean }): Entry[] {
  const { access, now, mayReply } = it;
  const { slug, zone } = access.seat;
  const isWaiting = wanted.show === "waiting";
  const concerns = seen.concerns.filter(
    ({ concern }) => !isWaiting || !wanted.branch || concern.branchId === wanted.branch,
  );
  const shown = seen.reviews.slice(0, REVIEWS_PAGE);
  const isFirst = concerns.length + seen.conversations.length + seen.own.length === 0;
  const entries: Entry[] = [
    ...concerns.map((one) => ({
      rating: one.concern.rating,
      at: one.concern.openedAt,
      isAnswered: one.concern.answeredAt !== null,
      node: (
        <ConcernCard
          key={one.concern.id}
          it={one}
          slug={slug}
          zone={zone}
          now={now}
          named={namedIn(one.concern.words, seen.setting)}
        />
      ),
    })),
    ...seen.conversations.slice(0, CONVERSATIONS_PAGE).map((one) => ({
      rating: null,
      at: one.conversation.waitingSince ?? one.conversation.lastAt,
      node: <ConversationCard key={one.conversation.id} it={one} slug={slug} zone={zone} now={now} />,
    })),
    ...shown.map((one, index) => ({
      rating: one.review.rating,
      at: one.review.writtenAt,
      node: (
        <ReviewCard
          key={one.review.id}
          it={one}
          slug={slug}
          zone={zone}
          now={now}
          mayPost={mayReply}
          mayDraft={may(access.seat, "draft replies")}
          isOpen={wanted.open === one.review.id}
          isWaiting={isWaiting}
          signature={access.user.signature}
          drafted={seen.drafts.get(one.review.id)}
          isFirst={isWaiting && isFirst && index === 0}
          unlike={seen.unlike.get(one.review.listingId)}
          hasOutside={seen.setting.client.textService !== null}
        />
      ),
    })),
    ...seen.own.slice(0, OWN_REVIEWS_PAGE).map((review) => ({
      rating: review.rating,
      at: review.writtenAt,
      node: (
        <OwnReviewCard
          key={review.id}
          review={review}
          slug={slug}
          branch={seen.setting.branches.find(({ id }) => id === review.branchId)?.name ?? ""}
          now={now}
          mayReply={mayReply}
        />
      ),
    })),
  ];
  return isWaiting ? inReadingOrder(entries, wanted.order ?? "unhappiest") : entries;
}

function titleOf(wanted: Wanted, { waiting, notes, counts, ownCounts, reviews, letters }: Seen): string {
  const { show } = wanted;
  if (show === "concerns") return `${sayCounted(notes.all)} private notes, ${notes.open} of them open.`;
  if (show === "conversations")
    return letters.waiting === 0
      ? "Nobody who wrote waits for an answer."
      : `${capital(sayCount(letters.waiting, "person who wrote waits", "people who wrote wait"))} for an answer.`;
  if (show === "own")
    return ownCounts.shown === 1
      ? "One review on your own page."
      : `${capital(sayCounted(ownCounts.shown))} reviews on your own page.`;
  if (show === "aside")
    return `${capital(sayCount(counts.aside, "review is", "reviews are"))} set aside, and wait for no reply.`;
  if (show === "planned")
    return `${capital(sayCount(counts.planned, "reply is", "replies are"))} posted by rule, each in its time.`;
  if (show === "reviews" && wanted.q)
    return reviews.length === 0
      ? `Nobody wrote “${wanted.q}”.`
      : `${reviews.length > REVIEWS_PAGE ? `More than ${REVIEWS_PAGE}` : capital(sayCount(reviews.length, "review"))} with “${wanted.q}”, the latest first.`;
  if (show === "reviews") return `${counts.all.toLocaleString("en-GB")} public reviews.`;
  if (waiting === 0) return "Nobody is waiting for a reply.";
  return `${capital(sayCount(waiting, "is", "are"))} waiting for a reply, the unhappiest first.`;
}

type Narrowing = "site" | "branch" | "member" | "rating" | "words" | "answered" | "language" | "since" | "theme" | "q";
type Change = Partial<Record<Narrowing | "state" | "who" | "order" | "show" | "before", string | null>>;

/** By branch and by site, where there are several; all reviews by what they are as well. */
function filtersOf(
  { setting, staff }: Seen,
  wanted: Wanted,
  it: { slug: string; userId: string; link: (change: Change) => string },
) {
  const { branches, listings, team } = setting;
  const { slug, userId, link } = it;
  const address = viewQuery(wanted);
  const part = (
    name: Exclude<Narrowing, "q"> | "state" | "who" | "order",
    label: string,
    any: string,
    choices: readonly { value: string; words: string }[],
  ) =>
    filterPart({
      label,
      any,
      value: wanted[name],
      choices,
      href: (value) => link({ [name]: value, before: null }),
      ...(wanted.show === "reviews" && name !== "since"
        ? { counts: countChoices.bind(null, slug, name, address) }
        : {}),
    });
  const memberPart = () =>
    part(
      "member",
      "Team member",
      "anybody",
      team.map(({ id, name }) => ({ value: id, words: name })),
    );
  const choices = (pairs: Record<string, string>) => Object.entries(pairs).map(([value, words]) => ({ value, words }));
  const sites = [...new Set(listings.map(({ site }) => site))];
  const bySite = sites.length > 1 && ["waiting", "reviews", "aside", "planned"].includes(wanted.show);
  const filters: (string | FilterPart)[] = [];
  if (wanted.show === "waiting")
    filters.push(
      part("order", "Order", "The unhappiest first", [{ value: "date", words: "The latest first" }]),
      branches.length > 1 || bySite ? ", " : ".",
    );
  const whoPart = () =>
    part("who", "Who sees to them", "whoever sees to them", [
      { value: userId, words: "yours" },
      { value: "nobody", words: "nobody’s yet" },
      ...staff.filter(({ id }) => id !== userId).map(({ id, name }) => ({ value: id, words: `${name}’s` })),
    ]);
  if (wanted.show === "concerns")
    filters.push(
      "Showing ",
      part("state", "Which", "all of them", [{ value: "open", words: "open ones" }]),
      ", ",
      whoPart(),
      ...(team.length > 0 ? [", about visits with ", memberPart()] : []),
      branches.length > 1 ? ", " : ".",
    );
  if (wanted.show === "conversations")
    filters.push(
      "Showing ",
      part("state", "Which", "those that wait", [
        { value: "aside", words: "those set aside" },
        { value: "all", words: "all of them" },
      ]),
      ", ",
      whoPart(),
      branches.length > 1 ? ", " : ".",
    );
  if (wanted.show === "reviews")
    filters.push(
      "Showing ",
      part(
        "rating",
        "Rating",
        "every review",
        choices({ unhappy: "the unhappy", mixed: "those in between", happy: "the happy" }),
      ),
      ", ",
      part("words", "With words", "with or without words", choices({ with: "with words", without: "without words" })),
      ", ",
      part("answered", "Answered", "answered or not", choices({ yes: "answered", no: "not answered" })),
      ", in ",
      part(
        "language",
        "Language",
        "any language",
        LANGUAGES.map((value) => ({ value, words: LANGUAGE_NAMES[value] })),
      ),
      ", about ",
      part(
        "theme",
        "What they name",
        "anything",
        THEMES.map((theme) => ({ value: theme, words: themeWords(theme).toLowerCase() })),
      ),
      ", from ",
      part(
        "since",
        "Since when",
        "any time",
        choices({ week: "the last 7 days", month: "the last 30 days", quarter: "the last three months" }),
      ),
      ...(team.length > 0 ? [", after visits with ", memberPart()] : []),
      branches.length > 1 || bySite ? ", " : ".",
    );
  const begins = (first: string) => (filters.length === 0 ? first : first.toLowerCase());
  if (branches.length > 1)
    filters.push(
      begins("At "),
      part("branch", "Branch", "all branches", namedChoices(branches)),
      bySite ? ", on " : ".",
    );
  else if (bySite) filters.push(begins("On "));
  if (bySite)
    filters.push(
      part(
        "site",
        "Site",
        "all sites",
        sites.map((site) => ({ value: site, words: site })),
      ),
      ".",
    );
  return filters;
}

/** Finds reviews by words and names; what else is set stays set. */
function SearchWords({ slug, wanted, clear }: { slug: string; wanted: Wanted; clear: string }) {
  const { site, branch, member, language, rating, words, answered, since, theme } = wanted;
  const kept = { show: "reviews", site, branch, member, language, rating, words, answered, since, theme };
  return (
    <search>
      <form action={`/c/${slug}/heard`} className="mb-3 flex flex-wrap items-center gap-2">
        {Object.entries(kept).map(([name, value]) =>
          value ? <input key={name} type="hidden" name={name} value={value} /> : null,
        )}
        <label className="sr-only" htmlFor="find-reviews">
          Words or names
        </label>
        <input
          id="find-reviews"
          type="search"
          name="q"
          defaultValue={wanted.q ?? ""}
          placeholder="Words or names"
          className="field !w-[min(320px,100%)]"
        />
        <button type="submit" className="button">
          Find
        </button>
        {wanted.q ? (
          <Link href={clear} className="button-quiet">
            Show all again
          </Link>
        ) : null}
      </form>
    </search>
  );
}
