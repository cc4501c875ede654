import { type AskLink, type LinkRow, linkFromRow } from "@/features/asks";
import { now as clockNow, realTime } from "@/platform/clock";
import { preparedRowsOf } from "@/platform/database";
import { isToken, linkLimitsOf } from "@/platform/publicLink";
import { type AnswerView, type PageRows, viewFromRows } from "./view";

/** How often one link is followed in a minute: of each kind, "a" for the answer page and "u" for the opt-out. */
const LIMIT_PER_MINUTE = 60;

export type Followed =
  | { refused: "limit" | "lost" }
  | {
      refused: null;
      now: number;
      link: AskLink;
      /** What the page shows; null where that was not asked for. */
      view: AnswerView | null;
    };

/**
 * Follows a customer's link: counts the request, says whose link it is and, with `page`, what its page shows. One
 * statement, since each round trip takes longer than what it asks.
 */
export async function followLink(
  headers: Pick<Headers, "get">,
  token: string,
  kind: "a" | "u",
  page: boolean,
): Promise<Followed> {
  const limits = await linkLimitsOf(headers);
  if (!limits) return { refused: "limit" };
  const { client, hits, mostOfClient, mostGuesses } = limits;
  const [{ found }] = await preparedRowsOf<{
    found: { refused: "limit" | "lost" } | { refused?: undefined; link: LinkRow; page?: PageRows };
  }>("follow_link", "select estima_follow_link($1, $2, $3, $4, $5, $6, $7, $8, $9) as found", [
    isToken(token) ? token : null,
    kind,
    client,
    hits,
    mostOfClient,
    mostGuesses,
    LIMIT_PER_MINUTE,
    realTime(),
    page,
  ]);
  if (found.refused) return { refused: found.refused };
  const now = await clockNow();
  return {
    refused: null,
    now,
    link: linkFromRow(found.link),
    view: found.page ? viewFromRows(token, found.page, now) : null,
  };
}
