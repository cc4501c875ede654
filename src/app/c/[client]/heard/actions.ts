"use server";

import { countFacet, isFacet } from "@/features/reviews";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { readWanted, reviewFilter } from "./loadHeard";

/** How many reviews each choice of one part of the filters would leave, as the address of the page has the others. */
export async function countChoices(slug: string, facet: string, address: string): Promise<Record<string, number>> {
  const access = await requireAccess(slug, "see heard");
  if (!isFacet(facet) || typeof address !== "string") return {};
  const wanted = readWanted(Object.fromEntries(new URLSearchParams(address.slice(0, 2000))));
  const now = await clockNow();
  return withClient(access, (tx) =>
    countFacet(tx, access, facet, reviewFilter({ ...wanted, show: "reviews" }, now, access.seat.zone)),
  );
}
