import { z } from "zod";
import { SITE_PROBLEM } from "../reviews/siteProblems";
import { REMINDER_STAGES } from "./choices";

/** What one person is told: identifiers, never anybody's words. */
export const TOLD = z.discriminatedUnion("code", [
  z.object({ code: z.literal("concern"), concernId: z.uuid() }),
  z.object({ code: z.literal("note"), answerId: z.uuid() }),
  z.object({ code: z.literal("review"), reviewId: z.uuid() }),
  z.object({ code: z.literal("approval"), reviewId: z.uuid() }),
  z.object({ code: z.literal("reminder"), concernId: z.uuid(), stage: z.enum(REMINDER_STAGES) }),
  z.object({ code: z.literal("conversation"), conversationId: z.uuid() }),
  z.object({
    code: z.literal("site"),
    site: z.string(),
    branch: z.string(),
    since: z.int(),
    problem: SITE_PROBLEM,
  }),
]);
export type Told = z.infer<typeof TOLD>;

/** The page of the matter, below the client's own. */
export function toldPath(told: Told): string {
  if (told.code === "concern" || told.code === "reminder") return `/heard/concerns/${told.concernId}`;
  if (told.code === "conversation") return `/heard/conversations/${told.conversationId}`;
  if (told.code === "note") return `/heard?show=kind#note-${told.answerId}`;
  if (told.code === "site") return "/set-up/pages";
  return `/heard?show=reviews&open=${told.reviewId}#review-${told.reviewId}`;
}
