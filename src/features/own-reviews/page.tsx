import type { AnyLanguage } from "@/core/words/languages";
import type { Logo } from "@/core/words/logo";
import type { Typeface } from "@/core/words/look";
import { customerDate, customerWords } from "@/locales/customer";
import { CustomerPage } from "@/ui/CustomerPage";
import type { OwnReview } from "./service";

/** What the public page of own reviews shows. */
export type ReviewsView = {
  business: string;
  colour: string;
  logo: Logo | null;
  typeface: Typeface;
  language: AnyLanguage;
  zone: string;
  postalAddress: string;
  /** The branch whose page it is; null for all of them. */
  branch: { name: string; address: string } | null;
  branchNames: ReadonlyMap<string, string>;
  /** Without the part that pages. */
  address: string;
  canonical: string;
  /** The last review of the page before; null for the first page. */
  before: string | null;
  next: string | null;
  reviews: readonly OwnReview[];
  counts: { average: number; count: number } | null;
  hidden: number;
};

/** A business's own reviews, newest first: plain HTML that search engines read too (schema.org, as microdata). */
export function ReviewsPage({ view }: { view: ReviewsView }) {
  const say = customerWords(view.language);
  const { business, branch, counts } = view;
  const title = say("reviews.title", { business });
  return (
    <CustomerPage
      title={branch ? `${title}, ${branch.name}` : title}
      business={business}
      branch={branch?.name}
      colour={view.colour}
      logo={view.logo}
      typeface={view.typeface}
      language={view.language}
      returns={false}
      isListed
      head={
        <>
          <link rel="canonical" href={view.canonical} />
          <meta name="description" content={say("reviews.how")} />
        </>
      }
    >
      <div itemScope itemType="https://schema.org/LocalBusiness">
        <meta itemProp="name" content={branch ? `${business}, ${branch.name}` : business} />
        <meta itemProp="address" content={branch?.address || view.postalAddress} />
        <meta itemProp="url" content={view.address} />
        <h1>{title}</h1>
        {counts ? (
          <p itemProp="aggregateRating" itemScope itemType="https://schema.org/AggregateRating">
            <meta itemProp="ratingValue" content={String(counts.average)} />
            <meta itemProp="reviewCount" content={String(counts.count)} />
            <meta itemProp="bestRating" content="5" />
            {say("reviews.average", {
              average: counts.average.toLocaleString(view.language === "en-XA" ? "en" : view.language),
              count: counts.count,
            })}
          </p>
        ) : (
          <p>{say("reviews.none")}</p>
        )}
        <p className="soft">
          {say("reviews.how")}
          {view.hidden > 0 ? ` ${say("reviews.hidden", { count: view.hidden })}` : ""}
        </p>
        {view.reviews.map((review) => (
          <Shown key={review.id} review={review} view={view} />
        ))}
      </div>
      {view.before || view.next ? (
        <nav className="rate" style={{ gridTemplateColumns: "1fr 1fr" }}>
          {view.before ? (
            <a className="button" href={view.address}>
              {say("reviews.newer")}
            </a>
          ) : (
            <span />
          )}
          {view.next ? (
            <a className="button" rel="next" href={`${view.address}?before=${view.next}`}>
              {say("reviews.older")}
            </a>
          ) : null}
        </nav>
      ) : null}
    </CustomerPage>
  );
}

function Shown({ review, view }: { review: OwnReview; view: ReviewsView }) {
  const say = customerWords(view.language);
  const name = review.name || say("reviews.anonymous");
  const date = new Date(review.writtenAt).toISOString().slice(0, 10);
  const branch = view.branch ? null : view.branchNames.get(review.branchId);
  return (
    <section itemProp="review" itemScope itemType="https://schema.org/Review">
      <p itemProp="reviewRating" itemScope itemType="https://schema.org/Rating" style={{ margin: 0 }}>
        <meta itemProp="ratingValue" content={String(review.rating)} />
        <meta itemProp="bestRating" content="5" />
        <span className="stars" role="img" aria-label={say("rating.of5", { rating: review.rating })}>
          {"★".repeat(review.rating)}
        </span>
      </p>
      <p itemProp="reviewBody" lang={review.language} style={{ whiteSpace: "pre-wrap", overflowWrap: "anywhere" }}>
        {review.words}
      </p>
      <p className="soft">
        <span itemProp="author" itemScope itemType="https://schema.org/Person">
          <span itemProp="name">{name}</span>
        </span>
        {", "}
        <time itemProp="datePublished" dateTime={date}>
          {customerDate(view.language, review.writtenAt, view.zone)}
        </time>
        {branch ? `, ${say("reviews.at", { branch })}` : ""}
      </p>
      {review.reply ? (
        <div itemProp="comment" itemScope itemType="https://schema.org/Comment">
          <p className="soft" style={{ marginBottom: 6 }}>
            <span itemProp="author">{say("reviews.answer", { business: view.business })}</span>
          </p>
          <blockquote itemProp="text">{review.reply}</blockquote>
        </div>
      ) : null}
    </section>
  );
}
