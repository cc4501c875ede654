import { z } from "zod";
import { REASONS } from "../asks/findings";

/** What plans would do with a visit of a list. Instants are milliseconds since the epoch. */
export const FORECAST_VERDICT = z.discriminatedUnion("code", [
  z.object({ code: z.literal("asked"), at: z.int() }),
  z.object({ code: z.literal("left out"), reason: z.enum(REASONS) }),
  /** When it ends. */
  z.object({ code: z.literal("decided later") }),
  /** Until its service or branch is assigned. */
  z.object({ code: z.literal("waits for names") }),
  z.object({ code: z.literal("not recorded") }),
]);
export type ForecastVerdict = z.infer<typeof FORECAST_VERDICT>;
