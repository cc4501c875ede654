import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayPhone } from "@/core/contacts/phone";
import { dayText } from "@/core/time/range";
import { sayCounted, sayDay, sayMoment } from "@/core/time/say";
import { DAY, dayNumber, formatDay, fromLocal, parseDay, toLocal } from "@/core/time/zone";
import { STATE_WORDS, sayStep } from "@/features/asks";
import { LogList } from "@/features/asks/parts/LogList.client";
import { loadSetting } from "@/features/clients";
import { countLog, LOG_PAGE, LOG_STATES, type LogState, readLog } from "@/features/messaging";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { nameOrUnknown } from "@/features/people";
import { listPlans } from "@/features/plans";
import { messageSentence } from "@/locales/asking";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { Shape } from "@/ui/ruler/DayRuler";

export const metadata = { title: "Planned and sent" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({
  state: z.enum(LOG_STATES).nullable().catch(null),
  channel: z.enum(["text", "email"]).nullable().catch(null),
  plan: z.uuid().nullable().catch(null),
  branch: z.uuid().nullable().catch(null),
  day: dayText.nullable().catch(null),
  after: pageKey,
});

const STATE_PHRASES: Record<LogState, string> = {
  planned: "messages due to go out",
  sent: "messages that have gone out",
  delivered: "messages that arrived",
  opened: "messages that were opened",
  followed: "messages whose link was clicked",
  bounced: "messages that bounced",
  failed: "messages that failed",
  held: "messages on hold",
  stopped: "messages no longer needed",
  received: "messages received",
};

const TITLES: Record<LogState, string> = {
  planned: "are due to go out",
  sent: "have gone out",
  delivered: "were delivered",
  opened: "were opened",
  followed: "had their link clicked",
  bounced: "bounced",
  failed: "failed",
  held: "are on hold",
  stopped: "were no longer needed",
  received: "were received",
};

export default async function Log({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see asking");
  const search = await searchParams;
  const wanted = query.parse(Object.fromEntries(Object.keys(query.shape).map((key) => [key, search[key] ?? null])));
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const dayStart = wanted.day ? parseDay(wanted.day) * DAY : null;
  const between = dayStart === null ? null : { from: fromLocal(zone, dayStart), to: fromLocal(zone, dayStart + DAY) };
  const { rows, counts, plans, setting } = await withClient(access, async (tx) => ({
    rows: await readLog(tx, access, { ...wanted, planId: wanted.plan, branchId: wanted.branch, between }),
    counts: await countLog(tx, access),
    plans: await listPlans(tx, access),
    setting: await loadSetting(tx),
  }));
  const shown = rows.slice(0, LOG_PAGE);
  const last = shown.at(-1)?.message;
  const link = (change: Partial<Record<"state" | "channel" | "plan" | "branch" | "day" | "after", string | null>>) => {
    const to = new URLSearchParams();
    const { state, channel, plan, branch, day } = wanted;
    for (const [name, value] of Object.entries({ state, channel, plan, branch, day, after: null, ...change }))
      if (value) to.set(name, value);
    return `/c/${slug}/asking/log${to.size ? `?${to}` : ""}`;
  };
  const part = (
    name: "state" | "channel" | "plan" | "branch",
    label: string,
    any: string,
    choices: { value: string; words: string; count?: string }[],
  ) => filterPart({ label, any, value: wanted[name], choices, href: (value) => link({ [name]: value }) });
  const running = plans.filter(({ version }) => version > 0);
  const filters: (string | FilterPart)[] = [
    "Showing ",
    part(
      "state",
      "State",
      "every message",
      LOG_STATES.map((state) => ({ value: state, words: STATE_PHRASES[state], count: sayCounted(counts[state]) })),
    ),
    " by ",
    part("channel", "Channel", "text or email", [
      { value: "text", words: "text" },
      { value: "email", words: "email" },
    ]),
    ...(running.length > 1 ? [" of ", part("plan", "Plan", "all plans", namedChoices(running))] : []),
    ...(setting.branches.length > 1
      ? [" from ", part("branch", "Branch", "all branches", namedChoices(setting.branches))]
      : []),
    ", ",
    {
      label: "Day",
      words: wanted.day ? sayDay(zone, fromLocal(zone, parseDay(wanted.day) * DAY), now) : "any day",
      clear: wanted.day ? link({ day: null }) : null,
      choices: { day: wanted.day, today: formatDay(dayNumber(toLocal(zone, now))), href: link({ day: "{day}" }) },
    },
    ".",
  ];
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
          : `${sayCounted(counts.planned)} messages are due to go out, ${sayCounted(counts.sent)} have gone out.`}
      </h1>
      <FilterSentence parts={filters} />
      {shown.length === 0 ? (
        <Empty
          action={
            <Link href={`/c/${slug}/asking/log`} className="button">
              Show all
            </Link>
          }
        >
          No messages match.
        </Empty>
      ) : (
        <LogList
          slug={slug}
          maySteer={may(access.seat, "ask many")}
          rows={shown.map((row) => {
            const { message, given, family, runs } = row;
            const isOpen = message.state === "planned" || message.state === "held";
            return {
              id: message.id,
              askId: message.askId,
              name: message.personId ? nameOrUnknown({ given, family }) : (message.address ?? nameOrUnknown(null)),
              canSteer: runs && isOpen,
              isLost: message.askId !== null && (message.state === "bounced" || message.state === "failed"),
              isHeld: message.hold === "by hand",
              content: <LogLine key={message.id} row={row} slug={slug} zone={zone} now={now} />,
            };
          })}
        />
      )}
      {rows.length > LOG_PAGE && last?.dueAt ? (
        <p className="mt-5">
          <Link href={link({ after: `${last.dueAt}~${last.id}` })} className="button">
            Show earlier
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

function LogLine({
  row,
  slug,
  zone,
  now,
}: {
  row: Awaited<ReturnType<typeof readLog>>[number];
  slug: string;
  zone: string;
  now: number;
}) {
  const { message, given, family, plan, visitId } = row;
  const marks = [
    message.deliveredAt && message.state !== "delivered" ? "delivered" : null,
    message.openedAt ? "opened" : null,
    message.followedAt ? "link clicked" : null,
  ].filter(Boolean);
  return (
    <div className="grid gap-x-4 sm:grid-cols-[140px_1fr_190px]">
      <span className="text-second text-[14px]">
        {sayMoment(zone, message.sentAt ?? message.dueAt ?? message.createdAt, now)}
      </span>
      <div className="min-w-0">
        <span className="flex flex-wrap items-baseline gap-x-2">
          <Shape
            channel={message.channel}
            className={message.sentAt !== null ? "border-ink bg-ink" : "border-second bg-sheet"}
          />
          {message.direction === "in" ? "From" : message.channel === "text" ? "Text to" : "Email to"}
          {message.personId ? (
            <Link href={`/c/${slug}/people/${message.personId}`} className="name-link">
              {nameOrUnknown({ given, family })}
            </Link>
          ) : (
            <b>{message.address ? sayPhone(message.address) : nameOrUnknown(null)}</b>
          )}
          {message.direction === "in" ? null : (
            <span className="text-second">
              {sayStep(message.step, message.stepName)}
              {plan ? ` of ${plan}` : ""}
            </span>
          )}
        </span>
        <span className="text-second block text-[14px] [overflow-wrap:anywhere]">
          {message.direction === "in" ? `“${message.body?.slice(0, 160)}”` : messageSentence(message.reason)}{" "}
          {visitId ? (
            <Link href={`/c/${slug}/asking/why/${visitId}`} className="underline underline-offset-[3px]">
              Why?
            </Link>
          ) : null}
        </span>
      </div>
      <span className="flex flex-wrap items-start gap-1.5 sm:justify-end">
        <StateTag state={message.state} />
        {message.hold === "allowance" ? (
          <span className="tag bg-ochre-tint text-ochre-deep">waiting for next month</span>
        ) : null}
        {marks.map((mark) => (
          <span key={mark} className="tag bg-leaf-tint text-leaf">
            {mark}
          </span>
        ))}
      </span>
    </div>
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
