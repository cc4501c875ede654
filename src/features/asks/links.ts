import { sql } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { rowsOf } from "@/platform/database";

export type AskLink = {
  clientId: string;
  askId: string;
  business: string;
  colour: string;
  /** When the client was archived; null while it is not. */
  archivedAt: number | null;
  /** Until when the link works; null while nothing has been sent. Milliseconds. */
  worksUntil: number | null;
  /** For how many days after the last message it does. */
  linkDays: number;
  /** In which the client writes to its customers. */
  language: AnyLanguage;
};

/** The client and ask behind a customer's link. */
export async function askByToken(token: string): Promise<AskLink | null> {
  if (!/^[0-9A-Za-z]{10,40}$/.test(token)) return null;
  const [row] = await rowsOf<LinkRow>(sql`select * from estima_ask_by_token(${token})`);
  return row ? linkFromRow(row) : null;
}

/** What `estima_ask_by_token` gives. */
export type LinkRow = {
  client_id: string;
  ask_id: string;
  business: string;
  colour: string;
  archived_at: string | null;
  last_sent_at: string | null;
  link_days: number;
  language: string;
};

export function linkFromRow(row: LinkRow): AskLink {
  const { client_id: clientId, ask_id: askId, business, colour, archived_at, last_sent_at, link_days } = row;
  const at = (text: string | null) => (text ? new Date(text).getTime() : null);
  const sentAt = at(last_sent_at);
  return {
    clientId,
    askId,
    business,
    colour,
    archivedAt: at(archived_at),
    worksUntil: sentAt === null ? null : sentAt + link_days * DAY,
    linkDays: link_days,
    language: firstLanguage(row.language),
  };
}
