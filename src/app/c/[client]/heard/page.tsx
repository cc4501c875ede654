import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { sayRating } from "@/core/reviews/rating";
import { capital, sayAgo, sayCount, sayCounted, sayWhen } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { loadSetting } from "@/features/clients";
import { countConcerns, listConcerns } from "@/features/concerns";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { nameOrUnknown } from "@/features/people";
import { countReviews, listReviews, REVIEWS_PAGE } from "@/features/reviews";
import { ReplyForm } from "@/features/reviews/parts/ReplyForm.client";
import { siteProblemWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { Bars } from "@/ui/Bars";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Heard" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const SHOWS = ["waiting", "concerns", "reviews"] as const;

const query = z.object({
  show: z.enum(SHOWS).catch("waiting"),
  site: z.string().max(60).transform(cleanText).nullable().catch(null),
  branch: z.uuid().nullable().catch(null),
  open: z.uuid().nullable().catch(null),
  before: pageKey,
});

const LIST = new Intl.ListFormat("en-GB");

export default async function Heard({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "view");
  const search = await searchParams;
  const wanted = query.parse({
    show: search.show ?? "waiting",
    site: search.site ?? null,
    branch: search.branch ?? null,
    open: search.open ?? null,
    before: search.before ?? null,
  });
  const now = await clockNow();
  const { slug, zone, role } = access.seat;
  const seen = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    concerns: wanted.show === "reviews" ? [] : await listConcerns(tx, access, wanted.show === "waiting"),
    reviews:
      wanted.show === "concerns"
        ? []
        : await listReviews(tx, access, {
            waiting: wanted.show === "waiting",
            site: wanted.site,
            branchId: wanted.branch,
            before: wanted.before,
          }),
    counts: await countReviews(tx, access, now - 30 * DAY),
    notes: await countConcerns(tx, access),
  }));
  const waitingNotes = seen.concerns.filter(({ concern }) => concern.state !== "closed");
  const waiting = seen.notes.waiting + seen.counts.waiting;
  const mayReply = may(role, "reply in public");
  const link = (change: Partial<Record<"show" | "site" | "branch" | "before", string | null>>) => {
    const to = new URLSearchParams();
    for (const [name, value] of Object.entries({
      show: wanted.show,
      site: wanted.site,
      branch: wanted.branch,
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
  const part = (name: "branch" | "site", label: string, any: string, choices: { value: string; words: string }[]) =>
    filterPart({ label, any, value: wanted[name], choices, href: (value) => link({ [name]: value, before: null }) });
  const { branches, listings } = seen.setting;
  const sites = [...new Set(listings.map(({ site }) => site))];
  const read = [...new Set(listings.filter(({ connector }) => connector !== null).map(({ site }) => site))];
  const linkOnly = sites.filter((site) => !read.includes(site));
  const filters: (string | FilterPart)[] = [
    ...(branches.length > 1 ? ["From ", part("branch", "Branch", "all branches", namedChoices(branches))] : []),
    ...(sites.length > 1
      ? [
          branches.length > 1 ? ", on " : "On ",
          part(
            "site",
            "Site",
            "all sites",
            sites.map((site) => ({ value: site, words: site })),
          ),
        ]
      : []),
    ...(branches.length > 1 || sites.length > 1 ? ["."] : []),
  ];
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
        <>
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
                  )}
                </>
              )}
            </p>
          </Note>
          <Note title="Private notes">
            <p>
              <b>{seen.notes.open}</b> of {sayCounted(seen.notes.all)} concerns are open. An unhappy customer who hears
              back within a day often comes again.
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
      }
    >
      <LiveRefresh seconds={20} />
      <h1 className="title">
        {wanted.show === "waiting"
          ? waiting === 0
            ? "Nobody is waiting for a reply."
            : `${sayCount(waiting, "is", "are").replace(/^./, (c) => c.toUpperCase())} waiting for a reply, the unhappiest first.`
          : wanted.show === "concerns"
            ? `${sayCounted(seen.notes.all)} private notes, ${seen.notes.open} of them open.`
            : `${seen.counts.all.toLocaleString("en-GB")} public reviews.`}
      </h1>
      <nav aria-label="What is shown" className="mt-4 mb-4 flex flex-wrap gap-2">
        {chip(link({ show: "waiting", before: null }), wanted.show === "waiting", "Waiting", waiting)}
        {chip(link({ show: "concerns", before: null }), wanted.show === "concerns", "Private notes", seen.notes.all)}
        {chip(link({ show: "reviews", before: null }), wanted.show === "reviews", "Public reviews", seen.counts.all)}
      </nav>
      {filters.length > 0 && wanted.show !== "concerns" ? <FilterSentence parts={filters} /> : null}
      {shownConcerns.length + shownReviews.length === 0 ? (
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
            : "Nothing has come in yet. It appears here by itself."}
        </Empty>
      ) : null}
      <div className="space-y-4">
        {shownConcerns.map(({ concern, person, about, service, branch, member }) => (
          <article key={concern.id} className={`sheet p-5 ${concern.state === "new" ? "!border-vermilion" : ""}`}>
            <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
              {concern.rating ? <Bars rating={concern.rating} /> : null}
              <b className="text-ink text-[15px]">{nameOrUnknown(person)}</b>
              <span>
                privately · {about ? `${about}, ` : ""}
                {service.toLowerCase()} at {branch}
                {member ? ` with ${member}` : ""} · {sayAgo(concern.openedAt, now)}
              </span>
              {concern.state === "closed" ? (
                <span className="tag border-rule border">closed: {concern.outcome}</span>
              ) : concern.answeredAt ? (
                <span className="tag bg-leaf-tint text-leaf">answered, still open</span>
              ) : (
                <span className="tag bg-vermilion-tint text-vermilion-deep">
                  {concern.answerBy < now ? "overdue since" : "answer by"} {sayWhen(zone, concern.answerBy, now)}
                </span>
              )}
            </p>
            <p className="said mt-1.5">“{concern.words}”</p>
            <p className="mt-3 flex flex-wrap items-center gap-3">
              <Link href={`/c/${slug}/heard/concerns/${concern.id}`} className="button">
                {concern.state === "closed" ? "Read" : "Read and reply"}
              </Link>
              <span className="text-second text-[14px]">
                {concern.takenBy ? `${concern.takenBy} has taken it.` : "Nobody has taken it."}
              </span>
            </p>
          </article>
        ))}
        {shownReviews.map(({ review, site, url, takesReplies, branch }) => (
          <article
            key={review.id}
            id={`review-${review.id}`}
            className={`sheet scroll-mt-24 p-5 ${wanted.open === review.id ? "!border-mulberry" : ""}`}
          >
            <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
              <Bars rating={review.rating} words={sayRating(review.ownRating, review.scale)} />
              <b className="text-ink text-[15px]">{review.author}</b>
              <span>
                on{" "}
                <a href={url} target="_blank" rel="noopener">
                  {site}
                </a>{" "}
                · {branch} · {sayAgo(review.writtenAt, now)}
              </span>
              {review.editedAt ? (
                <span className="tag bg-ochre-tint text-ochre-deep">changed {sayAgo(review.editedAt, now)}</span>
              ) : null}
              {review.deletedAt ? (
                <span className="tag bg-vermilion-tint text-vermilion-deep">
                  taken down {sayAgo(review.deletedAt, now)}
                </span>
              ) : null}
            </p>
            <p className="said mt-1.5">
              {review.words ? (
                `“${review.words}”`
              ) : (
                <span className="text-second font-sans text-[15px]">No words, only the rating.</span>
              )}
            </p>
            {review.replyState === "posted" ? (
              <div className="border-edge mt-3 border-l-[3px] pl-4">
                <p className="whitespace-pre-wrap">{review.reply}</p>
                <p className="text-second text-[14px]">
                  Replied{review.replyBy ? ` by ${review.replyBy}` : ""}{" "}
                  {review.repliedAt ? sayAgo(review.repliedAt, now) : ""}
                </p>
                {mayReply && wanted.open === review.id ? (
                  <ReplyForm slug={slug} reviewId={review.id} site={site} words={review.reply ?? ""} again />
                ) : mayReply ? (
                  <Link
                    href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`}
                    className="button-quiet -ml-2"
                  >
                    Change the reply
                  </Link>
                ) : null}
              </div>
            ) : null}
            {review.replyState === "failed" ? (
              <p className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
                {capital(siteProblemWords(review.replyError ?? { code: "not reached" }))}. Your words are kept below.
              </p>
            ) : null}
            {mayReply && takesReplies && review.replyState !== "posted" && !review.deletedAt ? (
              wanted.open === review.id || wanted.show === "waiting" ? (
                <details className="mt-3" open={wanted.open === review.id || review.replyState === "failed"}>
                  <summary className="button">Reply</summary>
                  <ReplyForm slug={slug} reviewId={review.id} site={site} words={review.reply ?? ""} again={false} />
                </details>
              ) : (
                <p className="mt-3">
                  <Link href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`} className="button">
                    Reply
                  </Link>
                </p>
              )
            ) : null}
          </article>
        ))}
      </div>
      {later > 0 ? (
        <p className="text-second mt-4">
          {capital(sayCounted(later))} more wait behind these, happier or more recent. They move up as these are
          answered.
        </p>
      ) : null}
      {wanted.show === "reviews" && seen.reviews.length > REVIEWS_PAGE && last ? (
        <p className="mt-5">
          <Link href={link({ before: `${last.writtenAt}~${last.id}` })} className="button">
            Earlier ones
          </Link>
        </p>
      ) : null}
    </Page>
  );
}
