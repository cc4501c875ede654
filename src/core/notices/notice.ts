import { z } from "zod";
import { PAUSE_REASON } from "../plans/pauseReason";
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
  z.object({ code: z.literal("not recorded") }),
]);
export type NoticeContent = z.infer<typeof NOTICE>;

/** The page that shows what a notice is about, below the client's own. */
export function noticePath(notice: NoticeContent): string {
  return notice.code === "plan paused" ? `/asking/plans/${notice.planId}` : "/asking";
}
