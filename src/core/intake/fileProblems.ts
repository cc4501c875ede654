import { z } from "zod";

/** Why a list cannot be read at all. */
export const FILE_PROBLEM = z.discriminatedUnion("code", [
  z.object({ code: z.literal("too large"), megabytes: z.int() }),
  z.object({ code: z.literal("gone") }),
  z.object({ code: z.literal("empty") }),
  z.object({ code: z.literal("old workbook") }),
  z.object({ code: z.literal("PDF") }),
  z.object({ code: z.literal("not text") }),
  z.object({ code: z.literal("no rows") }),
  z.object({ code: z.literal("no filled sheet") }),
  z.object({ code: z.literal("damaged workbook") }),
  z.object({ code: z.literal("unpacks too large") }),
  z.object({ code: z.literal("too many rows"), most: z.int() }),
  z.object({ code: z.literal("too many columns"), most: z.int() }),
  z.object({ code: z.literal("too many cells") }),
  z.object({ code: z.literal("too slow") }),
  z.object({ code: z.literal("too much memory") }),
  z.object({ code: z.literal("not now") }),
  z.object({ code: z.literal("not readable") }),
  /** Nobody imported it, so its contents were removed. */
  z.object({ code: z.literal("not imported in time"), days: z.int() }),
]);
export type FileProblem = z.infer<typeof FILE_PROBLEM>;
