import { z } from "zod";
import { PAUSE_REASON } from "../plans/pauseReason";
import { SITE_PROBLEM } from "../reviews/siteProblems";
import { CHANNELS } from "../time/sendHours";

/** What whoever looks after a client is told. Instants are milliseconds since the epoch. */
export const NOTICE = z.discriminatedUnion("code", [
  z.object({ code: z.literal("plan paused"), plan: z.string(), planId: z.uuid(), why: PAUSE_REASON }),
  z.object({
    code: z.literal("allowance used up"),
    channel: z.enum(CHANNELS),
    /** Emails, or parts of texts. */
    most: z.int(),
    renewedAt: z.int(),
    /** Whoever comes in once both allowances are used up is left out. */
    leavesOut: z.boolean(),
  }),
  z.object({
    code: z.literal("site stopped"),
    site: z.string(),
    branch: z.string(),
    since: z.int(),
    problem: SITE_PROBLEM,
  }),
  z.object({ code: z.literal("not recorded") }),
]);
export type NoticeContent = z.infer<typeof NOTICE>;

/** The page that shows what a notice is about, below the client's own. */
export function noticePath(notice: NoticeContent): string {
  if (notice.code === "plan paused") return `/asking/plans/${notice.planId}`;
  return notice.code === "site stopped" ? "/set-up/pages" : "/asking";
}
