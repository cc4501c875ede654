import Link from "next/link";
import { z } from "zod";
import { sayCounted, sayMoment } from "@/core/time/say";
import { countLog, LOG_PAGE, LOG_STATES, type LogState, readLog, STATE_WORDS, sayStep } from "@/features/messages";
import { nameOf } from "@/features/people";
import { LiveRefresh } from "@/features/shell";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Page } from "@/ui/Page";
import { Shape } from "@/ui/ruler/DayRuler";

export const metadata = { title: "Message log" };

type Props = { params: Promise<{ client: string }>; searchParams: Promise<Record<string, string | string[] | undefined>> };

const query = z.object({
  state: z.enum(LOG_STATES).nullable().catch(null),
  channel: z.enum(["text", "email"]).nullable().catch(null),
  after: z
    .string()
    .transform((text) => {
      const [at, id] = text.split("~");
      return Number.isFinite(Number(at)) && Math.abs(Number(at)) < 8e15 && z.uuid().safeParse(id).success ? { at: Number(at), id } : null;
    })
    .nullable()
    .catch(null),
});

const CHIPS: Record<LogState, string> = { ...STATE_WORDS, opened: "opened", followed: "link followed" };

const TITLES: Record<LogState, string> = {
  planned: "will leave",
  sent: "have left",
  delivered: "were delivered",
  opened: "were opened",
  followed: "had their link followed",
  bounced: "came back",
  failed: "were given up",
  held: "are held",
  stopped: "were not needed",
  received: "came in",
};

export default async function Log({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "look");
  const search = await searchParams;
  const wanted = query.parse({ state: search.state ?? null, channel: search.channel ?? null, after: search.after ?? null });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const { rows, counts } = await withClient(access, async (tx) => ({ rows: await readLog(tx, access, wanted), counts: await countLog(tx, access) }));
  const shown = rows.slice(0, LOG_PAGE);
  const last = shown.at(-1)?.message;
  const link = (change: { state?: LogState | null; channel?: "text" | "email" | null; after?: string }) => {
    const to = new URLSearchParams();
    const state = change.state === undefined ? wanted.state : change.state;
    const channel = change.channel === undefined ? wanted.channel : change.channel;
    if (state) to.set("state", state);
    if (channel) to.set("channel", channel);
    if (change.after) to.set("after", change.after);
    return `/c/${slug}/asking/log${to.size ? `?${to}` : ""}`;
  };
  const chip = (href: string, here: boolean, words: React.ReactNode) => (
    <Link href={href} className="chip" aria-current={here ? "true" : undefined}>
      {words}
    </Link>
  );
  return (
    <Page>
      <LiveRefresh seconds={15} />
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/asking`} className="button-quiet -ml-2">
          ← Asking
        </Link>
      </p>
      <h1 className="title">
        {wanted.state
          ? `${sayCounted(counts[wanted.state])} messages ${TITLES[wanted.state]}.`
          : `${sayCounted(counts.planned)} messages will leave, ${sayCounted(counts.sent)} have left.`}
      </h1>
      <nav aria-label="Filters" className="mt-4 mb-5 flex flex-wrap gap-2">
        {chip(link({ state: null }), wanted.state === null, "All")}
        {LOG_STATES.map((state) => (
          <span key={state}>
            {chip(
              link({ state: wanted.state === state ? null : state }),
              wanted.state === state,
              <>
                {CHIPS[state]} <span className="opacity-75">{sayCounted(counts[state])}</span>
              </>,
            )}
          </span>
        ))}
        {(["text", "email"] as const).map((channel) => (
          <span key={channel}>{chip(link({ channel: wanted.channel === channel ? null : channel }), wanted.channel === channel, `${channel}s only`)}</span>
        ))}
      </nav>
      {shown.length === 0 ? (
        <Empty
          action={
            <Link href={`/c/${slug}/asking/log`} className="button">
              Show all
            </Link>
          }
        >
          No message is like that.
        </Empty>
      ) : (
        <ul className="divide-rule border-rule divide-y border-y">
          {shown.map(({ message, given, family }) => {
            const gone = message.sentAt !== null;
            const marks = [
              message.deliveredAt && message.state !== "delivered" ? "delivered" : null,
              message.openedAt ? "opened" : null,
              message.followedAt ? "link followed" : null,
            ].filter(Boolean);
            return (
              <li key={message.id} className="grid gap-x-4 py-2.5 sm:grid-cols-[150px_1fr_190px]">
                <span className="text-second text-[14px]">{sayMoment(zone, message.sentAt ?? message.dueAt ?? message.createdAt, now)}</span>
                <div className="min-w-0">
                  <span className="flex flex-wrap items-baseline gap-x-2">
                    <Shape channel={message.channel} className={gone ? "border-ink bg-ink" : "border-second bg-sheet"} />
                    {message.direction === "in" ? "From" : message.channel === "text" ? "Text to" : "Email to"}
                    <Link href={`/c/${slug}/people/${message.personId}`} className="name-link">
                      {nameOf({ given, family })}
                    </Link>
                    {message.direction === "in" ? null : <span className="text-second">{sayStep(message.step)}</span>}
                  </span>
                  <span className="text-second block text-[14px] [overflow-wrap:anywhere]">{message.direction === "in" ? `“${message.body?.slice(0, 160)}”` : message.reason}</span>
                </div>
                <span className="flex flex-wrap items-start gap-1.5 sm:justify-end">
                  <StateTag state={message.state} />
                  {marks.map((mark) => (
                    <span key={mark} className="tag bg-leaf-tint text-leaf">
                      {mark}
                    </span>
                  ))}
                </span>
              </li>
            );
          })}
        </ul>
      )}
      {rows.length > LOG_PAGE && last?.dueAt ? (
        <p className="mt-5">
          <Link href={link({ after: `${last.dueAt}~${last.id}` })} className="button">
            Earlier ones
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

function StateTag({ state }: { state: keyof typeof STATE_WORDS }) {
  const tone =
    state === "bounced" || state === "failed"
      ? "bg-vermilion-tint text-vermilion-deep"
      : state === "held" || state === "sending"
        ? "bg-ochre-tint text-ochre-deep"
        : state === "delivered"
          ? "bg-leaf-tint text-leaf"
          : "border-rule bg-sheet text-second border";
  return <span className={`tag ${tone}`}>{STATE_WORDS[state]}</span>;
}
