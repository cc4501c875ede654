import { capital, sayCount, sayCounted, sayFigure, sayWhen } from "@/core/time/say";
import type { Alike, Lately, ListedReview, Writer } from "@/features/reviews";
import { ToneSentence } from "@/features/reviews/parts/ToneSentence.client";
import { siteProblemWords } from "@/locales/operations";
import { themeWords } from "@/locales/themes";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

import type { Seen } from "./loadHeard";

const LIST = new Intl.ListFormat("en-GB");

type WriterProps = { open: ListedReview; writer: Writer | null; slug: string; zone: string; now: number };

/** Who very likely wrote the review that is open, and why one thinks so. */
function WriterNote({ open, writer, slug, zone, now }: WriterProps) {
  const { review, branch } = open;
  if (!writer)
    return (
      <Note title={review.author}>
        <p>
          We can’t tell who this is: nobody with this name, or more than one person, was asked at {branch} in the two
          months before.
        </p>
      </Note>
    );
  return (
    <Note title={review.author}>
      <p>
        Very likely <Link href={`/c/${slug}/people/${writer.personId}`}>{writer.name}</Link>: the only person with this
        name asked at {branch} recently
        {writer.askedAt ? `, ${sayWhen(zone, writer.askedAt, now)}` : ""}
        {writer.followedAt ? `; they opened the review page ${sayWhen(zone, writer.followedAt, now)}` : ""}.
      </p>
      <p>
        {capital(sayCount(writer.visits, "visit"))} in the year before
        {writer.lastWith ? `, the last with ${writer.lastWith}` : ""}. Drafts never mention any of this.
      </p>
      {writer.concernId ? (
        <p>
          They also told you privately: <Link href={`/c/${slug}/heard/concerns/${writer.concernId}`}>their note</Link>.
        </p>
      ) : null}
    </Note>
  );
}

/** How long reviews like the open one wait at its branch. */
function AlikeNote({ open: { review, branch }, alike }: { open: ListedReview; alike: Alike }) {
  const { count, answered, medianHours } = alike;
  const kind = review.rating >= 4 ? "happy" : "unhappy";
  return (
    <Note title={`${branch} recently`}>
      <p>
        {capital(sayCount(count, `other ${kind} review`, `other ${kind} reviews`))} in the last three months
        {answered === 0 || medianHours === null ? (
          ", none answered."
        ) : (
          <>
            ; <b>{answered}</b> answered, half of them within{" "}
            <b>
              {medianHours < 36
                ? sayCount(Math.max(1, Math.round(medianHours)), "hour")
                : sayCount(Math.round(medianHours / 24), "day")}
            </b>
            .
          </>
        )}
      </p>
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

export function HeardMargin({ seen, slug, zone, now, maySetUp, open }: MarginProps) {
  const { listings } = seen.setting;
  const sites = [...new Set(listings.map(({ site }) => site))];
  const read = [...new Set(listings.filter(({ connector }) => connector !== null).map(({ site }) => site))];
  const linkOnly = sites.filter((site) => !read.includes(site));
  return (
    <>
      {open ? <WriterNote open={open} writer={seen.writer} slug={slug} zone={zone} now={now} /> : null}
      {open && seen.alike ? <AlikeNote open={open} alike={seen.alike} /> : null}
      <Note title="Replies">
        <p>
          {seen.counts.lately === 0 ? (
            "No reviews in the last 30 days."
          ) : (
            <>
              {seen.counts.lately === 1 ? (
                `The one review of the last 30 days is ${seen.counts.answered === 1 ? "" : "not "}answered`
              ) : (
                <>
                  <b>{Math.round((100 * seen.counts.answered) / seen.counts.lately)}%</b> of the {seen.counts.lately}{" "}
                  reviews in the last 30 days have been answered
                </>
              )}
              {seen.counts.medianHours === null ? (
                "."
              ) : (
                <>
                  , half of them within <b>{sayFigure(Math.max(1, Math.round(seen.counts.medianHours)), "hour")}</b>.
                </>
              )}{" "}
              <Link href={`/c/${slug}/heard/answered`}>See by site, branch and person</Link>
            </>
          )}
        </p>
      </Note>
      <Note title="Rules">
        <p>
          <Link href={`/c/${slug}/heard/rules`}>Rules and saved replies</Link> take care of the happy reviews, so you
          have time for the others.
        </p>
      </Note>
      <LatelyNote lately={seen.lately} slug={slug} />
      <Note title="Drafts">
        <p>
          Drafts pick up the review’s own words, in its language, and sound{" "}
          <ToneSentence slug={maySetUp ? slug : null} tone={seen.setting.client.replyTone} />. They never mention
          anything the review doesn’t, promise money or repeat an earlier reply.
        </p>
      </Note>
      {seen.letters.isAny ? (
        <Note title="Conversations">
          <p>
            Messages people send by text or email. Your office hours and your away message are under{" "}
            {maySetUp ? <Link href={`/c/${slug}/set-up/answering`}>Set-up, Answering</Link> : "Set-up, Answering"}.
          </p>
        </Note>
      ) : null}
      <Note title="Notifications">
        <p>
          <Link href={`/c/${slug}/heard/told`}>Choose</Link> what you’re notified about, how and when.
        </p>
      </Note>
      <Note title="Concerns">
        <p>
          <b>{seen.notes.open}</b> of {sayCounted(seen.notes.all)} concerns are open. Unhappy customers who hear back
          within a day often return.
        </p>
      </Note>
      {seen.automated > 0 ? (
        <Note title="Looks automated">
          <p>
            <Link href={`/c/${slug}/heard/automated`}>
              {capital(sayCount(seen.automated, "answer"))} {seen.automated === 1 ? "looks" : "look"} automated
            </Link>
            . Read {seen.automated === 1 ? "it" : "them"} to be sure.
          </p>
        </Note>
      ) : null}
      <Note title="Your own page">
        <p>
          {seen.setting.client.reviewsAddress ? (
            <>
              Customers who agreed are shown on{" "}
              <a href={`/reviews/${seen.setting.client.reviewsAddress}`}>your page of reviews</a>.
              {seen.ownCounts.hidden > 0
                ? ` ${capital(sayCounted(seen.ownCounts.hidden))} hidden, and the page says so.`
                : ""}
            </>
          ) : (
            "Your own reviews page doesn’t have an address yet. Set one under Set-up, The business."
          )}
        </p>
      </Note>
      <Note title="Where reviews come from">
        <p>
          {read.length === 0
            ? "We aren’t collecting reviews from any site yet."
            : `Reviews on ${LIST.format(read)} are collected every minute. We notice edits and deletions, and keep what was there.`}
          {linkOnly.length === 0
            ? ""
            : ` ${LIST.format(linkOnly)} ${linkOnly.length === 1 ? "is" : "are"} link-only: we can’t collect reviews from there.`}
          {seen.setting.listings.flatMap(({ site, collectError }) =>
            collectError ? [` We can’t read ${site}: ${siteProblemWords(collectError)}.`] : [],
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
    <Note title="What people mention">
      <p>In the last {read} reviews with comments:</p>
      <ul className="mt-1 space-y-0.5">
        {tallies.slice(0, 5).map(({ theme, texts, unhappy }) => (
          <li key={theme}>
            <b>{themeWords(theme)}</b> in {texts}
            {unhappy === 0 ? ", all happy" : unhappy === texts ? ", all unhappy" : `, ${unhappy} of them unhappy`}
          </li>
        ))}
      </ul>
      <p>
        <Link href={`/c/${slug}/heard/themes`}>See everything they mention, and what’s on the rise</Link>
      </p>
    </Note>
  );
}
