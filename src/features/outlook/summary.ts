import { and, eq, sql } from "drizzle-orm";
import { v5 } from "uuid";
import { needPath } from "@/core/activity/needs";
import { loadAgency } from "@/features/accounts";
import { installationAddress } from "@/features/clients";
import { needWords, summaryWords } from "@/locales/needs";
import { now as clockNow } from "@/platform/clock";
import { type AgencyScope, rowsOf, type Tx, withAgency } from "@/platform/database";
import { environment } from "@/platform/environment";
import { log } from "@/platform/log";
import { handOverMail } from "@/platform/mail";
import { summaryReaders } from "@/schema/accounts";
import { emailPage, STAFF_FRAME } from "@/ui/emailPage";
import { type ClientOutlook, listOutlooks } from "./queries";

/** How an agency's clients are doing, by mail each morning, for whoever of the agency wants it. */

export type SummaryClaim = { agencyId: string; userId: string; day: string };

/**
 * Claims the summaries of this morning: once for each reader and day of the agency's own zone, from seven o'clock on.
 * Who has no seat for the agency any more gets none.
 */
export async function claimSummaries(now: number): Promise<SummaryClaim[]> {
  const rows = await rowsOf<{ agency_id: string; user_id: string; day: string }>(
    sql`select * from estima_claim_summaries(${new Date(now).toISOString()})`,
  );
  return rows.map(({ agency_id, user_id, day }) => ({ agencyId: agency_id, userId: user_id, day }));
}

const reader = (scope: AgencyScope, userId: string) =>
  and(eq(summaryReaders.agencyId, scope.agencyId), eq(summaryReaders.userId, userId));

/** From the next morning on somebody gets the summary, or no more. */
export async function setSummaryReader(tx: Tx, scope: AgencyScope, userId: string, wants: boolean): Promise<void> {
  if (wants) await tx.insert(summaryReaders).values({ agencyId: scope.agencyId, userId }).onConflictDoNothing();
  else await tx.delete(summaryReaders).where(reader(scope, userId));
}

/** Mails the summary of a morning. Throws where it could not be handed over now: then it is tried again. */
export async function mailSummary({ agencyId, userId, day }: SummaryClaim): Promise<void> {
  const now = await clockNow();
  const [group] = await rowsOf<{ name: string; email: string; only_group: string | null }>(
    sql`select u.name, u.email, a.only_group from users u, estima_agencies_of(${userId}) a where u.id = ${userId} and a.agency_id = ${agencyId} limit 1`,
  );
  if (!group) return;
  const scope: AgencyScope = { agencyId, group: group.only_group };
  const seen = await withAgency(scope, async (tx) => ({
    agency: await loadAgency(tx, scope),
    clients: await listOutlooks(tx, scope, { q: "", group: null, by: null, only: null }),
  }));
  const base = environment().APP_URL;
  const link = `${base}/agency/${seen.agency.slug}`;
  const words = summaryWords(seen.clients);
  const body = [
    `Good morning ${group.name.split(" ")[0]},`,
    words.lead,
    ...seen.clients.flatMap((client) => needLine(client, base, now)),
    words.rest,
    link,
    words.end,
  ]
    .filter(Boolean)
    .join("\n\n");
  const address =
    seen.agency.senderConfirmedAt && seen.agency.senderEmail ? seen.agency.senderEmail : installationAddress();
  const handed = await handOverMail({
    id: v5(`${agencyId} ${userId} ${day}`, v5.URL),
    from: { name: `${seen.agency.name} via Estima`, address },
    to: group.email,
    replyTo: address,
    subject: words.subject,
    ...(await emailPage(body, {
      business: seen.agency.name,
      colour: seen.agency.colour,
      postalAddress: "",
      link,
      ...STAFF_FRAME,
    })),
  });
  if (handed.kind === "deferred") throw new Error("We couldn’t send the summary yet.");
  if (handed.kind !== "sent") log.error({ ...handed.reply, userId }, "summary refused");
}

/** A client that needs somebody, with the reason and where to go. */
function needLine(client: ClientOutlook, base: string, now: number): string[] {
  const [first] = client.needs ?? [];
  if (!first) return [];
  const { title, says } = needWords(first, client.zone, now);
  return [`${client.name}: ${title} ${says}\n${base}/c/${client.slug}/${needPath(first)}`];
}
