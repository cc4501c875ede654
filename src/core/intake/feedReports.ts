import { z } from "zod";
import { OUTCOMES } from "../asks/findings";
import { FILE_PROBLEM } from "./fileProblems";
import { REMARK } from "./remarks";

/** What fetching a feed gave, and what became of a delivery. Instants are milliseconds since the epoch. */

const count = z.int();

/** What the last fetch brought. */
export const FETCH_REPORT = z.discriminatedUnion("code", [
  z.object({ code: z.literal("nothing new") }),
  z.object({
    code: z.literal("calendar read"),
    events: count,
    added: count,
    changed: count,
    gone: count,
    nobody: count,
    unreadable: count,
    /** Names of time zones that mean none: what names them is among the unreadable. */
    zones: z.array(z.string()).optional(),
    /** Not whole: nothing was cancelled for missing. */
    isWhole: z.boolean(),
  }),
  z.object({ code: z.literal("file being read") }),
  z.object({ code: z.literal("file to look at") }),
  z.object({ code: z.literal("file read"), rows: count, added: count, visits: count, refused: count }),
  z.object({ code: z.literal("not recorded") }),
]);
export type FetchReport = z.infer<typeof FETCH_REPORT>;

/** Why nothing could be fetched. */
export const FETCH_PROBLEM = z.discriminatedUnion("code", [
  z.object({ code: z.literal("answered"), status: z.int() }),
  z.object({ code: z.literal("too large"), megabytes: z.int() }),
  z.object({ code: z.literal("private network") }),
  z.object({ code: z.literal("not http") }),
  z.object({ code: z.literal("not a calendar") }),
  z.object({ code: z.literal("file"), problem: FILE_PROBLEM }),
  z.object({ code: z.literal("not reached") }),
]);
export type FetchProblem = z.infer<typeof FETCH_PROBLEM>;

/** What a delivery of a feed did. */
export const EVENT_RESULT = z.discriminatedUnion("code", [
  z.object({ code: z.literal("left aside"), event: z.string() }),
  z.object({ code: z.literal("unknown event"), event: z.string() }),
  z.object({ code: z.literal("names no event") }),
  z.object({ code: z.literal("visit not known"), number: z.string() }),
  z.object({ code: z.literal("unusable"), remarks: z.array(REMARK) }),
  z.object({
    code: z.literal("taken in"),
    /** Empty for somebody without a name; null for nobody. */
    name: z.string().nullable(),
    isNew: z.boolean(),
    visit: z
      .object({ change: z.enum(["new", "changed", "unchanged"]), endsAt: z.int(), outcome: z.enum(OUTCOMES) })
      .nullable(),
    remark: REMARK.nullable(),
  }),
  z.object({ code: z.literal("erased") }),
  z.object({ code: z.literal("not recorded") }),
]);
export type EventResult = z.infer<typeof EVENT_RESULT>;
