"use server";

import { countFacet, isFacet } from "@/features/reviews";
import { atClientWith, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { readWanted, reviewFilter } from "./loadHeard";

/** How many reviews each choice of one part of the filters would leave, as the address of the page has the others. */
export const countChoices = readAction(
  atClientWith("see heard"),
  [text, text],
  async (access, facet, address): Promise<Record<string, number>> => {
    if (!isFacet(facet)) return {};
    const wanted = readWanted(Object.fromEntries(new URLSearchParams(address.slice(0, 2000))));
    const now = await clockNow();
    return withClient(access, (tx) =>
      countFacet(tx, access, facet, reviewFilter({ ...wanted, show: "reviews" }, now, access.seat.zone)),
    );
  },
  {},
);
