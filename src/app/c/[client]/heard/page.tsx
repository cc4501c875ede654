import { z } from "zod";
import { may } from "@/core/access/permissions";
import { THEMES } from "@/core/themes/themes";
import { capital, sayCount, sayCounted, sayWhen } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { loadSetting, type Setting } from "@/features/clients";
import { countConcerns, listConcerns } from "@/features/concerns";
import { ConcernCard } from "@/features/concerns/parts/ConcernCard";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { countOwnReviews, listOwnReviews, OWN_REVIEWS_PAGE } from "@/features/own-reviews";
import { OwnReviewCard } from "@/features/own-reviews/parts/OwnReviewCard";
import {
  countReviews,
  draftedOf,
  type Lately,
  type ListedReview,
  listReviews,
  listReviewViews,
  namedIn,
  namedLately,
  openDesk,
  ownLanguage,
  REVIEWS_PAGE,
  viewQuery,
  type Writer,
  writerOf,
} from "@/features/reviews";
import { HeardKeys } from "@/features/reviews/parts/HeardKeys.client";
import { ReviewCard } from "@/features/reviews/parts/ReviewCard";
import { ReviewViews } from "@/features/reviews/parts/ReviewViews.client";
import { ToneSentence } from "@/features/reviews/parts/ToneSentence.client";
import { siteProblemWords } from "@/locales/operations";
import { themeWords } from "@/locales/themes";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Heard" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const SHOWS = ["waiting", "concerns", "reviews", "own", "aside", "planned"] as const;

const query = z.object({
  show: z.enum(SHOWS).catch("waiting"),
  site: z.string().max(60).transform(cleanText).nullable().catch(null),
  branch: z.uuid().nullable().catch(null),
  rating: z.enum(["unhappy", "mixed", "happy"]).nullable().catch(null),
  words: z.enum(["with", "without"]).nullable().catch(null),
  answered: z.enum(["yes", "no"]).nullable().catch(null),
  since: z.enum(["week", "month", "quarter"]).nullable().catch(null),
  theme: z.enum(THEMES).nullable().catch(null),
  q: z
    .string()
    .max(100)
    .transform((text) => cleanText(text).trim())
    .nullable()
    .catch(null),
  open: z.uuid().nullable().catch(null),
  before: pageKey,
  ownBefore: z.uuid().nullable().catch(null),
});

const RATINGS = { unhappy: [1, 2], mixed: [3, 3], happy: [4, 5] } as const;
const SINCE_DAYS = { week: 7, month: 30, quarter: 91 } as const;

const LIST = new Intl.ListFormat("en-GB");

