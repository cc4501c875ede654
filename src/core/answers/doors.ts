import type { DoorsMode } from "../plans/planRules";

/** What the answer page opens for a rating. */
export type OpenedDoors<Site> = {
  unhappy: boolean;
  /** What comes first on the page. */
  first: "sites" | "form" | "both";
  showsForm: boolean;
  /** The review sites, in order; empty where the plan keeps an unhappy rating private. */
  sites: Site[];
};

/** By default three sites are offered, six at most. */
export const MOST_SITES = 3;

/**
 * Open: every rating sees sites and form side by side. Listen first: an unhappy rating (at or under `threshold` of 5)
 * sees the form first with the sites still below it, a happy one the sites first with the form below.
 * Private only: an unhappy rating sees the form alone.
 */
export function openDoors<Site>(
  mode: DoorsMode,
  threshold: number,
  rating: number,
  sites: Site[],
  most = MOST_SITES,
): OpenedDoors<Site> {
  const unhappy = rating <= threshold;
  const offered = sites.slice(0, most);
  if (mode === "open") return { unhappy, first: "both", showsForm: true, sites: offered };
  if (!unhappy) return { unhappy, first: "sites", showsForm: true, sites: offered };
  return { unhappy, first: "form", showsForm: true, sites: mode === "private only" ? [] : offered };
}
