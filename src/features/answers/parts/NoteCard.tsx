import { sayRating } from "@/core/reviews/rating";
import type { Found } from "@/core/themes/reading";
import { sayAgo } from "@/core/time/say";
import { type Letterbox, nameOrUnknown } from "@/features/people";
import { Bars } from "@/ui/Bars";
import { Opening } from "@/ui/Opening.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";
import type { SaidBeside as Said } from "../beside";
import type { ListedNote } from "../notes";
import { ReadButton, ThankForm } from "./NoteForms.client";
import { SaidBeside } from "./SaidBeside";

type Props = {
  it: ListedNote;
  /** What they said beside rating and words. */
  beside: Said | undefined;
  /** How the writer can be written to; none where nobody can. */
  channels: readonly Letterbox[];
  named: readonly Found[];
  slug: string;
  now: number;
  mayAnswer: boolean;
  signature: string | null;
};

/** One private note of a happy customer: what they wrote, whether someone has read it, and a way to thank them. */
export function NoteCard({
  it: { answer, person, branch },
  beside,
  channels,
  named,
  slug,
  now,
  mayAnswer,
  signature,
}: Props) {
  const name = nameOrUnknown(person);
  const mayWrite = mayAnswer && channels.length > 0;
  return (
    <article
      id={`note-${answer.id}`}
      data-entry=""
      tabIndex={-1}
      className="sheet focus:!border-mulberry p-5 outline-none"
    >
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        {answer.rating ? <Bars rating={answer.rating} words={sayRating(answer.rating)} /> : null}
        <b className="text-ink text-[15px]">
          {person ? <Link href={`/c/${slug}/people/${person.id}`}>{name}</Link> : name}
        </b>
        <span>
          privately · {branch} · {sayAgo(answer.wordsAt ?? answer.givenAt, now)}
        </span>
        {answer.readAt === null ? (
          <span className="tag bg-leaf-tint text-leaf">not read yet</span>
        ) : (
          <span>read by {answer.readBy}</span>
        )}
      </p>
      {answer.words ? (
        <p className="said mt-1.5">
          <SaidWords words={answer.words} named={named} />
        </p>
      ) : null}
      {beside ? <SaidBeside said={beside} slug={slug} name={name} /> : null}
      {mayAnswer ? (
        <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          {answer.readAt === null ? <ReadButton slug={slug} id={answer.id} /> : null}
          {mayWrite ? (
            <Opening className="grow" label={`Thank ${person?.given || name}`}>
              <div className="mt-3">
                <ThankForm
                  slug={slug}
                  id={answer.id}
                  channels={[...channels]}
                  name={person?.given || name}
                  signature={signature}
                  seenAt={now}
                />
              </div>
            </Opening>
          ) : (
            <span className="text-second text-[14px]">
              {person ? "We have no working email or mobile for them." : "They left no name and no address."}
            </span>
          )}
        </div>
      ) : null}
    </article>
  );
}
