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

/** How long reviews like the open one wait at its branch. */
function AlikeNote({ open: { review, branch }, alike }: { open: ListedReview; alike: Alike }) {
  const { count, answered, medianHours } = alike;
  const kind = review.rating >= 4 ? "happy" : "unhappy";
  return (
    <Note title={`${branch} lately`}>
      <p>
        {capital(sayCount(count, `other ${kind} review`, `other ${kind} reviews`))} in the three months before
        {answered === 0 || medianHours === null ? (
          ", none of them answered."
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
            "No review in the last 30 days."
          ) : (
            <>
              {seen.counts.lately === 1 ? (
                `The one review of the last 30 days is ${seen.counts.answered === 1 ? "" : "not "}answered`
              ) : (
                <>
                  <b>{Math.round((100 * seen.counts.answered) / seen.counts.lately)}%</b> of the last 30 days’{" "}
                  {seen.counts.lately} reviews are answered
                </>
              )}
              {seen.counts.medianHours === null ? (
                "."
              ) : (
                <>
                  , half of them within <b>{sayFigure(Math.max(1, Math.round(seen.counts.medianHours)), "hour")}</b>.
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
      {seen.letters.isAny ? (
        <Note title="Conversations">
          <p>
            What people write by text or email. When you are there to answer, and what they get outside your hours,
            stands under{" "}
            {maySetUp ? <Link href={`/c/${slug}/set-up/answering`}>Set-up, Answering</Link> : "Set-up, Answering"}.
          </p>
        </Note>
      ) : null}
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
