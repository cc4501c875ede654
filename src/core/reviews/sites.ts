import { remedyOf, type SiteProblem } from "./siteProblems";

/** Review sites that Estima has a connector for. */
export const CONNECTOR_IDS = ["waypost", "commons", "tenfold"] as const;
export type ConnectorId = (typeof CONNECTOR_IDS)[number];

/** How the reading of a review page goes. Instants are milliseconds since the epoch. */
export type SiteReading =
  | { code: "not begun" }
  /** The first reading is under way: so many of so many; `of` is null where the site does not tell. */
  | { code: "first reading"; read: number; of: number | null }
  | { code: "well"; lastAt: number }
  | { code: "patience"; until: string | null }
  /** Since when is null where nobody noted it. */
  | { code: "signed out"; at: number | null }
  | { code: "failing"; since: number | null };

/** From when on a site that cannot be read is told of, in milliseconds: until then it may pass by itself. */
export const TOLD_AFTER = 3_600_000;

type Page = { site: string; collectError: SiteProblem | null; failingSince: number | null };

/**
 * The sites that cannot be read and need somebody, each once however many pages there are of it: at once where only
 * somebody can end it, else when it has lasted. Instants are milliseconds since the epoch.
 */
export function sitesInNeed(pages: readonly Page[], now: number): { site: string; problem: SiteProblem }[] {
  const found = new Map<string, SiteProblem>();
  for (const { site, collectError, failingSince } of pages)
    if (
      collectError &&
      !found.has(site) &&
      (remedyOf(collectError) !== "wait" || (failingSince !== null && now - failingSince >= TOLD_AFTER))
    )
      found.set(site, collectError);
  return [...found].map(([site, problem]) => ({ site, problem }));
}

/** What is known of a page that is read. */
export type ReadFacts = {
  problem: { code: string; at?: number; until?: string } | null;
  failingSince: number | null;
  collectedAt: number | null;
  firstReadAt: number | null;
  readCount: number;
  readTotal: number | null;
};

export function siteReading(it: ReadFacts): SiteReading {
  if (it.problem?.code === "sign-in ended") return { code: "signed out", at: it.problem.at ?? it.failingSince };
  if (it.problem?.code === "asks for patience") return { code: "patience", until: it.problem.until ?? null };
  if (it.problem) return { code: "failing", since: it.failingSince };
  if (it.firstReadAt === null)
    return it.readCount > 0 || it.collectedAt !== null
      ? { code: "first reading", read: it.readCount, of: it.readTotal }
      : { code: "not begun" };
  return { code: "well", lastAt: it.collectedAt ?? it.firstReadAt };
}
