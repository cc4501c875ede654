import Link from "next/link";
import { notFound } from "next/navigation";
import { z } from "zod";
import { dayText } from "@/core/time/range";
import { sayCount } from "@/core/time/say";
import { DAY, dayNumber, formatDay, fromLocal, parseDay, toLocal } from "@/core/time/zone";
import { calendarOf, loadSetting } from "@/features/clients";
import { recentIntakes } from "@/features/intake";
import {
  MOST_REHEARSED,
  type RehearsalSource,
  type RehearsalSum,
  runRehearsal,
  stageRehearsal,
  sumUp,
} from "@/features/plan-editor";
import { PeriodRuler } from "@/features/plan-editor/parts/PeriodRuler";
import { LeftOutList, MessageList, RehearsalMargin, SideBySide } from "@/features/plan-editor/parts/Rehearsed";
import { findPlan, listVersions, type Plan } from "@/features/plans";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { chip } from "@/ui/chip";
import { DayField } from "@/ui/DayField.client";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { Empty, Page } from "@/ui/Page";

export const metadata = { title: "Rehearsal" };

type Props = {
  params: Promise<{ client: string; plan: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const day = dayText.nullable().catch(null);
const which = z
  .string()
  .regex(/^(draft|force|v\d{1,5})$/)
  .nullable()
  .catch(null);
const query = z.object({
  on: z.enum(["past", "booked", "list"]).catch("past"),
  from: day,
  to: day,
  list: z.uuid().nullable().catch(null),
  version: which,
  against: which,
  day: z.coerce.number().int().min(0).max(99_999).nullable().catch(null),
  show: z.enum(["messages", "left out"]).catch("messages"),
  reason: z.string().max(60).nullable().catch(null),
});

/** How many messages or left-out visits one page tells one by one. */
const SHOWN = 200;

export default async function RehearsalPage({ params, searchParams }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "view");
  if (!z.uuid().safeParse(planId).success) notFound();
  const search = await searchParams;
  const wanted = query.parse({
    ...Object.fromEntries(Object.keys(query.shape).map((key) => [key, search[key] ?? null])),
    on: search.on,
    show: search.show,
  });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const today = dayNumber(toLocal(zone, now));
  const midnight = (number: number) => fromLocal(zone, number * DAY);
  const fromDay = Math.max(today - 730, Math.min(today, wanted.from ? parseDay(wanted.from) : today - 7));
  const toDay = Math.max(fromDay, Math.min(today, wanted.to ? parseDay(wanted.to) : today));
  const source: RehearsalSource | null =
    wanted.on === "past"
      ? { kind: "past", from: midnight(fromDay), to: Math.min(now, midnight(toDay + 1)) }
      : wanted.on === "booked"
        ? { kind: "booked", days: 14 }
        : wanted.list
          ? { kind: "list", id: wanted.list }
          : null;
  const began = performance.now();
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const plan = await findPlan(tx, access, planId);
    if (!plan) return null;
    const versions = await listVersions(tx, access, plan.id);
    const rulesOf = (name: string | null) =>
      name === "force"
        ? plan.rules
        : name?.startsWith("v")
          ? (versions.find(({ version }) => `v${version}` === name)?.rules ?? plan.rules)
          : (plan.draft ?? plan.rules);
    const rules = rulesOf(wanted.version);
    const stage = source && (await stageRehearsal(tx, access, setting, rules, source, now));
    const lists = (await recentIntakes(tx, access, 15)).filter(
      ({ state }) => state === "ready" || state === "imported",
    );
    return { setting, plan, versions, rules, against: wanted.against ? rulesOf(wanted.against) : null, stage, lists };
  });
  if (!seen) notFound();
  const { setting, plan, rules, stage } = seen;
  const dayOf = (at: number) => formatDay(dayNumber(toLocal(zone, at)));
  const rehearsal = stage && runRehearsal(stage, plan.id, rules);
  const sum = stage && rehearsal && sumUp(stage, plan.id, rehearsal, dayOf);
  const other = stage && seen.against && runRehearsal(stage, plan.id, seen.against);
  const otherSum = stage && other && sumUp(stage, plan.id, other, dayOf);
  const took = performance.now() - began;
  const own = (rehearsal?.messages ?? []).filter((message) => message.planId === plan.id && !message.underWay);
  const base = `/c/${slug}/asking/plans/${plan.id}`;
  const link = (change: Record<string, string | number | null>) => {
    const to = new URLSearchParams();
    const all: Record<string, string | number | null> = { ...wanted, ...change };
    if (all.on === "past") all.list = null;
    for (const [name, value] of Object.entries(all))
      if (
        value !== null &&
        value !== "" &&
        !(name === "show" && value === "messages") &&
        !(name === "on" && value === "past")
      )
        to.set(name, String(value));
    return `${base}/rehearsal${to.size > 0 ? `?${to}` : ""}`;
  };
  const calendar = calendarOf(setting, setting.branches[0]?.id ?? "", now);
  const onDay = wanted.day === null ? own : own.filter(({ at }) => dayNumber(toLocal(zone, at)) === wanted.day);
  const leftOut = (rehearsal?.verdicts ?? []).filter(
    ({ planId: id, reason }) => id === plan.id && reason !== null && (!wanted.reason || reason === wanted.reason),
  );
  const versionName = (name: string | null) =>
    name === "force"
      ? "what is in force"
      : name?.startsWith("v")
        ? `version ${name.slice(1)}`
        : plan.draft
          ? "the changes"
          : "the plan";
  const isOwnPeriod = wanted.from !== null && wanted.from !== formatDay(today - 30);
  const on = (words: string, change: Record<string, string | null>, isHere: boolean) => ({
    href: link({ on: "past", from: null, to: null, day: null, reason: null, list: null, ...change }),
    words,
    isHere,
  });
  const periods = [
    on("the last seven days", {}, wanted.on === "past" && wanted.from === null),
    on(
      "the last thirty days",
      { from: formatDay(today - 30) },
      wanted.on === "past" && wanted.from === formatDay(today - 30),
    ),
    on("other days", { from: formatDay(today - 14), to: formatDay(today) }, wanted.on === "past" && isOwnPeriod),
    on("what is booked for the next 14 days", { on: "booked" }, wanted.on === "booked"),
    on("a list", { on: "list" }, wanted.on === "list"),
  ];
  const others = versionsBeside(plan, seen.versions, wanted.version);
  const filters: (string | FilterPart)[] = [
    "Rehearsed on ",
    {
      label: "What it is rehearsed on",
      words: periods.find(({ isHere }) => isHere)?.words ?? "the last seven days",
      clear: null,
      choices: periods,
    },
    ...(wanted.on === "list" && seen.lists.length > 0
      ? [
          ": ",
          {
            label: "List",
            words: seen.lists.find(({ id }) => id === wanted.list)?.name ?? "choose one",
            clear: null,
            choices: seen.lists.map((list) => ({
              href: link({ list: list.id, day: null }),
              words: `${list.name}${list.state === "ready" ? ", not imported yet" : ""}`,
              count: sayCount(list.total, "row"),
              isHere: list.id === wanted.list,
            })),
          },
        ]
      : []),
    ...(others.length > 0
      ? [
          ", side by side with ",
          {
            label: "Compared with",
            words: others.find(([name]) => name === wanted.against)?.[1] ?? "nothing",
            clear: wanted.against ? link({ against: null }) : null,
            choices: others.map(([name, words]) => ({
              href: link({ against: name }),
              words,
              isHere: name === wanted.against,
            })),
          },
        ]
      : []),
    ".",
  ];
  return (
    <Page
      margin={
        stage && sum ? (
          <RehearsalMargin
            sum={sum}
            currency={setting.client.currency}
            seconds={took / 1000}
            leftOutHref={(reason) => link({ show: "left out", reason, day: null })}
          />
        ) : undefined
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={base} className="button-quiet -ml-2">
          ← {plan.name}
        </Link>
      </p>
      <h1 className="title">{titleOf(sum, wanted.on)}</h1>
      <p className="lead">
        A rehearsal of {versionName(wanted.version)}: it assumes that every message arrives and nobody answers.
      </p>
      <FilterSentence parts={filters} />
      {wanted.on === "past" && isOwnPeriod ? (
        <form className="mb-4 flex flex-wrap items-end gap-2" key={`${fromDay} ${toDay}`}>
          <div>
            <label className="label" htmlFor="rehearse-from">
              Visits from
            </label>
            <DayField
              id="rehearse-from"
              name="from"
              label="Visits from"
              defaultValue={formatDay(fromDay)}
              today={formatDay(today)}
            />
          </div>
          <div>
            <label className="label" htmlFor="rehearse-to">
              to
            </label>
            <DayField id="rehearse-to" name="to" label="to" defaultValue={formatDay(toDay)} today={formatDay(today)} />
          </div>
          {wanted.version ? <input type="hidden" name="version" value={wanted.version} /> : null}
          {wanted.against ? <input type="hidden" name="against" value={wanted.against} /> : null}
          <button type="submit" className="button">
            Rehearse
          </button>
        </form>
      ) : null}
      {wanted.on === "list" ? (
        <p className="text-second mb-4 text-[14px]">
          {seen.lists.length === 0 ? "No list has been brought yet. " : ""}
          <Link href={`/c/${slug}/people/import`} className="underline">
            Bring a file
          </Link>
          , and come back before you import it: a rehearsal stores nothing.
          {wanted.list && !stage ? (
            <span className="text-vermilion-deep block">This list can’t be read any more. Choose another.</span>
          ) : null}
        </p>
      ) : null}
      {sum && otherSum && seen.against ? (
        <SideBySide
          shown={{ name: versionName(wanted.version), rules, sum }}
          other={{ name: versionName(wanted.against), rules: seen.against, sum: otherSum }}
          currency={setting.client.currency}
          zone={zone}
          now={now}
        />
      ) : null}
      {stage && rehearsal && sum ? (
        <>
          {stage.visits.length >= MOST_REHEARSED ? (
            <p className="text-ochre-deep mt-4">
              Only the first {MOST_REHEARSED} visits are rehearsed. Choose a shorter period.
            </p>
          ) : null}
          <div className="mt-5">
            <PeriodRuler
              marks={own}
              calendar={calendar}
              href={(number) => link({ day: number === wanted.day ? null : number, show: "messages" })}
              chosen={wanted.day}
            />
          </div>
          <nav aria-label="What is listed" className="mt-5 flex gap-2">
            {chip(link({ show: "messages", reason: null }), wanted.show === "messages", `${sum.messages} would leave`)}
            {chip(
              link({ show: "left out", day: null }),
              wanted.show === "left out",
              `${sum.leftOut.reduce((total, { count }) => total + count, 0)} left out`,
            )}
          </nav>
          {wanted.show === "messages" ? (
            <MessageList stage={stage} messages={onDay.slice(0, SHOWN)} slug={slug} zone={zone} now={now} />
          ) : (
            <LeftOutList stage={stage} leftOut={leftOut.slice(0, SHOWN)} slug={slug} zone={zone} now={now} />
          )}
          {(wanted.show === "messages" ? onDay.length : leftOut.length) > SHOWN ? (
            <p className="text-second mt-3">The first {SHOWN} are told one by one; all are in the numbers.</p>
          ) : null}
        </>
      ) : wanted.on === "list" ? null : (
        <div className="mt-6">
          <Empty>There is nothing to rehearse on.</Empty>
        </div>
      )}
    </Page>
  );
}

function titleOf(sum: RehearsalSum | null, on: string): string {
  if (!sum) return on === "list" ? "Choose a list to rehearse on." : "There is nothing to rehearse on.";
  if (sum.visits === 0) return "This plan would begin nothing.";
  return `${sayCount(sum.asked, "person", "people")} would be asked, with ${sayCount(sum.messages, "message")}.`;
}

/** The versions of a plan beside the one that is shown, with their names in words. */
function versionsBeside(plan: Plan, versions: { version: number }[], shown: string | null): [string, string][] {
  const older = versions.filter(({ version }) => version !== plan.version).slice(0, 6);
  const names: [string, string][] = [
    ...(plan.draft ? [["draft", "the changes"] as [string, string]] : []),
    ...(plan.version > 0 ? [["force", "what is in force"] as [string, string]] : []),
    ...older.map(({ version }): [string, string] => [`v${version}`, `version ${version}`]),
  ];
  return names.filter(([name]) => name !== (shown ?? (plan.draft ? "draft" : "force")));
}
