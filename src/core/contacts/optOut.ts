import { z } from "zod";

/** By which way somebody opted out of a channel. */
export const OPT_OUT_WAY = z.discriminatedUnion("code", [
  z.object({ code: z.literal("link in an email") }),
  /** The word they wrote, of the list that every program knows. */
  z.object({ code: z.literal("wrote back"), word: z.string().max(40) }),
  z.object({ code: z.literal("not recorded") }),
]);
export type OptOutWay = z.infer<typeof OPT_OUT_WAY>;
