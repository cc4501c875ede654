import { z } from "zod";
import type { AccountAction, AccountSubject } from "@/core/access/accountActions";
import type { Permission, StarterRole } from "@/core/access/permissions";
import { sayCount } from "@/core/time/say";
import { strangersName } from "@/core/words/strangers";
import { pieceWords } from "./pieces";
import { translate, type Values } from "./translate";

/** Words about accounts: roles and what they allow, mails about accounts, and what was done to an agency. */

/** What a permission lets one do, as the end of "may ...". */
export function permissionWords(permission: Permission): string {
  return translate("permission", permission);
}

/** What the role is called, and in a sentence what it is for. */
export function starterRoleWords(role: StarterRole): { name: string; says: string } {
  return { name: translate("roleName", role), says: translate("roleSays", role) };
}

/** What somebody is called who has a role: the agency's own name for it, or ours. */
export function roleWords({ role, roleName }: { role: StarterRole; roleName: string | null }): string {
  return roleName ?? translate("roleName", role);
}

export type AccountMail =
  | { code: "invitation"; by: string; agency: string; at: string | null; days: number }
  | { code: "password"; minutes: number }
  | { code: "sender"; by: string; agency: string; name: string; days: number }
  | { code: "digits locked"; phone: string; client: string }
  | { code: "address"; hours: number }
  | {
      code: "client deleted";
      client: string;
      people: number;
      visits: number;
      messages: number;
      reviews: number;
      concerns: number;
      rows: number;
    }
  | { code: "address taken" | "address changed"; email: string };

/** A mail about an account: its subject and its words, which its link follows. */
export function accountMail(mail: AccountMail): { subject: string; words: string } {
  const { code, ...rest } = mail;
  const said = "at" in rest ? { ...rest, at: rest.at ?? rest.agency } : rest;
  // Whoever is mailed may be a stranger to those who typed these names: no link in them, nothing that hides.
  const values: Values = Object.fromEntries(
    Object.entries(said).map(([name, value]) => [
      name,
      typeof value === "string" && name !== "email" ? strangersName(value) : value,
    ]),
  );
  return {
    subject: translate("accountMailSubject", code, values),
    words: translate("accountMail", code, values),
  };
}

/** What somebody did to an agency: "invited". */
export function accountActionWords(action: AccountAction): string {
  return translate("accountAction", action);
}

/** What it was done to, before its name. */
export function accountSubjectWords(subject: AccountSubject): string {
  return translate("accountSubject", subject);
}

const COUNTED = [
  ["people", "person", "people"],
  ["visits", "visit", "visits"],
  ["messages", "message", "messages"],
  ["reviews", "review", "reviews"],
  ["concerns", "concern", "concerns"],
] as const;

/** What a deleted client was: "204 people, 310 visits"; empty for entries that tell nothing of it. */
export function deletedWords(details: unknown): string {
  const counts = z.record(z.string(), z.number()).safeParse(details).data;
  if (!counts) return "";
  return COUNTED.map(([table, one, many]) => sayCount(counts[table] ?? 0, one, many)).join(", ");
}

/** What an entry of the trail is about, by name. */
export function accountNameWords({ subject, name }: { subject: string; name: string }): string {
  return subject === "words" ? pieceWords(name) : name;
}
