import type { AccountAction, AccountSubject } from "@/core/access/accountActions";
import type { Permission, StarterRole } from "@/core/access/permissions";
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
  | { code: "invitation"; by: string; agency: string; client: string | null; days: number }
  | { code: "password"; minutes: number };

/** A mail about an account: its subject and its words, which its link follows. */
export function accountMail(mail: AccountMail): { subject: string; words: string } {
  const values: Values =
    mail.code === "invitation"
      ? { by: mail.by, agency: mail.agency, at: mail.client ?? mail.agency, days: mail.days }
      : { minutes: mail.minutes };
  return {
    subject: translate("accountMailSubject", mail.code, values),
    words: translate("accountMail", mail.code, values),
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
