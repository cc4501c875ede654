import { may } from "@/core/access/permissions";
import { isPaused } from "@/core/clients/pause";
import { sitesInNeed } from "@/core/reviews/sites";
import { DAY, dayNumber, formatDay, fromLocal, toLocal, weekday } from "@/core/time/zone";
import { listNotes, unreadNotesCount } from "@/features/answers";
import { countHeld, standingOf, stoppedPlans, toldUsedUp } from "@/features/asks";
import { calendarOf, loadSetting } from "@/features/clients";
import { feedProblems } from "@/features/intake";
import { loadFirstSteps } from "@/features/outlook";
import { type Access, mayEverywhere } from "@/platform/access";
import { together, withClient } from "@/platform/database";
import * as queries from "./queries";

/** The days before the present one that the line of answers in the margin covers. */
const DAYS_DRAWN = 21;

export type TodayView = Awaited<ReturnType<typeof loadTodayView>>;

/**
 * All that Today shows of one local day of the client (a number of days since 1970) and, if wanted, of one branch only.
 * What needs somebody and what the margin tells are of `now`, whichever day is shown.
 */
export async function loadTodayView(access: Access, shown: { day: number; branchId: string | null }, now: number) {
  const { zone, slug } = access.seat;
  const thisDay = dayNumber(toLocal(zone, now));
  const span: queries.Span = {
    from: fromLocal(zone, shown.day * DAY),
    to: fromLocal(zone, (shown.day + 1) * DAY),
    branchId: shown.branchId,
  };
  const week = fromLocal(zone, (thisDay - weekday(thisDay)) * DAY);
  const lastDays = Array.from({ length: DAYS_DRAWN + 1 }, (_, index) => thisDay - DAYS_DRAWN + index).map((day) => ({
    day: formatDay(day),
    from: fromLocal(zone, day * DAY),
  }));
  // What customers wrote belongs to Heard: whoever is not shown that is not shown it here either.
  const hears = may(access.seat, "see heard");
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const { leftOut, problems, tally, perDay, averages, unread } = await together(tx, {
      leftOut: queries.leftOut(access, span),
      problems: queries.problems(access, now - 2 * DAY),
      tally: queries.tally(access, week, now + 1),
      perDay: queries.answersPerDay(access, lastDays, now + 1),
      averages: queries.averages(access),
      unread: unreadNotesCount(access, span.branchId),
    });
    const unreadNotes = hears ? unread.count : 0;
    return {
      setting,
      leftOut: leftOut.rows,
      problems,
      tally,
      perDay: perDay.rows,
      averages: hears ? averages.rows : [],
      marks: await queries.marksOfDay(tx, access, span, now),
      next: await queries.goingOutNext(tx, access, span.branchId, 6),
      needing: hears ? await queries.needing(tx, access, span.branchId, now) : queries.NOTHING_NEEDING,
      unreadNotes,
      latestNote:
        unreadNotes > 0
          ? ((await listNotes(tx, access, { unread: true, branchId: span.branchId, before: null }, 1)).at(0) ?? null)
          : null,
      feedProblems: await feedProblems(tx, access),
      stopped: await stoppedPlans(tx, access),
      standing: await standingOf(tx, access),
      first: await loadFirstSteps(tx, access, setting),
      told: await toldUsedUp(tx, access, setting, now),
      waiting: (await countHeld(tx, access)).find(({ hold }) => hold === "allowance")?.count ?? 0,
    };
  });
  const solvable = seen.feedProblems.filter(({ setUp }) =>
    mayEverywhere(access.seat, setUp ? "set up" : "edit people"),
  );
  const unread = mayEverywhere(access.seat, "set up") ? sitesInNeed(seen.setting.listings, now) : [];
  const { counts } = seen.needing;
  const branch = seen.setting.branches.find(({ id }) => id === span.branchId) ?? seen.setting.branches[0];
  return {
    ...seen,
    feedProblems: solvable,
    unread,
    now,
    zone,
    thisDay,
    day: shown.day,
    branchId: shown.branchId,
    base: `/c/${slug}`,
    slug,
    isPaused: isPaused(seen.setting.client, now),
    mayPause: may(access.seat, "pause everything"),
    /** What is left before the first ask, for those who can do something about it; null once it has gone out. */
    first: may(access.seat, "set up") || may(access.seat, "change plans") ? seen.first : null,
    mayAsk: may(access.seat, "ask"),
    team: may(access.seat, "manage people") ? `/agency/${access.seat.agencySlug}/people` : null,
    calendar: calendarOf(seen.setting, branch?.id ?? "", now),
    /** How many things need somebody. */
    needs:
      counts.open +
      counts.waiting +
      seen.needing.countLetters +
      (seen.problems.failed > 0 ? 1 : 0) +
      unread.length +
      solvable.length +
      seen.stopped.length +
      seen.standing.held.length +
      (seen.waiting > 0 ? 1 : 0),
  };
}
