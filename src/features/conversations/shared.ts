import { and, asc, desc, eq, sql } from "drizzle-orm";
import { readKeyword } from "@/core/conversations/keywords";
import { routeText, type SharingClient } from "@/core/conversations/route";
import { detectLanguage } from "@/core/words/detectLanguage";
import { plainForText } from "@/core/words/textParts";
import { customerWords } from "@/locales/customer";
import { type AgencyScope, rowsOf, type Tx, withAgency } from "@/platform/database";
import { handOverText } from "@/platform/texts";
import { sharedTexts } from "@/schema/conversations";

/** Texts to a number that several clients of an agency share: whose each is, or who is asked. */

export type IncomingText = {
  id: string;
  from: string;
  to: string;
  body: string;
  pictures: string[];
  /** When it came, where that was a while ago: milliseconds since the epoch. */
  cameAt?: number;
};
export type SharedText = typeof sharedTexts.$inferSelect;

type Row = { client_id: string; agency_id: string; name: string; wrote_at: string | null; heard_at: string | null };

/** The clients to which a text belongs, each with what is theirs; none where it has to wait. */
export type Routed = {
  to: { clientId: string; texts: IncomingText[] }[];
  /** Drops what waited until now, once it is with its client: a crash in between keeps it twice, never loses it. */
  done: () => Promise<void>;
};

const nothing = async () => {};

/**
 * Whose a text is; null for a number that nobody has. "Stop" and "start" are said to every client that uses the number,
 * since a phone knows only that. Where nobody can tell it is kept, and its writer is asked once; their answer brings
 * what waited to that client.
 */
export async function routeIncoming(text: IncomingText, now: number): Promise<Routed | null> {
  const rows = await rowsOf<Row>(sql`select * from estima_clients_by_text_number(${text.to}, ${text.from})`);
  if (rows.length === 0) return null;
  const keyword = readKeyword(text.body)?.keyword;
  if (rows.length === 1 || keyword === "stop" || keyword === "start")
    return { to: rows.map((row) => ({ clientId: row.client_id, texts: [text] })), done: nothing };
  const at = (value: string | null) => (value === null ? null : new Date(value).getTime());
  const clients: SharingClient[] = rows.map((row) => ({
    clientId: row.client_id,
    name: row.name,
    wroteAt: at(row.wrote_at),
    heardAt: at(row.heard_at),
  }));
  const scope: AgencyScope = { agencyId: rows[0].agency_id };
  return withAgency(scope, async (tx) => {
    const waiting = await waitingFrom(tx, scope, text.to, text.from);
    const asked = waiting.findLast(({ askedAt }) => askedAt !== null);
    const question = asked ? { choices: asked.choices, askedAt: asked.askedAt ?? 0 } : null;
    const route = routeText(clients, text.body, question, now);
    if (route.kind === "client") {
      // The figure that answers the question says nothing itself.
      const texts = route.isAnswer ? waiting.map(asText) : [text];
      const done = route.isAnswer ? () => withAgency(scope, (again) => drop(again, scope, waiting)) : nothing;
      return { to: [{ clientId: route.clientId, texts }], done };
    }
    const kept = await tx
      .insert(sharedTexts)
      .values({
        agencyId: scope.agencyId,
        number: text.to,
        sender: text.from,
        body: text.body,
        gatewayId: text.id,
        choices: clients.map(({ clientId }) => clientId),
        pictures: text.pictures,
        receivedAt: now,
        askedAt: route.asks ? now : null,
      })
      .onConflictDoNothing()
      .returning({ id: sharedTexts.id });
    if (kept.length > 0 && route.asks) await askWhich(kept[0].id, text, clients);
    return { to: [], done: nothing };
  });
}

/**
 * Asks the writer whom they mean, in the language they wrote in. Where the gateway cannot be reached the text stands
 * with the agency all the same.
 */
async function askWhich(id: string, text: IncomingText, clients: readonly SharingClient[]): Promise<void> {
  const list = clients.map(({ name }, index) => `${index + 1} ${name}`).join(", ");
  await handOverText({
    id,
    from: text.to,
    to: text.from,
    body: plainForText(customerWords(detectLanguage(text.body, "en"))("conversation.which", { list })),
  });
}

const asText = ({ gatewayId, sender, number, body, pictures, receivedAt }: SharedText): IncomingText => ({
  id: gatewayId,
  from: sender,
  to: number,
  body,
  pictures,
  cameAt: receivedAt,
});

function waitingFrom(tx: Tx, scope: AgencyScope, number: string, sender: string): Promise<SharedText[]> {
  return tx
    .select()
    .from(sharedTexts)
    .where(
      and(eq(sharedTexts.agencyId, scope.agencyId), eq(sharedTexts.number, number), eq(sharedTexts.sender, sender)),
    )
    .orderBy(asc(sharedTexts.receivedAt))
    .for("update");
}

async function drop(tx: Tx, scope: AgencyScope, list: readonly SharedText[]): Promise<void> {
  for (const { id } of list)
    await tx.delete(sharedTexts).where(and(eq(sharedTexts.agencyId, scope.agencyId), eq(sharedTexts.id, id)));
}

/** The texts of an agency of which nobody knows whose they are, the newest first. */
export function listSharedTexts(tx: Tx, scope: AgencyScope): Promise<SharedText[]> {
  return tx
    .select()
    .from(sharedTexts)
    .where(eq(sharedTexts.agencyId, scope.agencyId))
    .orderBy(desc(sharedTexts.receivedAt))
    .limit(50);
}

/**
 * Brings all that a sender wrote to a shared number to the client that somebody of the agency chose, by `receive`. False
 * where somebody did so before.
 */
export function bringSharedTexts(
  scope: AgencyScope,
  id: string,
  receive: (text: IncomingText) => Promise<unknown>,
): Promise<boolean> {
  return withAgency(scope, async (tx) => {
    const [one] = await tx
      .select()
      .from(sharedTexts)
      .where(and(eq(sharedTexts.agencyId, scope.agencyId), eq(sharedTexts.id, id)))
      .for("update");
    if (!one) return false;
    const all = await waitingFrom(tx, scope, one.number, one.sender);
    for (const each of all) await receive(asText(each));
    await drop(tx, scope, all);
    return true;
  });
}
