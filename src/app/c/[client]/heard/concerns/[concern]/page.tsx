import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayRating } from "@/core/reviews/rating";
import { sayAgo, sayMoment, sayWhen } from "@/core/time/say";
import { saidBeside } from "@/features/answers";
import { SaidBeside } from "@/features/answers/parts/SaidBeside";
import { wasAskedAgain } from "@/features/asks";
import { loadSetting, todayOf } from "@/features/clients";
import { teamNotes, viewConcern } from "@/features/concerns";
import { AnswerForm, CloseForm, OneClick, TeamNoteForm } from "@/features/concerns/parts/ConcernForms.client";
import { HandOverSentence } from "@/features/concerns/parts/OwnerSentences.client";
import { RatingNow } from "@/features/concerns/parts/RatingNow";
import { Thread } from "@/features/conversations/parts/Thread";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { rightsAt, type Staff, staffOf } from "@/features/notices";
import { findAddressee, letterboxesOf, nameOrUnknown } from "@/features/people";
import { listPlans } from "@/features/plans";
import { inPublic, namedIn } from "@/features/reviews";
import { SameWriter } from "@/features/reviews/parts/SameWriter.client";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { CONCERN_OUTCOMES, type TakenHow } from "@/schema/concerns";
import { Bars } from "@/ui/Bars";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";

export const metadata = { title: "Concern" };

type Props = { params: Promise<{ client: string; concern: string }> };

