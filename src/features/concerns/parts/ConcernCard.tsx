import type { Found } from "@/core/themes/reading";
import { sayAgo, sayWhen } from "@/core/time/say";
import { nameOrUnknown } from "@/features/people";
import { concernOutcomeWords } from "@/locales/operations";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";
import type { ListedConcern } from "../queries";
import { RatingNow } from "./RatingNow";

/** One private note in a list: who wrote it about what, whether it is answered, and who has taken it. */
export function ConcernCard({
  it,
  slug,
  zone,
  now,
  named,
}: {
  it: ListedConcern;
  slug: string;
  zone: string;
  now: number;
  /** What its words name. */
  named: readonly Found[];
}) {
  const { concern, written, ratings, person, about, service, branch, member } = it;
  return (
    <article
      data-entry=""
      tabIndex={-1}
      className={`sheet focus:!border-mulberry p-5 outline-none ${concern.state === "new" ? "!border-vermilion" : ""}`}
    >
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        <RatingNow rating={concern.rating} ratings={ratings} zone={zone} now={now} />
        <b className="text-ink text-[15px]">{nameOrUnknown(person)}</b>
        <span>
          {`concern · ${about ? `${about}, ` : ""}${service.toLowerCase()} at ${branch}${member ? ` with ${member}` : ""} · ${sayAgo(concern.openedAt, now)}`}
        </span>
        {concern.state === "closed" ? (
          <span className="tag border-rule border">
            closed: {concern.outcome ? concernOutcomeWords(concern.outcome) : ""}
          </span>
        ) : it.wroteBackAt ? (
          <span className="tag bg-ochre-tint text-ochre-deep">wrote back, waiting for an answer</span>
        ) : concern.answeredAt ? (
          <span className="tag bg-leaf-tint text-leaf">answered, still open</span>
        ) : (
          <span className="tag bg-vermilion-tint text-vermilion-deep">
            {`${concern.answerBy < now ? "overdue since" : "answer by"} ${sayWhen(zone, concern.answerBy, now)}`}
          </span>
        )}
      </p>
      <p className="said mt-1.5">
        {written === "" ? "No words, only the rating." : <SaidWords words={written} named={named} />}
      </p>
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <Link href={`/c/${slug}/heard/concerns/${concern.id}`} className="button">
          {concern.state === "closed" ? "Read" : "Read and reply"}
        </Link>
        <span className="text-second text-[14px]">
          {concern.takenBy
            ? `${concern.takenBy} ${concern.state === "new" ? "has been assigned this" : "is handling this"}.`
            : "Nobody’s picked this up."}
        </span>
      </p>
    </article>
  );
}
