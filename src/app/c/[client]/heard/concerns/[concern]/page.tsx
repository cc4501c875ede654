import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { CONCERN_OUTCOMES } from "@/core/concerns/outcomes";
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
import { concernOutcomeWords } from "@/locales/operations";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import type { TakenHow } from "@/schema/concerns";
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
            <CloseForm
              slug={slug}
              id={id}
              outcomes={CONCERN_OUTCOMES.map((outcome) => [outcome, concernOutcomeWords(outcome)] as const)}
            />
            {person && seen.asksAgain ? (
              <p className="text-second mt-2 text-[14px]">
                Once you close this as put right, {person.given || name} will be asked once more by “
                {seen.asksAgain.name}” and never again about this.
              </p>
            ) : null}
          </section>
        </>
      ) : null}
      {concern.state === "closed" ? (
        <div className="border-rule mt-7 flex flex-wrap items-center justify-between gap-3 border-t pt-5">
          <p>
            Closed by <b>{concern.closedBy}</b> {concern.closedAt ? sayAgo(concern.closedAt, now) : ""}:{" "}
            {outcomeOf(concern)}.{concern.outcomeNote ? ` “${concern.outcomeNote}”` : ""}
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
        {known ? "They’ve also written publicly" : "One of these public reviews may be theirs"}
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
                {review.isPosted ? "Open the review" : "Open and reply"}
              </Link>
              {mayAnswer ? (
                <SameWriter slug={slug} reviewId={review.id} personId={known ? null : personId}>
                  {known ? "This isn’t them" : "This is them"}
                </SameWriter>
              ) : null}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What an unhappy customer sees after the answer, as the doors of the plan stood. */
const SHOWN: Record<NonNullable<Seen["doors"]>, string> = {
  open: "They saw the review sites and the private form side by side.",
  "listen first": "They saw the private form first, with the review sites below it.",
  "private only": "They only saw the private form.",
};

const outcomeOf = ({ outcome }: Seen["concern"]) => (outcome ? concernOutcomeWords(outcome) : "closed");

/** How it came to whom it is. */
const HOW: Record<TakenHow, string> = {
  self: " picked this up",
  rule: " hasn’t started yet; a rule assigned this",
  "stand-in": " hasn’t started yet; assigned as cover",
  "handed over": " was handed this",
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
  if (concern.state === "closed") return `${name}: ${outcomeOf(concern)}.`;
  if (concern.answeredAt) return `${name} has been answered. Has it been put right?`;
  if (concern.answerBy < now) return `${name} has been waiting too long for an answer.`;
  return `${name} is waiting for an answer, due by ${sayWhen(zone, concern.answerBy, now).replace("today at ", "")}.`;
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
            {seen.endsAt === null ? "No visit on file" : seen.service.toLowerCase()}
          </b>{" "}
          at {seen.branch}
          {seen.member ? ` with ${seen.member}` : ""}
          {seen.endsAt === null ? "" : `, ${sayMoment(zone, seen.endsAt, now)}`}.
        </p>
        {person ? (
          <p>
            <Link href={`/c/${slug}/people/${person.id}`}>Full story of {name}</Link>
          </p>
        ) : (
          <p>They left no name or contact details, so you can’t reply.</p>
        )}
      </Note>
      <Note title="Who’s handling it">
        <p>
          {concern.takenBy ? (
            <>
              <b>{concern.takenBy}</b>
              {HOW[concern.takenHow ?? "self"]}
              {concern.takenAt ? ` ${sayAgo(concern.takenAt, now)}` : ""}.
            </>
          ) : (
            "Nobody’s picked this up yet."
          )}
        </p>
        {mayAnswer && concern.state === "new" ? <OneClick slug={slug} id={concern.id} action="take" /> : null}
        {mayAnswer && concern.state !== "closed" && seen.staff.length > 0 ? (
          <p>
            <HandOverSentence slug={slug} id={concern.id} staff={seen.staff} />
          </p>
        ) : null}
      </Note>
      <Note title="Team notes">
        {seen.notes.map(({ id, words, writtenBy, writtenAt }) => (
          <p key={id}>
            <span className="text-ink whitespace-pre-wrap">{words}</span>
            <br />
            <span className="text-[14px]">
              {writtenBy}, {sayAgo(writtenAt, now)}
            </span>
          </p>
        ))}
        {seen.notes.length === 0 ? <p>No notes yet. {name} never sees these.</p> : null}
        {mayAnswer ? <TeamNoteForm slug={slug} id={concern.id} /> : null}
      </Note>
      <Note title="What they were shown">
        <p>
          {seen.doors ? `${SHOWN[seen.doors]} ` : ""}What you write here goes only to {name}.
        </p>
      </Note>
    </>
  );
}