export default async function ConcernPage({ params }: Props) {
  const { client, concern: id } = await params;
  const access = await requireAccess(client, "see heard");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const seen = await loadConcern(access, id, now);
  if (!seen) notFound();
  const { concern, person, letters, addressee, beside } = seen;
  const { slug, zone } = access.seat;
  const name = nameOrUnknown(person);
  const mayAnswer = may(access.seat, "answer concerns");
  const channels = letterboxesOf(addressee, seen.replyTo);
  return (
    <Page margin={<ConcernMargin seen={seen} slug={slug} mayAnswer={mayAnswer} now={now} zone={zone} />}>
      <LiveRefresh seconds={10} />
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/heard`} className="button-quiet -ml-2">
          ← Heard
        </Link>
      </p>
      <h1 className="title">{titleOf(seen, name, zone, now)}</h1>
      <blockquote className="mt-5">
        <p className="said !text-[24px] !leading-[1.4]">
          {concern.words ? (
            <SaidWords words={concern.words} named={seen.named} />
          ) : seen.written ? null : (
            "No words, only the rating."
          )}
        </p>
        <footer className="text-second mt-2 flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
          <RatingNow rating={concern.rating} ratings={seen.ratings} zone={zone} now={now} />
          <span>
            {name}, {sayMoment(zone, concern.openedAt, now)}
          </span>
        </footer>
        {beside ? <SaidBeside said={beside} slug={slug} name={name} /> : null}
      </blockquote>
      <InPublic seen={seen} slug={slug} mayAnswer={mayAnswer} now={now} />
      {letters.length > 0 ? <Thread exchanged={letters} slug={slug} name={name} zone={zone} now={now} /> : null}
      {mayAnswer && concern.state !== "closed" ? (
        <>
          {person ? (
            <section className="sheet mt-7 p-5" aria-label="Answer">
              <AnswerForm
                slug={slug}
                id={id}
                channels={channels}
                name={person.given || name}
                signature={access.user.signature}
                seenAt={now}
              />
            </section>
          ) : null}
          <section className="mt-7" aria-label="Close">
            <CloseForm slug={slug} id={id} outcomes={CONCERN_OUTCOMES} />
            {person && seen.asksAgain ? (
              <p className="text-second mt-2 text-[14px]">
                Once it is closed as put right, {person.given || name} is asked once more by “{seen.asksAgain.name}”,
                and never again about this.
              </p>
            ) : null}
          </section>
        </>
      ) : null}
      {concern.state === "closed" ? (
        <div className="border-rule mt-7 flex flex-wrap items-center justify-between gap-3 border-t pt-5">
          <p>
            Closed by <b>{concern.closedBy}</b> {concern.closedAt ? sayAgo(concern.closedAt, now) : ""}:{" "}
            {concern.outcome}.{concern.outcomeNote ? ` “${concern.outcomeNote}”` : ""}
          </p>
          {mayAnswer ? <OneClick slug={slug} id={id} action="reopen" /> : null}
        </div>
      ) : null}
    </Page>
  );
}

/** What the same person said in public, with its reply; and reviews of which somebody may say that they are theirs. */
function InPublic({ seen, slug, mayAnswer, now }: { seen: Seen; slug: string; mayAnswer: boolean; now: number }) {
  const { theirs, candidates } = seen.inPublic;
  const { personId } = seen.concern;
  const known = theirs.length > 0;
  if (!known && (candidates.length === 0 || !mayAnswer)) return null;
  const shown = known ? theirs : candidates;
  return (
    <section aria-label="In public" className="mt-7">
      <h2 className="font-title text-[18px] font-semibold">
        {known ? "In public too" : "Perhaps one of these in public is theirs too"}
      </h2>
      <ul className="divide-rule border-rule mt-1 divide-y border-y">
        {shown.map((review) => (
          <li key={review.id} className="py-3">
            <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
              <Bars rating={review.rating} words={sayRating(review.value, review.scale)} />
              <b className="text-ink">{review.author}</b>
              <span>
                on {review.site} · {sayAgo(review.writtenAt, now)}
              </span>
            </p>
            {review.words ? <p className="said !text-[17px]">“{review.words.slice(0, 600)}”</p> : null}
            {review.isPosted ? (
              <p className="border-edge mt-1.5 border-l-[3px] pl-3 whitespace-pre-wrap">{review.reply}</p>
            ) : null}
            <p className="-ml-2 flex flex-wrap">
              <Link
                href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`}
                className="button-quiet"
              >
                {review.isPosted ? "Open the review" : "Open it, to reply"}
              </Link>
              {mayAnswer ? (
                <SameWriter slug={slug} reviewId={review.id} personId={known ? null : personId}>
                  {known ? "Somebody else wrote it" : "It is the same person"}
                </SameWriter>
              ) : null}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How it came to whom it is. */
const HOW: Record<TakenHow, string> = {
  self: " took it",
  rule: ": a rule gave it to them, they have not begun",
  "stand-in": " stands in for whoever is away, and has not begun",
  "handed over": " was given it",
};

type Seen = NonNullable<Awaited<ReturnType<typeof loadConcern>>>;

function loadConcern(access: Access, id: string, now: number) {
  return withClient(access, async (tx) => {
    const viewed = await viewConcern(tx, access, id);
    if (!viewed) return null;
    const setting = await loadSetting(tx);
    const today = todayOf(setting, now);
    const named = namedIn(viewed.concern.words, setting);
    const { answerId } = viewed.concern;
    const beside = answerId ? (await saidBeside(tx, access, [answerId])).get(answerId) : undefined;
    return {
      ...viewed,
      beside,
      inPublic: await inPublic(tx, access, viewed.concern),
      /** The plan that asks once more whoever had something put right; none where nothing of the kind runs. */
      asksAgain: (await wasAskedAgain(tx, access, id))
        ? undefined
        : (await listPlans(tx, access)).find(
            ({ state, rules }) => state === "running" && rules.begins.kind === "put right",
          ),
      notes: await teamNotes(tx, access, id),
      staff: (await staffOf(tx))
        .filter((one) => one.id !== viewed.concern.takenById && mayAnswerAt(one, viewed.concern.branchId))
        .map(({ id, name }) => ({ id, name })),
      named,
      addressee: viewed.person && (await findAddressee(tx, access, viewed.person, today)),
    };
  });
}

const mayAnswerAt = (one: Staff, branchId: string) => may(rightsAt(one, branchId), "answer concerns");

function titleOf({ concern, wroteBackAt }: Seen, name: string, zone: string, now: number): string {
  if (concern.state !== "closed" && wroteBackAt)
    return `${name} wrote back ${sayAgo(wroteBackAt, now)} and is waiting for an answer.`;
  if (concern.state === "closed") return `${name}: ${concern.outcome}.`;
  if (concern.answeredAt) return `${name} has been answered. Is it put right?`;
  if (concern.answerBy < now) return `${name} has waited too long for an answer.`;
  return `${name} is waiting for an answer until ${sayWhen(zone, concern.answerBy, now).replace("today at ", "")}.`;
}

function ConcernMargin({
  seen,
  slug,
  mayAnswer,
  zone,
  now,
}: {
  seen: Seen;
  slug: string;
  mayAnswer: boolean;
  zone: string;
  now: number;
}) {
  const { concern, person } = seen;
  const name = nameOrUnknown(person);
  return (
    <>
      <Note title="The visit">
        <p>
          <b>
            {seen.about ? `${seen.about}, ` : ""}
            {seen.endsAt === null ? "No visit is known" : seen.service.toLowerCase()}
          </b>{" "}
          at {seen.branch}
          {seen.member ? ` with ${seen.member}` : ""}
          {seen.endsAt === null ? "" : `, ${sayMoment(zone, seen.endsAt, now)}`}.
        </p>
        {person ? (
          <p>
            <Link href={`/c/${slug}/people/${person.id}`}>The whole story of {name}</Link>
          </p>
        ) : (
          <p>They gave no name and no address, so nobody can write to them.</p>
        )}
      </Note>
      <Note title="Who sees to it">
        <p>
          {concern.takenBy ? (
            <>
              <b>{concern.takenBy}</b>
              {HOW[concern.takenHow ?? "self"]}
              {concern.takenAt ? ` ${sayAgo(concern.takenAt, now)}` : ""}.
            </>
          ) : (
            "Nobody has taken it yet."
          )}
        </p>
        {mayAnswer && concern.state === "new" ? <OneClick slug={slug} id={concern.id} action="take" /> : null}
        {mayAnswer && concern.state !== "closed" && seen.staff.length > 0 ? (
          <p>
            <HandOverSentence slug={slug} id={concern.id} staff={seen.staff} />
          </p>
        ) : null}
      </Note>
      <Note title="For the team">
        {seen.notes.map(({ id, words, writtenBy, writtenAt }) => (
          <p key={id}>
            <span className="text-ink whitespace-pre-wrap">{words}</span>
            <br />
            <span className="text-[14px]">
              {writtenBy}, {sayAgo(writtenAt, now)}
            </span>
          </p>
        ))}
        {seen.notes.length === 0 ? <p>Nobody has noted anything. {name} never sees what stands here.</p> : null}
        {mayAnswer ? <TeamNoteForm slug={slug} id={concern.id} /> : null}
      </Note>
      <Note title="What they were shown">
        <p>
          Their rating led to the private form first; the review sites stood below it. Whatever you write here goes to{" "}
          {name} alone.
        </p>
      </Note>
    </>
  );
}
