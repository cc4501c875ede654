import { z } from "zod";

/** What stands between us and a review site. Instants are milliseconds since the epoch. */
export const SITE_PROBLEM = z.discriminatedUnion("code", [
  z.object({ code: z.literal("answered"), status: z.int() }),
  z.object({ code: z.literal("key refused") }),
  z.object({ code: z.literal("sign-in ended"), at: z.int() }),
  /** `until` is the clock time it names, in the client's zone: "14:20". */
  z.object({ code: z.literal("asks for patience"), until: z.string().optional() }),
  z.object({ code: z.literal("not there") }),
  z.object({ code: z.literal("review gone") }),
  z.object({ code: z.literal("answered already") }),
  z.object({ code: z.literal("not taken"), why: z.string() }),
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

/** Problems that pass by themselves: what they stopped is tried again. */
export function isPassing(problem: SiteProblem): boolean {
  return (
    problem.code === "asks for patience" ||
    problem.code === "not reached" ||
    problem.code === "not readable" ||
    (problem.code === "answered" && problem.status >= 500)
  );
}

export const SITE_REMEDIES = ["sign in", "connect", "address", "wait"] as const;
export type SiteRemedy = (typeof SITE_REMEDIES)[number];

/** What ends a problem: somebody's signing in or connecting anew, a page's right address, or time alone. */
export function remedyOf({ code }: SiteProblem): SiteRemedy {
  if (code === "sign-in ended") return "sign in";
  if (code === "key refused") return "connect";
  return code === "not there" || code === "private network" ? "address" : "wait";
}

const MINUTE = 60_000;

/**
 * How long to leave a site alone after it failed so many times in a row, in milliseconds: a minute at first, doubled
 * each time, half an hour at most; never less than it asks for.
 */
export function siteBackoff(failures: number, askedFor: number | null): number {
  return Math.max(Math.min(30, 2 ** Math.max(0, Math.min(10, failures - 1))) * MINUTE, askedFor ?? 0);
}
