import { z } from "zod";

/** What stands between us and a review site. */
export const SITE_PROBLEM = z.discriminatedUnion("code", [
  z.object({ code: z.literal("answered"), status: z.int() }),
  z.object({ code: z.literal("key refused") }),
  z.object({ code: z.literal("asks for patience") }),
  z.object({ code: z.literal("not there") }),
  z.object({ code: z.literal("review gone") }),
  z.object({ code: z.literal("not readable") }),
  z.object({ code: z.literal("not reached") }),
  z.object({ code: z.literal("private network") }),
  z.object({ code: z.literal("takes no replies") }),
]);
export type SiteProblem = z.infer<typeof SITE_PROBLEM>;

/** Reads an HTTP status that a site refused with. */
export function readSiteStatus(status: number): SiteProblem {
  if (status === 401 || status === 403) return { code: "key refused" };
  if (status === 429) return { code: "asks for patience" };
  return status === 404 || status === 410 ? { code: "not there" } : { code: "answered", status };
}
