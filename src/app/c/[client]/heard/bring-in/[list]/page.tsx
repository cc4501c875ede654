import { notFound, redirect } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayRating } from "@/core/reviews/rating";
import { capital, sayCount, sayDay } from "@/core/time/say";
import { viewImport } from "@/features/review-import";
import { ColumnsForm, KeepButton } from "@/features/review-import/parts/ImportForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Bars } from "@/ui/Bars";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Check reviews" };

type Props = { params: Promise<{ client: string; list: string }> };

const WRONG_WORDS = {
  "no rating": "we can’t read the rating",
  "no date": "we can’t read the date",
  "in the future": "the date is in the future",
  empty: "the row is empty",
} as const;

/** A file of reviews as it would be kept, to be looked at before it is. */
export default async function LookAtReviews({ params }: Props) {
  const { client, list } = await params;
  const access = await requireAccess(client, "see heard");
  if (!may(access.seat, "set up")) notFound();
  if (!z.uuid().safeParse(list).success) notFound();
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const view = await withClient(access, (tx) => viewImport(tx, access, list, now));
  if (!view) notFound();
  const { found, listing, table, read } = view;
  if (!table || !read) redirect(`/c/${slug}/heard/bring-in`);
  const { reviews, wrong } = read;
  return (
    <Page
      margin={
        <>
          <Note title="Ratings">
            <p>
              {read.scale === "five"
                ? "Ratings go from 1 to 5."
                : read.scale === "ten"
                  ? "Ratings go from 1 to 10, as some are above 5."
                  : "People recommend you or don’t."}
            </p>
          </Note>
          <Note title="Waiting for a reply">
            <p>Reviews from the last two months wait for a reply; older ones are set aside.</p>
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard/bring-in`}>Import reviews</Link>
      </p>
      <h1 className="title">
        {reviews.length === 0
          ? `We can’t read any reviews from ${found.name} yet.`
          : `${capital(sayCount(reviews.length, "review"))} from ${listing.site}, ${listing.branch}: check them before you import.`}
      </h1>
      {wrong.length > 0 ? (
        <div role="status" className="bg-ochre-tint text-ochre-deep mt-4 rounded-[8px] px-3 py-2">
          <p>
            {capital(sayCount(wrong.length, "row"))} can’t be imported{wrong.length > 5 ? "; the first few:" : ":"}
          </p>
          <ul>
            {wrong.slice(0, 5).map(({ line, problem }) => (
              <li key={line}>
                Row {line}: {WRONG_WORDS[problem]}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <h2 className="font-title mt-6 text-[18px] font-semibold">What’s in each column</h2>
      <ColumnsForm
        // Another reading makes it another form.
        key={found.matching.join()}
        slug={slug}
        id={found.id}
        columns={table.headers.map((name, index) => ({
          name,
          holds: found.matching[index] ?? "",
          sample: table.rows.find((row) => row[index]?.trim())?.[index]?.slice(0, 60) ?? "",
        }))}
      />
      <div className="mt-5">
        <KeepButton slug={slug} id={found.id} count={reviews.length} />
      </div>
      <ul className="divide-rule border-rule mt-5 divide-y border-y">
        {reviews.slice(0, 10).map((review, index) => (
          <li key={`${index} ${review.writtenAt}`} className="py-3">
            <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
              <Bars rating={review.rating} words={sayRating(review.value, read.scale)} />
              <b className="text-ink">{review.author}</b>
              <span>{sayDay(zone, review.writtenAt, now)}</span>
            </p>
            {review.words ? <p className="said line-clamp-3 !text-[17px]">{review.words}</p> : null}
            {review.reply ? <p className="border-edge mt-1 border-l-[3px] pl-3">{review.reply}</p> : null}
          </li>
        ))}
      </ul>
      {reviews.length > 10 ? (
        <p className="text-second mt-2">The first ten of {reviews.length.toLocaleString("en-GB")}.</p>
      ) : null}
    </Page>
  );
}
