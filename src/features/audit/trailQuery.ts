import { z } from "zod";
import { TRAIL_PARTS, type TrailPart } from "@/core/audit/actions";
import { DAY, fromLocal, parseDay } from "@/core/time/zone";
import { pageKey } from "@/platform/pageKey";
import type { AgencyTrailFilter, AgencyTrailPart } from "./agencyTrail";

/** The parts of an agency's trail as choices. */
export const AGENCY_PARTS: readonly AgencyTrailPart[] = ["agency", ...(Object.keys(TRAIL_PARTS) as TrailPart[])];

const query = z.object({
  part: z.enum(AGENCY_PARTS).nullable().catch(null),
  who: z
    .string()
    .regex(/^[\w-]{1,64}$/)
    .nullable()
    .catch(null),
  client: z.uuid().nullable().catch(null),
  day: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .nullable()
    .catch(null),
  after: pageKey,
});
export type TrailQuery = z.output<typeof query>;

type Search = Record<string, string | string[] | undefined>;

/** Filters as they stand in an address; what makes no sense is left out. */
export function readTrailQuery({ part, who, client, day, after }: Search): TrailQuery {
  return query.parse({
    part: part ?? null,
    who: who ?? null,
    client: client ?? null,
    day: day ?? null,
    after: after ?? null,
  });
}

/** What the query narrows the trail to; a day is one of `zone`. */
export function filterOfTrail({ part, who, client, day, after }: TrailQuery, zone: string): AgencyTrailFilter {
  let between: AgencyTrailFilter["between"] = null;
  try {
    if (day) {
      const from = fromLocal(zone, parseDay(day) * DAY);
      between = { from, to: fromLocal(zone, (parseDay(day) + 1) * DAY) };
    }
  } catch {
    // A day that is none filters nothing.
  }
  return { part, who, clientId: client, between, before: after };
}
