import { z } from "zod";
import { GATEWAY_REPLY } from "../contacts/gatewayReply";
import { AUTOMATIC } from "../conversations/automatic";
import { DELAY_UNITS } from "../time/delay";
import { CHANNELS } from "../time/sendHours";
import { ASK_ENDS, STOPS, WHYS } from "./nextStep";

/**
 * Why a message is in its state, or leaves when it does: a code with parameters, kept in the row. Minutes count from
 * local midnight.
 */

export const SCHEDULED = z.object({
  code: z.literal("scheduled"),
  /** What its delay counts from. */
  after: z.enum(["visit", "portion", "message", "answer"]),
  /** With what the plan begins, where that is no visit. */
  begun: z.enum(["invoice", "tag", "customer", "put right"]).optional(),
  delay: z.object({ amount: z.int(), unit: z.enum(DELAY_UNITS), at: z.int().nullish() }),
  channel: z.enum(CHANNELS),
  /** What moved it, as `nextStep` says. */
  moves: z.array(z.enum(WHYS)),
  /** When the hours open on that day, where they moved it. */
  opens: z.int().optional(),
});
export type Scheduled = z.infer<typeof SCHEDULED>;

export const MESSAGE_REASON = z.discriminatedUnion("code", [
  SCHEDULED,
  z.object({ code: z.literal("tried again"), reply: GATEWAY_REPLY }),
  z.object({ code: z.literal("plan paused") }),
  z.object({ code: z.literal("held by hand"), by: z.string() }),
  z.object({ code: z.literal("ask ended"), ended: z.enum(ASK_ENDS) }),
  z.object({ code: z.literal("ask stopped"), stop: z.enum(STOPS) }),
  z.object({ code: z.literal("condition changed") }),
  z.object({ code: z.literal("not repeated") }),
  z.object({ code: z.literal("refused"), reply: GATEWAY_REPLY }),
  z.object({ code: z.literal("came back"), reply: GATEWAY_REPLY }),
  z.object({ code: z.literal("given up"), attempts: z.int(), reply: GATEWAY_REPLY }),
  z.object({ code: z.literal("personal answer") }),
  /** Somebody asked on their page for a copy of what they wrote, or for a link to it. */
  z.object({ code: z.literal("at their request") }),
  z.object({ code: z.literal("wants no texts") }),
  z.object({ code: z.literal("wants texts again") }),
  z.object({ code: z.literal("asks for help") }),
  /** A mail program wrote it by itself: somebody is away. */
  z.object({ code: z.literal("written by a machine") }),
  /** Said by itself in a conversation. */
  z.object({ code: z.literal("automatic"), what: z.enum(AUTOMATIC) }),
  z.object({ code: z.literal("erased") }),
  /** From before reasons were codes, and not to be read as one. */
  z.object({ code: z.literal("not recorded") }),
]);
export type MessageReason = z.infer<typeof MESSAGE_REASON>;
