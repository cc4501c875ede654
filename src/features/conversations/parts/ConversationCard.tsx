import { sayPhone } from "@/core/contacts/phone";
import { sayAgo, sayWhen } from "@/core/time/say";
import { nameOrUnknown } from "@/features/people";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { ListedConversation } from "../queries";

/** How somebody is called who wrote: by name, else by their number or mailbox. */
export function writerName({ person, conversation }: Pick<ListedConversation, "person" | "conversation">): string {
  if (person) return nameOrUnknown(person);
  const { address } = conversation;
  return address ? (address.includes("@") ? address : sayPhone(address)) : "Unknown sender";
}

type Props = { it: ListedConversation; slug: string; zone: string; now: number };

/** One conversation in a list: who wrote what last, since when they wait, and who sees to it. */
export function ConversationCard({ it, slug, zone, now }: Props) {
  const { conversation, branch, last } = it;
  const { waitingSince, asideUntil, isUnread, assignedTo, channel, lastAt } = conversation;
  const isAside = asideUntil !== null && asideUntil > now;
  return (
    <article data-entry="" tabIndex={-1} className="sheet focus:!border-mulberry p-5 outline-none">
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        <b className="text-ink text-[15px]">{writerName(it)}</b>
        <span>
          by {channel}
          {branch ? ` · ${branch}` : ""} · {sayAgo(lastAt, now)}
        </span>
        {isUnread ? <span className="tag bg-mulberry-tint text-mulberry">unread</span> : null}
        {conversation.mayStopAt !== null ? (
          <span className="tag bg-ochre-tint text-ochre-deep">may want no more messages</span>
        ) : null}
        {isAside ? (
          <span className="tag border-rule border">set aside until {sayWhen(zone, asideUntil, now)}</span>
        ) : waitingSince !== null ? (
          <span className="tag bg-ochre-tint text-ochre-deep">waiting since {sayWhen(zone, waitingSince, now)}</span>
        ) : null}
      </p>
      {last ? (
        <p
          className={`mt-1.5 [overflow-wrap:anywhere] ${last.direction === "in" ? "said line-clamp-3" : "line-clamp-2"}`}
        >
          {last.direction === "in" ? (
            last.body || "(no words)"
          ) : (
            <>
              <b>{last.writtenBy ?? "Automatic"}:</b> {last.body}
            </>
          )}
        </p>
      ) : null}
      {last && last.pictures > 0 ? (
        <p className="text-second text-[14px]">
          With {last.pictures === 1 ? "a picture" : `${last.pictures} pictures`}.
        </p>
      ) : null}
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <Link href={`/c/${slug}/heard/conversations/${conversation.id}`} className="button">
          {waitingSince === null ? "Read" : "Read and answer"}
        </Link>
        <span className="text-second text-[14px]">
          {assignedTo ? `${assignedTo} is handling this.` : "Nobody’s handling this yet."}
        </span>
      </p>
    </article>
  );
}
