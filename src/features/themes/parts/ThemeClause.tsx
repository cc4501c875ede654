import { sayAgo } from "@/core/time/say";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";
import type { clausesOf } from "../queries";

type Clause = Awaited<ReturnType<typeof clausesOf>>[number];

/** One clause that names a theme, marked in the words around it, with the way to where it was said. */
export function ThemeClause({
  clause,
  theme,
  slug,
  now,
}: {
  clause: Clause;
  theme: string;
  slug: string;
  now: number;
}) {
  const { review_id: reviewId, concern_id: concernId, person_id: personId } = clause;
  const where = reviewId
    ? `/c/${slug}/heard?show=reviews&open=${reviewId}#review-${reviewId}`
    : concernId
      ? `/c/${slug}/heard/concerns/${concernId}`
      : personId
        ? `/c/${slug}/people/${personId}`
        : null;
  return (
    <li className="py-3">
      <p className="said !text-[17px]">
        <SaidWords
          words={clause.words}
          named={[{ theme, polarity: clause.polarity, from: clause.from, to: clause.to }]}
        />
      </p>
      <p className="text-second text-[14px]">
        {clause.author || "Someone"}
        {clause.site ? ` on ${clause.site}` : ", privately"} · {sayAgo(new Date(clause.said_at).getTime(), now)}
        {where ? (
          <>
            {" · "}
            <Link href={where}>
              {reviewId ? "Open the review" : concernId ? "Open the concern" : "Open their story"}
            </Link>
          </>
        ) : null}
      </p>
    </li>
  );
}
