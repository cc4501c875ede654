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
  | { code: "signed out"; at: number }
  | { code: "failing"; since: number };

/** From when on a site that cannot be read is told of. */
export const TOLD_AFTER = 3_600_000;

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
  if (it.problem?.code === "sign-in ended") return { code: "signed out", at: it.problem.at ?? it.failingSince ?? 0 };
  if (it.problem?.code === "asks for patience") return { code: "patience", until: it.problem.until ?? null };
  if (it.problem) return { code: "failing", since: it.failingSince ?? 0 };
  if (it.firstReadAt === null)
    return it.readCount > 0 || it.collectedAt !== null
      ? { code: "first reading", read: it.readCount, of: it.readTotal }
      : { code: "not begun" };
  return { code: "well", lastAt: it.collectedAt ?? it.firstReadAt };
}
