import { sayWhen } from "@/core/time/say";
import type { GivenRating } from "@/schema/answers";
import { Bars } from "@/ui/Bars";

type Props = { rating: number | null; ratings: readonly GivenRating[]; zone: string; now: number };

/** The rating as it is now, and what it was before where the customer has changed it. */
export function RatingNow({ rating, ratings, zone, now }: Props) {
  if (!rating) return null;
  const before = ratings.at(-2);
  const last = ratings.at(-1);
  return (
    <>
      <Bars rating={rating} />
      {before && last ? (
        <span>
          changed from {before.rating} to {last.rating} of 5 {sayWhen(zone, last.at, now)}
        </span>
      ) : null}
    </>
  );
}
