import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { fillReply } from "@/core/replies/saved";
import { sayAgo, sayMoment, sayWhen } from "@/core/time/say";
import { loadSetting, todayOf } from "@/features/clients";
import { openConcernOf } from "@/features/concerns";
import { answer } from "@/features/concerns/actions";
import { MOST_SHOWN, viewConversation } from "@/features/conversations";
import { answerIn } from "@/features/conversations/actions";
import { Composer } from "@/features/conversations/parts/Composer.client";
import { writerName } from "@/features/conversations/parts/ConversationCard";
import {
  AsideSentence,
  AssignSentence,
  ConversationButtons,
  MarkRead,
  WhoSentence,
} from "@/features/conversations/parts/ConversationSentences.client";
import { Thread } from "@/features/conversations/parts/Thread";
import { settleStop } from "@/features/messaging/actions";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { rightsAt, staffOf } from "@/features/notices";
import { findAddressee, letterboxesOf, sayAddress } from "@/features/people";
import { listSaved } from "@/features/reviews";
import { noteSavedUse } from "@/features/reviews/actions";
import { lastVisitsOf } from "@/features/visits";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Conversation" };

type Props = { params: Promise<{ client: string; conversation: string }> };

/** What one person and the business wrote to each other, with the place for an answer at its foot. */
export default async function ConversationPage({ params }: Props) {
  const { client, conversation: id } = await params;
  const access = await requireAccess(client, "see heard");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const seen = await loadConversation(access, id, now);
  if (!seen) notFound();
  const { conversation, person, exchanged, concern } = seen;
  const { slug, zone } = access.seat;
  const name = writerName(seen);
  const mayAnswer = may(access.seat, "answer concerns");
  return (
    <Page margin={<ConversationMargin seen={seen} slug={slug} zone={zone} now={now} mayAnswer={mayAnswer} />}>
      <LiveRefresh seconds={10} />
      {mayAnswer && !access.looksOnly ? <MarkRead slug={slug} id={id} isUnread={conversation.isUnread} /> : null}
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/heard?show=conversations`} className="button-quiet -ml-2">
          ← Conversations
        </Link>
      </p>
      <h1 className="title">{titleOf(seen, name, zone, now)}</h1>
      {concern ? (
        <p className="mt-2">
          They have an open concern: <Link href={`/c/${slug}/heard/concerns/${concern.id}`}>see what they said</Link>. A
          reply here counts as an answer to that too.
        </p>
      ) : null}
      {conversation.mayStopAt !== null ? (
        <div className="bg-ochre-tint mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 rounded-[8px] px-4 py-3">
          <p>{name} may want no more messages. Is that what they mean?</p>
          {mayAnswer ? (
            <span className="flex flex-wrap gap-2">
              <ConfirmButton className="button" action={settleStop.bind(null, slug, id, true)}>
                Yes, send nothing more
              </ConfirmButton>
              <ConfirmButton className="button-quiet" action={settleStop.bind(null, slug, id, false)}>
                No, go on
              </ConfirmButton>
            </span>
          ) : null}
        </div>
      ) : null}
      <Thread exchanged={exchanged} slug={slug} name={name} zone={zone} now={now} />
      {mayAnswer ? (
        <section
          aria-label="Answer"
          className="sheet mt-6 p-3 sm:p-5 sticky bottom-[calc(56px+env(safe-area-inset-bottom))] wide:bottom-4"
        >
          <Composer
            action={concern ? answer.bind(null, slug, concern.id) : answerIn.bind(null, slug, id)}
            channels={seen.channels}
            channel={conversation.channel}
            name={person?.given || name}
            signature={access.user.signature ?? null}
            saved={seen.saved}
            onSaved={noteSavedUse.bind(null, slug)}
            seenAt={now}
          />
        </section>
      ) : null}
    </Page>
  );
}

type Seen = NonNullable<Awaited<ReturnType<typeof loadConversation>>>;

function loadConversation(access: Access, id: string, now: number) {
  return withClient(access, async (tx) => {
    const viewed = await viewConversation(tx, access, id);
    if (!viewed) return null;
    const { conversation, person, branch } = viewed;
    const setting = await loadSetting(tx);
    const staff = (await staffOf(tx)).filter((one) => may(rightsAt(one, conversation.branchId), "answer concerns"));
    const addressee = person && (await findAddressee(tx, access, person, todayOf(setting, now)));
    const fill = (words: string) =>
      fillReply(words, {
        author: person?.given ?? "",
        business: setting.client.name,
        branch: branch ?? setting.client.name,
        signature: access.user.signature ?? "",
      });
    const saved = await listSaved(tx, access, access.user.id, "conversations");
    return {
      ...viewed,
      today: todayOf(setting, now),
      staff: staff.map(({ id, name }) => ({ id, name })),
      channels: person
        ? letterboxesOf(addressee)
        : conversation.address && !(conversation.channel === "text" && conversation.stoppedAt !== null)
          ? [{ channel: conversation.channel, to: sayAddress(conversation.address) }]
          : [],
      concern: person && (await openConcernOf(tx, access, [person.id])),
      visits: person ? await lastVisitsOf(tx, access, person.id, 3) : [],
      saved: saved.map(({ id, purpose, words, uses, of }) => ({ id, purpose, words: fill(words), uses, of })),
    };
  });
}

function titleOf({ conversation }: Seen, name: string, zone: string, now: number): string {
  const { waitingSince, asideUntil, heardAt } = conversation;
  if (asideUntil !== null && asideUntil > now) return `${name} is set aside until ${sayWhen(zone, asideUntil, now)}.`;
  if (waitingSince !== null) return `${name} wrote ${sayAgo(waitingSince, now)} and is waiting for an answer.`;
  return `${name} wrote ${sayAgo(heardAt, now)}. Nothing left to answer.`;
}

type MarginProps = { seen: Seen; slug: string; zone: string; now: number; mayAnswer: boolean };

function ConversationMargin({ seen, slug, zone, now, mayAnswer }: MarginProps) {
  const { conversation, person, visits, staff, today } = seen;
  const { id, assignedTo, assignedToId, asideUntil, waitingSince, isUnread, address } = conversation;
  const isAside = asideUntil !== null && asideUntil > now;
  const name = writerName(seen);
  return (
    <>
      <Note title={name}>
        {person ? (
          <>
            {visits.map(({ id, service, branch, endsAt, about }) => (
              <p key={id}>
                <b>
                  {about ? `${about}, ` : ""}
                  {service.toLowerCase()}
                </b>{" "}
                at {branch}, {sayMoment(zone, endsAt, now)}
              </p>
            ))}
            {visits.length === 0 ? <p>No visits on file.</p> : null}
            <p>
              <Link href={`/c/${slug}/people/${person.id}`}>Full story of {name}</Link>
            </p>
          </>
        ) : (
          <>
            <p>No customer on file has this {conversation.channel === "text" ? "number" : "mailbox"}.</p>
            {mayAnswer && address ? (
              <p>
                <WhoSentence slug={slug} id={id} address={address} />
              </p>
            ) : null}
          </>
        )}
      </Note>
      <Note title="Who’s handling it">
        <p>
          {mayAnswer ? (
            <AssignSentence slug={slug} id={id} assignedTo={assignedTo} assignedToId={assignedToId} staff={staff} />
          ) : (
            (assignedTo ?? "Nobody yet")
          )}
        </p>
      </Note>
      {mayAnswer ? (
        <Note title="Set aside">
          <p>
            Set aside until{" "}
            <AsideSentence
              slug={slug}
              id={id}
              words={isAside ? sayWhen(zone, asideUntil, now) : "a time you choose"}
              isAside={isAside}
              today={today}
            />
            .
          </p>
          <ConversationButtons slug={slug} id={id} waits={waitingSince !== null} isUnread={isUnread} />
        </Note>
      ) : null}
      <Note title="What conversations are for">
        <p>
          For answering people who’ve written to you, not for marketing. Anyone who’s opted out of texts won’t get any.
        </p>
        {seen.exchanged.length >= MOST_SHOWN ? <p>Showing the latest {MOST_SHOWN} messages.</p> : null}
      </Note>
    </>
  );
}
