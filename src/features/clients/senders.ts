import { and, eq, sql } from "drizzle-orm";
import { type SendingFrom, sendingFrom } from "@/core/clients/sender";
import { DAY } from "@/core/time/zone";
import { realTime } from "@/platform/clock";
import {
  rowsIn,
  rowsOf,
  type Scope,
  StatementFailed,
  type Tx,
  withAgency,
  withClient,
  workFor,
} from "@/platform/database";
import { environment } from "@/platform/environment";
import { isWelcome } from "@/platform/publicLimit";
import { sameSecret, tagFor } from "@/platform/secrets";
import { agencies } from "@/schema/accounts";
import { clients } from "@/schema/clients";
import { installationAddress, sendAccountMail } from "./accountMail";
import type { Setting } from "./queries";

/**
 * Addresses that emails go out from. One counts once whoever reads its mail followed the link that was mailed there;
 * among confirmed ones it is one client's alone. What is only claimed changes nothing for anyone else.
 */

/** For how many days a link that confirms an address is good. */
export const SENDER_LINK_DAYS = 7;

type Kind = "client" | "agency";
type Claim = { kind: Kind; id: string; name: string; address: string; isConfirmed: boolean };

/** From where emails of a client go out now. */
export function senderOf({ client, agencySender }: Pick<Setting, "client" | "agencySender">): SendingFrom {
  const { senderEmail, senderConfirmedAt } = client;
  return sendingFrom({ senderEmail, isConfirmed: senderConfirmedAt !== null }, agencySender, installationAddress());
}

const tagOf = (kind: Kind, id: string, address: string, expires: number) =>
  tagFor("sender", `${kind} ${id} ${address.toLowerCase()} ${expires}`);

/** The link's own part. It holds for the address it was made for, so that another one typed since needs another link. */
function tokenFor({ kind, id, address }: Claim): string {
  const expires = Math.ceil((realTime() + SENDER_LINK_DAYS * DAY) / 1000);
  return `${kind === "client" ? "c" : "a"}-${id}-${expires.toString(36)}-${tagOf(kind, id, address, expires)}`;
}

const TOKEN = /^(c|a)-([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})-([0-9a-z]{1,9})-([\w-]{16})$/;

async function claimOf(kind: Kind, id: string): Promise<Claim | null> {
  if (kind === "client") {
    const [row] = await withClient(workFor(id), (tx) =>
      tx
        .select({ name: clients.name, address: clients.senderEmail, confirmedAt: clients.senderConfirmedAt })
        .from(clients)
        .where(and(eq(clients.id, id))),
    );
    return row ? { kind, id, name: row.name, address: row.address, isConfirmed: row.confirmedAt !== null } : null;
  }
  const [row] = await withAgency({ agencyId: id }, (tx) =>
    tx
      .select({ name: agencies.name, address: agencies.senderEmail, confirmedAt: agencies.senderConfirmedAt })
      .from(agencies)
      .where(eq(agencies.id, id)),
  );
  return row ? { kind, id, name: row.name, address: row.address, isConfirmed: row.confirmedAt !== null } : null;
}

/** Whose address a link confirms; null for a link that never was, has run out, or is for another address. */
export async function readSenderLink(token: string): Promise<Claim | null> {
  const [, letter, id, time, tag] = TOKEN.exec(token) ?? [];
  if (!letter) return null;
  const expires = Number.parseInt(time, 36);
  if (expires * 1000 < realTime()) return null;
  const claim = await claimOf(letter === "c" ? "client" : "agency", id);
  return claim && sameSecret(tag, tagOf(claim.kind, id, claim.address, expires)) ? claim : null;
}

/** Confirms the address that a link was mailed to. "taken" where another client here has it already. */
export async function confirmSender(claim: Claim): Promise<"confirmed" | "taken"> {
  if (claim.isConfirmed) return "confirmed";
  if (claim.kind === "agency") {
    await rowsOf(sql`select estima_confirm_agency_sender(${claim.id}, ${claim.address})`);
    return "confirmed";
  }
  try {
    await withClient(workFor(claim.id), (tx) => noteConfirmed(tx, workFor(claim.id), claim.address));
    return "confirmed";
  } catch (error) {
    if (error instanceof StatementFailed && error.constraint === "clients_confirmed_sender") return "taken";
    throw error;
  }
}

/** Notes that a client's address was confirmed, while it is still the client's address. */
export async function noteConfirmed(tx: Tx, scope: Scope, address: string): Promise<void> {
  await tx
    .update(clients)
    .set({ senderConfirmedAt: realTime() })
    .where(and(eq(clients.id, scope.clientId), eq(clients.senderEmail, address)));
}

export type SenderAsked = "confirmed" | "mailed" | "too many" | "not sent";

/**
 * Mails the link that confirms an address, unless it is confirmed. A client that sends from its own agency's confirmed
 * address needs no link of its own. `by` is whoever wants it; `agency` is whose look the mail has.
 */
export async function askForSender(
  kind: Kind,
  id: string,
  by: string,
  agency: { id: string; name: string; colour: string },
): Promise<SenderAsked> {
  const claim = await claimOf(kind, id);
  if (!claim || claim.isConfirmed || claim.address === "") return "confirmed";
  if (kind === "client") {
    const scope = workFor(id);
    const own = await withClient(scope, (tx) =>
      rowsIn<{ sender: string | null }>(tx, sql`select estima_agency_sender() as sender`),
    );
    if (own[0]?.sender?.toLowerCase() === claim.address.toLowerCase() && (await confirmSender(claim)) === "confirmed")
      return "confirmed";
  }
  if (!(await mayMail(agency.id, claim.address))) return "too many";
  const sent = await sendAccountMail(
    `sender-${id}-${realTime()}`,
    { name: claim.name, email: claim.address },
    { name: agency.name, colour: agency.colour, senderEmail: "" },
    { code: "sender", by, agency: agency.name, name: claim.name, days: SENDER_LINK_DAYS },
    `${environment().APP_URL}/sender/${tokenFor(claim)}`,
  );
  return sent ? "mailed" : "not sent";
}

/** How many mails about accounts one agency sends an hour, and how many of them one address gets. */
const MAILS_AN_HOUR = { agency: 40, recipient: 4 };

/**
 * Whether an agency may have another mail sent to an address that someone typed: whoever has an account must not be
 * able to have strangers mailed in our name, many or often.
 */
export async function mayMail(agencyId: string, address: string): Promise<boolean> {
  return (
    (await isWelcome(`account mails of ${agencyId}`, MAILS_AN_HOUR.agency, 3600)) &&
    (await isWelcome(`account mails to ${tagFor("recipient", address.toLowerCase())}`, MAILS_AN_HOUR.recipient, 3600))
  );
}