export default async function Heard({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const search = await searchParams;
  const wanted = query.parse({
    show: search.show ?? "waiting",
    site: search.site ?? null,
    branch: search.branch ?? null,
    rating: search.rating ?? null,
    words: search.words ?? null,
    answered: search.answered ?? null,
    since: search.since ?? null,
    theme: search.theme ?? null,
    q: search.q ?? null,
    open: search.open ?? null,
    before: search.before ?? null,
    ownBefore: search.before ?? null,
  });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await loadHeard(access, wanted, now);
  const waitingNotes = seen.concerns.filter(({ concern }) => concern.state !== "closed");
  const { waiting } = seen;
  const mayReply = may(access.seat, "reply in public");
  const link = (change: Change) => {
    const to = new URLSearchParams();
    // What only narrows all reviews down falls away with them.
    const { rating, words, answered, since, theme, q } = wanted;
    const isAll = (change.show ?? wanted.show) === "reviews";
    for (const [name, value] of Object.entries({
      show: wanted.show,
      site: wanted.site,
      branch: wanted.branch,
      ...(isAll ? { rating, words, answered, since, theme, q } : {}),
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
  const filters = filtersOf(seen.setting, wanted, link);
  const shownConcerns =
    wanted.show === "waiting"
      ? waitingNotes.filter(({ concern }) => !wanted.branch || concern.branchId === wanted.branch)
      : seen.concerns;
  const shownReviews = seen.reviews.slice(0, REVIEWS_PAGE);
  const later = wanted.show === "waiting" ? waiting - shownReviews.length - waitingNotes.length : 0;
  const last = shownReviews.at(-1)?.review;
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
      {filters.length > 0 && wanted.show !== "concerns" ? <FilterSentence parts={filters} /> : null}
      {shownConcerns.length + shownReviews.length + seen.own.length === 0 ? (
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
            : wanted.show === "own"
              ? "No customer has let you show their words yet. A plan asks for it under “What the page asks”."
              : "Nothing has come in yet. It appears here by itself."}
        </Empty>
      ) : null}
      <HeardKeys>
        {shownConcerns.map((it) => (
          <ConcernCard
            key={it.concern.id}
            it={it}
            slug={slug}
            zone={zone}
            now={now}
            named={namedIn(it.concern.words, seen.setting)}
          />
        ))}
        {shownReviews.map((it, index) => (
          <ReviewCard
            key={it.review.id}
            it={it}
            slug={slug}
            zone={zone}
            now={now}
            mayPost={mayReply}
            mayDraft={may(access.seat, "draft replies")}
            isOpen={wanted.open === it.review.id}
            isWaiting={wanted.show === "waiting"}
            signature={access.user.signature}
            drafted={seen.drafts.get(it.review.id)}
            isFirst={wanted.show === "waiting" && shownConcerns.length === 0 && index === 0}
            unlike={seen.unlike.get(it.review.listingId)}
          />
        ))}
        {seen.own.slice(0, OWN_REVIEWS_PAGE).map((review) => (
          <OwnReviewCard
            key={review.id}
            review={review}
            slug={slug}
            branch={seen.setting.branches.find(({ id }) => id === review.branchId)?.name ?? ""}
            now={now}
            mayReply={mayReply}
          />
        ))}
      </HeardKeys>
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

type Wanted = z.output<typeof query>;
type Seen = Awaited<ReturnType<typeof loadHeard>>;

async function loadHeard(access: Access, wanted: Wanted, now: number) {
  const { show, site, branch, before, ownBefore } = wanted;
  const narrowed =
    show === "reviews"
      ? {
          ratings: wanted.rating && RATINGS[wanted.rating],
          words: wanted.words,
          answered: wanted.answered && wanted.answered === "yes",
          since: wanted.since && now - SINCE_DAYS[wanted.since] * DAY,
          theme: wanted.theme,
          search: wanted.q || null,
        }
      : {};
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const reviews =
      show === "concerns" || show === "own"
        ? []
        : await listReviews(tx, access, {
            waiting: show === "waiting",
            only: show === "aside" || show === "planned" ? show : null,
            site,
            branchId: branch,
            ...narrowed,
            before,
          });
    return {
      setting,
      reviews,
      views: show === "reviews" ? await listReviewViews(tx, access) : [],
      writer: wanted.open ? await writerOf(tx, access, wanted.open) : null,
      lately: await namedLately(tx, access, branch, ownLanguage(setting)),
      drafted: await loadDrafts(tx, access, setting, reviews),
      ownCounts: await countOwnReviews(tx, access),
      own: show === "own" ? await listOwnReviews(tx, access, branch, ownBefore) : [],
      concerns: show !== "waiting" && show !== "concerns" ? [] : await listConcerns(tx, access, show === "waiting"),
      counts: await countReviews(tx, access, now - 30 * DAY),
      notes: await countConcerns(tx, access),
    };
  });
  return { ...seen, ...seen.drafted, waiting: seen.notes.waiting + seen.counts.waiting };
}

/** What the reviews that are shown name, with a draft for each that can be replied to. */
async function loadDrafts(tx: Tx, access: Access, setting: Setting, list: readonly ListedReview[]) {
  const desk = await openDesk(
    tx,
    access,
    setting,
    list.map(({ review }) => review),
    access.user.signature ?? "",
  );
  return {
    drafts: new Map(list.map(({ review }) => [review.id, draftedOf(desk, review)])),
    /** How many replies of each listing drafts were made unlike. */
    unlike: new Map([...desk.recent].map(([listingId, replies]) => [listingId, replies.length])),
  };
}

function titleOf(wanted: Wanted, { waiting, notes, counts, ownCounts, reviews }: Seen): string {
  const { show } = wanted;
  if (show === "concerns") return `${sayCounted(notes.all)} private notes, ${notes.open} of them open.`;
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

type Narrowing = "site" | "branch" | "rating" | "words" | "answered" | "since" | "theme" | "q";
type Change = Partial<Record<Narrowing | "show" | "before", string | null>>;

/** By branch and by site, where there are several; all reviews by what they are as well. */
function filtersOf({ branches, listings }: Setting, wanted: Wanted, link: (change: Change) => string) {
  const part = (
    name: Exclude<Narrowing, "q">,
    label: string,
    any: string,
    choices: readonly { value: string; words: string }[],
  ) => filterPart({ label, any, value: wanted[name], choices, href: (value) => link({ [name]: value, before: null }) });
  const choices = (pairs: Record<string, string>) => Object.entries(pairs).map(([value, words]) => ({ value, words }));
  const sites = [...new Set(listings.map(({ site }) => site))];
  const bySite = sites.length > 1 && wanted.show !== "own";
  const filters: (string | FilterPart)[] = [];
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
  const { site, branch, rating, words, answered, since, theme } = wanted;
  const kept = { show: "reviews", site, branch, rating, words, answered, since, theme };
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

type WriterProps = { open: ListedReview; writer: Writer | null; slug: string; zone: string; now: number };

/** Who very likely wrote the review that is open, and why one thinks so. */
function WriterNote({ open, writer, slug, zone, now }: WriterProps) {
  const { review, branch } = open;
  if (!writer)
    return (
      <Note title={review.author}>
        <p>
          Nobody is known for it: no one person of this name was asked at {branch} in the two months before, or several
          were.
        </p>
      </Note>
    );
  return (
    <Note title={review.author}>
      <p>
        Very likely <Link href={`/c/${slug}/people/${writer.personId}`}>{writer.name}</Link>: the only one of this name
        who was asked at {branch} lately
        {writer.askedAt ? `, ${sayWhen(zone, writer.askedAt, now)}` : ""}
        {writer.followedAt ? `; they opened the review page ${sayWhen(zone, writer.followedAt, now)}` : ""}.
      </p>
      <p>
        {capital(sayCount(writer.visits, "visit"))} in the year before
        {writer.lastWith ? `, the last with ${writer.lastWith}` : ""}. None of it is said in a draft.
      </p>
      {writer.concernId ? (
        <p>
          They wrote privately too: <Link href={`/c/${slug}/heard/concerns/${writer.concernId}`}>their note</Link>.
        </p>
      ) : null}
    </Note>
  );
}

type MarginProps = {
  seen: Seen;
  slug: string;
  zone: string;
  now: number;
  maySetUp: boolean;
  /** The review that was opened by its address. */
  open: ListedReview | null;
};

function HeardMargin({ seen, slug, zone, now, maySetUp, open }: MarginProps) {
  const { listings } = seen.setting;
  const sites = [...new Set(listings.map(({ site }) => site))];
  const read = [...new Set(listings.filter(({ connector }) => connector !== null).map(({ site }) => site))];
  const linkOnly = sites.filter((site) => !read.includes(site));
  return (
    <>
      {open ? <WriterNote open={open} writer={seen.writer} slug={slug} zone={zone} now={now} /> : null}
      <Note title="Replies">
        <p>
          {seen.counts.lately === 0 ? (
            "No review in the last 30 days."
          ) : (
            <>
              <b>{Math.round((100 * seen.counts.answered) / seen.counts.lately)}%</b> of the last 30 days’{" "}
              {seen.counts.lately} reviews are answered
              {seen.counts.medianHours === null ? (
                "."
              ) : (
                <>
                  , half of them within <b>{Math.max(1, Math.round(seen.counts.medianHours))} hours</b>.
                </>
              )}{" "}
              <Link href={`/c/${slug}/heard/answered`}>By site, branch and person</Link>
            </>
          )}
        </p>
      </Note>
      <Note title="By rule">
        <p>
          <Link href={`/c/${slug}/heard/rules`}>Rules and saved replies</Link> answer the happy many, so that your time
          goes to the others.
        </p>
      </Note>
      <LatelyNote lately={seen.lately} slug={slug} />
      <Note title="Drafts">
        <p>
          Each comes from the review’s own words, in its language, and sounds{" "}
          <ToneSentence slug={maySetUp ? slug : null} tone={seen.setting.client.replyTone} />. None says what the review
          does not, promises money, or repeats a reply.
        </p>
      </Note>
      <Note title="Being told">
        <p>
          <Link href={`/c/${slug}/heard/told`}>You choose</Link> what you are told of, how and when.
        </p>
      </Note>
      <Note title="Private notes">
        <p>
          <b>{seen.notes.open}</b> of {sayCounted(seen.notes.all)} concerns are open. An unhappy customer who hears back
          within a day often comes again.
        </p>
      </Note>
      <Note title="Your own page">
        <p>
          {seen.setting.client.reviewsAddress ? (
            <>
              Customers who agreed stand on{" "}
              <a href={`/reviews/${seen.setting.client.reviewsAddress}`}>your page of reviews</a>.
              {seen.ownCounts.hidden > 0
                ? ` ${capital(sayCounted(seen.ownCounts.hidden))} hidden, as it says there.`
                : ""}
            </>
          ) : (
            "Your own page of reviews has no address yet: it is set under Set-up, The business."
          )}
        </p>
      </Note>
      <Note title="Where it comes from">
        <p>
          {read.length === 0
            ? "No site is read yet."
            : `Reviews on ${LIST.format(read)} are read every minute; edited and deleted ones are noticed and kept.`}
          {linkOnly.length === 0
            ? ""
            : ` ${LIST.format(linkOnly)} ${linkOnly.length === 1 ? "is" : "are"} only linked to: nothing can be read there.`}
          {seen.setting.listings.flatMap(({ site, collectError }) =>
            collectError ? [` ${site} cannot be read: ${siteProblemWords(collectError)}.`] : [],
          )}
        </p>
      </Note>
    </>
  );
}

/** What people have named lately, the most often first. */
function LatelyNote({ lately: { read, tallies }, slug }: { lately: Lately; slug: string }) {
  if (read < 5 || tallies.length === 0) return null;
  return (
    <Note title="What people name">
      <p>In the last {read} reviews with words:</p>
      <ul className="mt-1 space-y-0.5">
        {tallies.slice(0, 5).map(({ theme, texts, unhappy }) => (
          <li key={theme}>
            <b>{themeWords(theme)}</b> in {texts}
            {unhappy === 0
              ? ", all pleased"
              : unhappy === texts
                ? ", none pleased"
                : `, ${unhappy} of them not pleased`}
          </li>
        ))}
      </ul>
      <p>
        <Link href={`/c/${slug}/heard/themes`}>All they name, and whether it rises</Link>
      </p>
    </Note>
  );
}
