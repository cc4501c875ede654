import { z } from "zod";
import { isReady } from "@/core/activity/firstSteps";
import { capital, MOST_COUNTED, sayCount } from "@/core/time/say";
import { dayNumber, formatDay, parseDay, toLocal } from "@/core/time/zone";
import { PauseEverything } from "@/features/clients/parts/PauseEverything.client";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { loadTodayView, type TodayView } from "@/features/today";
import { DayStrip } from "@/features/today/parts/DayStrip";
import { FirstSteps } from "@/features/today/parts/FirstSteps";
import { GoingOutNext, LeftOut } from "@/features/today/parts/GoingOut";
import { Needs } from "@/features/today/parts/Needs";
import { Paused } from "@/features/today/parts/Paused";
import { TodayMargin } from "@/features/today/parts/TodayMargin";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { Page } from "@/ui/Page";

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
  const access = await requireAccess((await params).client, "see today");
  const wanted = query.parse(await searchParams);
  const now = await clockNow();
  const day = readDay(wanted.day, dayNumber(toLocal(access.seat.zone, now)));
  const today = await loadTodayView(access, { day, branchId: wanted.branch ?? null }, now);
  return (
    <>
      <LiveRefresh seconds={20} />
      <DayStrip today={today} />
      <Page margin={<TodayMargin today={today} />}>
        <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2">
          <h1 className="title">{titleOf(today)}</h1>
          {today.mayPause && !today.isPaused ? (
            <PauseEverything slug={today.slug} today={formatDay(today.thisDay)} />
          ) : null}
        </div>
        <p className="lead">{leadOf(today)}</p>
        <Paused today={today} />
        <FirstSteps today={today} />
        <Needs today={today} />
        <div className="mt-9 grid gap-x-10 gap-y-8 md:grid-cols-[1.35fr_1fr]">
          <GoingOutNext today={today} />
          <LeftOut today={today} />
        </div>
      </Page>
    </>
  );
}

function titleOf({ needs, first }: TodayView): string {
  const left = first ? first.steps.filter(({ isDone }) => !isDone).length : 0;
  if (needs === 0 && left > 0) return `${capital(sayCount(left, "step"))} left before your first ask.`;
  if (needs === 0) return first ? "Ready for your first ask." : "Nothing needs you right now.";
  if (needs > MOST_COUNTED) return `More than ${MOST_COUNTED.toLocaleString("en-GB")} things need you.`;
  return `${capital(sayCount(needs, "thing needs", "things need"))} you.`;
}

/** What runs, as it is: nothing where everything is paused, or no plan asks. */
function leadOf({ needs, marks, day, thisDay, isPaused, standing, first }: TodayView): string {
  const when = day === thisDay ? "the rest of today" : "that day";
  const planned = sayCount(marks.planned, "message was", "messages were");
  if (isPaused)
    return marks.planned === 0
      ? "Nobody is being asked until you resume."
      : `${capital(planned)} planned for ${when} and will wait until you resume.`;
  if (first && !isReady(first.steps)) return "Nobody is being asked yet.";
  if (first && marks.planned === 0) return "It goes out after the next visit, or as soon as you ask someone.";
  if (standing.running === 0)
    return marks.planned === 0
      ? "No plan is running, so nobody is being asked."
      : `No plan is running, so nobody new is being asked. ${capital(sayCount(marks.planned, "message", "messages"))} for earlier visits still ${marks.planned === 1 ? "goes" : "go"} out.`;
  const rest = needs === 0 ? "Everything is" : "Everything else is";
  const still = `${sayCount(marks.planned, "message is", "messages are")} planned for ${when}`;
  return marks.stuck === 0
    ? `${rest} running smoothly: ${still}.`
    : `${rest} running: ${still}, and ${sayCount(marks.stuck, "is", "are")} stuck.`;
}
