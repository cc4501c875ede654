import { z } from "zod";

/** Why a plan of portions paused by itself. Shares are percent with one decimal. */
export const PAUSE_REASON = z.discriminatedUnion("code", [
  z.object({ code: z.literal("came back"), share: z.number(), count: z.int(), of: z.int(), most: z.number() }),
  z.object({ code: z.literal("opted out"), share: z.number(), count: z.int(), of: z.int(), most: z.number() }),
  z.object({ code: z.literal("not recorded") }),
]);
export type PauseReason = z.infer<typeof PAUSE_REASON>;
