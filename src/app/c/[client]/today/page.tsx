import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { capital, MOST_COUNTED, sayAgo, sayCount, sayCounted, sayTime, sayWhen } from "@/core/time/say";
import { openStretches } from "@/core/time/sendHours";
import { DAY, dayNumber, formatDay, fromLocal, HOUR, parseDay, toLocal, weekday } from "@/core/time/zone";
import { countHeld, stoppedPlans, toldUsedUp } from "@/features/asks";
import { calendarOf, loadSetting } from "@/features/clients";
import { feedProblems } from "@/features/intake";
import { STATE_WORDS, sayStep } from "@/features/messaging";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { sayTold } from "@/features/notices";
import { nameOf, nameOrUnknown } from "@/features/people";
import * as today from "@/features/today";
import { AnswersLine } from "@/features/today/parts/AnswersLine.client";
import { reasonWords } from "@/locales/asking";
import { pauseWords, siteProblemWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Bars } from "@/ui/Bars";
import { Empty, Note, Page } from "@/ui/Page";
import { DayRuler, type RulerMessage } from "@/ui/ruler/DayRuler";

export const metadata = { title: "Today" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({ day: z.string().optional().catch(undefined), branch: z.uuid().optional().catch(undefined) });

function readDay(text: string | undefined, fallback: number): number {
  try {
    return text ? parseDay(text) : fallback;
  } catch {
    return fallback;
  }
}

export default async function Today({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "view");
  const wanted = query.parse(await searchParams);
  const now = await clockNow();
  const zone = access.seat.zone;
  const thisDay = dayNumber(toLocal(zone, now));
  const day = readDay(wanted.day, thisDay);
  const span: today.Span = {
    from: fromLocal(zone, day * DAY),
    to: fromLocal(zone, (day + 1) * DAY),
    branchId: wanted.branch ?? null,
  };
  const week = fromLocal(zone, (thisDay - weekday(thisDay)) * DAY);
  const lastDays = Array.from({ length: 22 }, (_, index) => thisDay - 21 + index).map((each) => ({
    day: formatDay(each),
    from: fromLocal(zone, each * DAY),
  }));
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    return {
      setting,
      marks: await today.marksOfDay(tx, access, span, now),
      next: await today.goingOutNext(tx, access, span.branchId, 6),
      leftOut: await today.leftOut(tx, access, span),
      needing: await today.needing(tx, access, span.branchId),
      problems: await today.problems(tx, access, now - 2 * DAY),
      tally: await today.tally(tx, access, week, now + 1),
      perDay: await today.answersPerDay(tx, access, lastDays, now + 1),
      averages: await today.averages(tx, access),
      hindered: await feedProblems(tx, access),
      stopped: await stoppedPlans(tx, access),
      told: await toldUsedUp(tx, access, setting, now),
      waiting: (await countHeld(tx, access)).find(({ hold }) => hold === "allowance")?.count ?? 0,
    };
  });
  const hindered = seen.hindered.filter(({ setUp }) => may(access.seat.role, setUp ? "set up" : "edit people"));
  const base = `/c/${access.seat.slug}`;
  const branch = seen.setting.branches.find(({ id }) => id === span.branchId);
  const calendar = calendarOf(seen.setting, branch?.id ?? seen.setting.branches[0]?.id ?? "", now);
  const { open, waiting, counts } = seen.needing;
  const elsewhere = counts.open + counts.waiting - open.length - waiting.length;
  const needs =
    counts.open +
    counts.waiting +
    (seen.problems.failed > 0 ? 1 : 0) +
    seen.problems.unread.length +
    hindered.length +
    seen.stopped.length +
    (seen.waiting > 0 ? 1 : 0);
  const { planned, stuck } = seen.marks;
  const link = (change: { day?: number; branch?: string | null }) => {
    const search = new URLSearchParams();
    const to = change.day ?? day;
    if (to !== thisDay) search.set("day", formatDay(to));
    const at = change.branch === undefined ? span.branchId : change.branch;
    if (at) search.set("branch", at);
    return `${base}/today${search.size ? `?${search}` : ""}`;
  };
  return (
    <>
      <LiveRefresh seconds={20} />
      <div className="border-rule bg-sheet border-b">
        <div className="mx-auto w-full max-w-[1280px] px-4 pt-3 pb-2 sm:px-8">
          <div className="mb-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 text-[14px]">
            <span className="flex flex-wrap items-center gap-1">
              <Link href={link({ day: day - 1 })} className="button-quiet" aria-label="The day before">
                ←
              </Link>
              <b>{day === thisDay ? "Today" : dayWords(day)}</b>
              <Link href={link({ day: day + 1 })} className="button-quiet" aria-label="The day after">
                →
              </Link>
              {day === thisDay ? null : (
                <Link href={link({ day: thisDay })} className="button-quiet">
                  back to today
                </Link>
              )}
            </span>
            {seen.setting.branches.length > 1 ? (
              <span className="flex flex-wrap gap-x-1">
                {[{ id: null as string | null, name: "All branches" }, ...seen.setting.branches].map((one) => (
                  <Link
                    key={one.name}
                    href={link({ branch: one.id })}
                    aria-current={one.id === span.branchId ? "true" : undefined}
                    className="text-second aria-[current]:text-ink inline-flex min-h-[32px] items-center px-2 no-underline aria-[current]:font-semibold aria-[current]:underline aria-[current]:decoration-mulberry aria-[current]:decoration-2 aria-[current]:underline-offset-4"
                  >
                    {one.name}
                  </Link>
                ))}
              </span>
            ) : null}
          </div>
          <DayRuler
            zone={zone}
            day={day}
            now={now}
            open={openStretches(day, "text", calendar)}
            bundleHref={`${base}/asking/log?day=${formatDay(day)}`}
            crowd={seen.marks.crowd}
            visits={seen.marks.visits.map((visit) => ({
              id: visit.id,
              at: visit.at,
              over: visit.at <= now,
              says: `${sayTime(zone, visit.at)} ${nameOf(visit)}${visit.about ? ` for ${visit.about}` : ""}: ${visit.service.toLowerCase()}${visit.outcome === "no-show" ? ", did not turn up" : ""}`,
              href: `${base}/people/${visit.personId}`,
            }))}
            messages={seen.marks.messages.map((message) => ({
              id: message.id,
              at: message.at,
              channel: message.channel,
              tone: toneOf(message),
              says: `${sayTime(zone, message.at)} ${message.channel === "text" ? "Text" : "Email"} to ${nameOf(message)}, ${sayStep(message.step, message.stepName)}: ${message.rating ? `answered ${message.rating} of 5` : STATE_WORDS[message.state]}`,
              href: `${base}/people/${message.personId}`,
            }))}
          />
        </div>
      </div>
      <Page
        margin={
          <>
            <Note title="This week so far">
              <p>
                <Link href={`${base}/asking/log?state=sent`}>
                  <b>{seen.tally.asked}</b> people
                </Link>{" "}
                were asked. <b>{seen.tally.answered}</b> answered, and <b>{seen.tally.followed}</b> went on to a review
                site.
              </p>
              <AnswersLine days={seen.perDay} />
            </Note>
            {seen.averages.map(({ site, average, reviews }) => (
              <Note key={site} title={site}>
                <p>
                  {site} shows <b>{average.toFixed(1)}</b> from{" "}
                  <Link href={`${base}/heard?show=reviews`}>
                    <b>{reviews}</b> reviews
                  </Link>
                  .
                </p>
              </Note>
            ))}
            <Note title="Left out">
              <p>
                {seen.leftOut.length === 0
                  ? "Nobody has been left out "
                  : `${capital(
                      sayCount(
                        seen.leftOut.reduce((sum, { count }) => sum + count, 0),
                        "person was",
                        "people were",
                      ),
                    )} left out `}
                {day === thisDay ? "today" : "that day"}. Each visit shows its reason in the person’s story, and the
                rules stand under <Link href={`${base}/asking`}>Asking</Link>.
              </p>
            </Note>
          </>
        }
      >
        <h1 className="title">
          {needs === 0
            ? "Nothing needs you."
            : needs > MOST_COUNTED
              ? `More than ${MOST_COUNTED.toLocaleString("en-GB")} things need you.`
              : `${capital(sayCount(needs, "thing needs", "things need"))} you.`}
        </h1>
        <p className="lead">
          {needs === 0 ? "Everything is" : "Everything else is"} running:{" "}
          {sayCount(planned, "message is", "messages are")} planned for{" "}
          {day === thisDay ? "the rest of today" : "that day"},{" "}
          {stuck === 0 ? "none are" : `${sayCount(stuck, "is", "are")}`} stuck.
        </p>
        {needs > 0 ? (
          <ul className="divide-rule border-rule mt-6 divide-y border-y">
            {open.map((concern) => (
              <li key={concern.id} className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">{sayAgo(concern.at, now)}</span>
                <div className="min-w-0 flex-1">
                  <p className="said">“{concern.words}”</p>
                  <p className="text-second mt-1 flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[14px]">
                    {concern.rating ? <Bars rating={concern.rating} /> : null}
                    <span>
                      private note · {nameOrUnknown(concern)}
                      {concern.about ? `, for ${concern.about}` : ""} · {concern.service.toLowerCase()}
                      {concern.member ? ` with ${concern.member}` : ""}
                    </span>
                    <span className="tag bg-vermilion-tint text-vermilion-deep">
                      {concern.answerBy < now ? "overdue since" : "answer by"}{" "}
                      {dayNumber(toLocal(zone, concern.answerBy)) === thisDay
                        ? sayTime(zone, concern.answerBy)
                        : sayWhen(zone, concern.answerBy, now)}
                    </span>
                    {concern.takenBy ? <span>taken by {concern.takenBy}</span> : null}
                  </p>
                </div>
                <Link href={`${base}/heard/concerns/${concern.id}`} className="button self-start">
                  Read and reply
                </Link>
              </li>
            ))}
            {waiting.map((review) => (
              <li key={review.id} className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">{sayAgo(review.at, now)}</span>
                <div className="min-w-0 flex-1">
                  <p className="said">{review.words ? `“${review.words}”` : "No words, only the rating."}</p>
                  <p className="text-second mt-1 flex flex-wrap items-center gap-x-2.5 text-[14px]">
                    <Bars rating={review.rating} words={`${review.rating} of 5 on ${review.site}`} />
                    <span>
                      {review.author} · {review.branch}
                    </span>
                    <span className="tag bg-ochre-tint text-ochre-deep">
                      {review.replyState === "failed" ? "reply did not get through" : "no reply yet"}
                    </span>
                  </p>
                </div>
                <Link href={`${base}/heard?open=${review.id}#review-${review.id}`} className="button self-start">
                  Reply
                </Link>
              </li>
            ))}
            {seen.problems.failed > 0 ? (
              <li className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">lately</span>
                <div className="flex-1">
                  <p className="font-semibold">
                    {capital(sayCount(seen.problems.failed, "message was", "messages were"))} given up
                  </p>
                  <p className="text-second text-[14px]">The gateway never took them. Each says why in the log.</p>
                </div>
                <Link href={`${base}/asking/log?state=failed`} className="button self-start">
                  See them
                </Link>
              </li>
            ) : null}
            {seen.stopped.map((plan) => (
              <li key={plan.id} className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">asking</span>
                <div className="min-w-0 flex-1">
                  <p className="font-semibold">“{plan.name}” paused by itself</p>
                  <p className="text-second text-[14px]">
                    {capital(pauseWords(plan.pausedWhy))}. What it had planned is held, nothing is lost.
                    {sayTold(plan.notice, zone, now)}
                  </p>
                </div>
                <Link href={`${base}/asking/plans/${plan.id}`} className="button self-start">
                  Look at it
                </Link>
              </li>
            ))}
            {seen.waiting > 0 ? (
              <li className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">asking</span>
                <div className="min-w-0 flex-1">
                  <p className="font-semibold">This month’s allowance is used up</p>
                  <p className="text-second text-[14px]">
                    {capital(sayCount(seen.waiting, "message waits", "messages wait"))} for next month. Raise the
                    allowance, or let them wait.{sayTold(seen.told, zone, now)}
                  </p>
                </div>
                <Link href={`${base}/asking`} className="button self-start">
                  See the allowance
                </Link>
              </li>
            ) : null}
            {hindered.map((each) => (
              <li key={each.title} className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row">
                <span className="text-second w-[86px] shrink-0 pt-1 text-[14px]">coming in</span>
                <div className="min-w-0 flex-1">
                  <p className="font-semibold [overflow-wrap:anywhere]">{capital(each.title)}</p>
                  <p className="text-second text-[14px]">{each.words}</p>
                </div>
                <Link href={`${base}/${each.path}`} className="button self-start">
                  {each.button}
                </Link>
              </li>
            ))}
            {seen.problems.unread.map(({ id, site, problem }) => (
              <li key={id} className="flex gap-x-5 py-4">
                <span className="text-second w-[86px] shrink-0 text-[14px]">now</span>
                <div>
                  <p className="font-semibold">{site} cannot be read</p>
                  <p className="text-second text-[14px]">
                    {capital(siteProblemWords(problem))}. It is tried again every minute.
                  </p>
                </div>
              </li>
            ))}
            {elsewhere > 0 ? (
              <li className="py-4 sm:pl-[106px]">
                <Link href={`${base}/heard`} className="underline underline-offset-[3px]">
                  {elsewhere >= MOST_COUNTED
                    ? `${sayCounted(elsewhere)} more wait`
                    : capital(sayCount(elsewhere, "more waits", "more wait"))}{" "}
                  for an answer under Heard
                </Link>
              </li>
            ) : null}
          </ul>
        ) : null}
        <div className="mt-9 grid gap-x-10 gap-y-8 md:grid-cols-[1.35fr_1fr]">
          <section>
            <h2 className="font-sans text-[15px] font-semibold tracking-normal">Going out next</h2>
            {seen.next.length === 0 ? (
              <div className="mt-3">
                <Empty>Nothing is planned. Record a visit, or ask someone.</Empty>
              </div>
            ) : (
              <ul className="divide-rule border-rule mt-1.5 divide-y border-t">
                {seen.next.map((message) => (
                  <li key={message.id} className="grid grid-cols-[86px_1fr] gap-2 py-2">
                    <span className="text-second">
                      {dayNumber(toLocal(zone, message.at ?? now)) === thisDay
                        ? sayTime(zone, message.at ?? now)
                        : sayWhen(zone, message.at ?? now, now).replace(" at", "")}
                    </span>
                    <span>
                      {message.channel === "text" ? "Text" : "Email"} to{" "}
                      <Link href={`${base}/people/${message.personId}`} className="name-link">
                        {nameOf(message)}
                      </Link>
                      , {sayStep(message.step, message.stepName)}
                      <span className="text-second">
                        {message.service
                          ? ` · ${message.about ? `${message.about}, ` : ""}${message.service.toLowerCase()} at ${message.branch}`
                          : ""}
                      </span>
                    </span>
                  </li>
                ))}
              </ul>
            )}
            <Link href={`${base}/asking/log?state=planned`} className="button-quiet mt-1 -ml-2">
              All that is planned
            </Link>
          </section>
          <section>
            <h2 className="font-sans text-[15px] font-semibold tracking-normal">
              Left out {day === thisDay ? "today" : "that day"}, and why
            </h2>
            {seen.leftOut.length === 0 ? (
              <p className="text-second mt-2">Nobody yet.</p>
            ) : (
              <ul className="divide-rule border-rule mt-1.5 divide-y border-t">
                {seen.leftOut.map(({ reason, count }) => (
                  <li key={reason}>
                    <Link
                      href={`${base}/people?leftout=${encodeURIComponent(reason)}&day=${formatDay(day)}`}
                      className="grid min-h-[40px] grid-cols-[40px_1fr] items-center gap-2 py-1.5 no-underline hover:underline"
                    >
                      <b>{count}</b>
                      <span>{reasonWords(reason)}</span>
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
      </Page>
    </>
  );
}

function toneOf(message: { state: string; rating: number | null; answeredAt: number | null }): RulerMessage["tone"] {
  if (message.state === "bounced" || message.state === "failed") return "unhappy";
  if (message.state === "held") return "waiting";
  if (message.state === "planned") return "planned";
  if (message.rating) return message.rating <= 3 ? "unhappy" : "good";
  return message.answeredAt ? "good" : "sent";
}

function dayWords(day: number): string {
  return new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    day * DAY + HOUR,
  );
}
