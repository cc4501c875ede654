import { z } from "zod";
import { FETCH_PROBLEM } from "../intake/feedReports";
import { PAUSE_REASON } from "../plans/pauseReason";
import { SITE_PROBLEM } from "../reviews/siteProblems";
import { CHANNELS } from "../time/sendHours";

/** Between which numbers something is by now, on the weekday of the client's day (0 Monday). */
const usual = z.object({ weekday: z.int().min(0).max(6), low: z.int(), high: z.int() }).nullable();

/** Why a client needs somebody. Instants are milliseconds since the epoch. */
export const NEED = z.discriminatedUnion("code", [
  z.object({ code: z.literal("unhappy overdue"), count: z.int(), since: z.int() }),
  z.object({ code: z.literal("message overdue"), count: z.int(), since: z.int() }),
  z.object({ code: z.literal("plan paused"), plan: z.string(), planId: z.uuid(), why: PAUSE_REASON }),
  /** Someone paused it by hand, and what it had planned waits. */
  z.object({ code: z.literal("plan on hold"), plan: z.string(), planId: z.uuid(), waiting: z.int() }),
  /** It was just started, and so many steps are left before its first ask. */
  z.object({ code: z.literal("first steps"), left: z.int() }),
  /** No plan asks anybody. */
  z.object({ code: z.literal("no plan runs"), paused: z.int() }),
  z.object({ code: z.literal("feed unreadable"), feed: z.string(), feedId: z.uuid(), problem: FETCH_PROBLEM }),
  z.object({ code: z.literal("feed silent"), feed: z.string(), feedId: z.uuid(), since: z.int(), usual }),
  z.object({ code: z.literal("site unreadable"), site: z.string(), problem: SITE_PROBLEM }),
  z.object({ code: z.literal("nothing sent"), since: z.int(), usual }),
  z.object({ code: z.literal("coming back"), back: z.int(), sent: z.int() }),
  z.object({ code: z.literal("allowance used up"), channel: z.enum(CHANNELS), most: z.int(), waiting: z.int() }),
  z.object({ code: z.literal("allowance near"), channel: z.enum(CHANNELS), used: z.int(), most: z.int() }),
  z.object({
    code: z.literal("everything paused"),
    until: z.int().nullable(),
    /** Why, in the words of whoever paused it. */
    pausedWhy: z.string(),
  }),
  z.object({ code: z.literal("list failed"), list: z.string(), listId: z.uuid() }),
]);
export type Need = z.infer<typeof NEED>;

/** In this order they stand: what a customer feels first, then what stands still, then what will. */
const ORDER: Need["code"][] = NEED.options.map(({ shape }) => shape.code.value);

/** Those that weigh most first; of one kind as they were found. */
export function sortNeeds(needs: readonly Need[]): Need[] {
  return [...needs].sort((a, b) => ORDER.indexOf(a.code) - ORDER.indexOf(b.code));
}

/** How much a client needs somebody, for the order of a list: the smaller the sooner; null where it runs by itself. */
export function urgencyOf(needs: readonly Need[]): number | null {
  const [first] = sortNeeds(needs);
  return first ? ORDER.indexOf(first.code) : null;
}

/** What a need is about: the same need has the same key for as long as it lasts. */
export function needKey(need: Need): string {
  const of = "planId" in need ? need.planId : "feedId" in need ? need.feedId : "listId" in need ? need.listId : "";
  const at = "site" in need ? need.site : "channel" in need ? need.channel : "";
  return [need.code, of, at].filter(Boolean).join(" ");
}

/** The needs that are left, and those that somebody has set aside. */
export function parted<Aside extends { key: string }>(
  needs: readonly Need[],
  aside: readonly Aside[],
): { open: Need[]; aside: (Aside & { need: Need })[] } {
  const found = new Map(aside.map((one) => [one.key, one]));
  return {
    open: needs.filter((need) => !found.has(needKey(need))),
    aside: needs.flatMap((need) => {
      const one = found.get(needKey(need));
      return one ? [{ ...one, need }] : [];
    }),
  };
}

/** Of how many messages of a week so many must come back for a word about it. */
const LEAST_SENT = 20;
const MANY_BACK = 0.1;

/** Whether so many messages came back that somebody should look at the addresses. */
export function comesBack(back: number, sent: number): boolean {
  return sent >= LEAST_SENT && back / sent >= MANY_BACK;
}

/** From this share on an allowance is near its end, as long as the month is not. */
const NEAR = 0.9;

/** Whether an allowance will most likely not last: used up to nine tenths, and faster than the month goes by. */
export function isNear(used: number, most: number, monthGone: number): boolean {
  return used < most && used >= NEAR * most && used / most > monthGone;
}

/** The page that puts it right, below the client's own. */
export function needPath(need: Need): string {
  switch (need.code) {
    case "unhappy overdue":
      return "heard?show=concerns&state=open";
    case "message overdue":
      return "heard?show=conversations";
    case "no plan runs":
      return "asking";
    case "plan on hold":
    case "plan paused":
      return `asking/plans/${need.planId}`;
    case "feed unreadable":
    case "feed silent":
      return `set-up/feeds/${need.feedId}`;
    case "site unreadable":
      return "set-up/pages";
    case "nothing sent":
      return "asking/log?state=planned";
    case "coming back":
      return "people/addresses";
    case "allowance used up":
    case "allowance near":
      return "asking";
    case "everything paused":
    case "first steps":
      return "today";
    case "list failed":
      return `people/import/${need.listId}`;
  }
}
