import { type AccountMail, accountMail } from "@/locales/accounts";
import { environment } from "@/platform/environment";
import { log } from "@/platform/log";
import { handOverMail } from "@/platform/mail";
import { emailPage, STAFF_FRAME } from "@/ui/emailPage";

/** The address of the installation itself: for mails that nobody's confirmed address is there for. */
export const installationAddress = () => `estima@${new URL(environment().APP_URL).hostname}`;

/** Whose mail it is: an agency's, with its confirmed address or none; or (null) that of the installation itself. */
export type Sender = { name: string; colour: string; senderEmail: string } | null;

/**
 * Sends a mail about an account: an invitation, a new password. `id` tells a repeat of the same mail. False where it
 * could not be handed over now; whoever asked for it tries again.
 */
export async function sendAccountMail(
  id: string,
  to: { name: string; email: string },
  from: Sender,
  mail: AccountMail,
  link: string,
): Promise<boolean> {
  const words = accountMail(mail);
  const address = from?.senderEmail || installationAddress();
  const page = await emailPage(`Hello ${to.name.split(" ")[0]},\n\n${words.words}\n\n${link}`, {
    business: from?.name ?? "Estima",
    colour: from?.colour ?? "#6A2156",
    postalAddress: "",
    link,
    ...STAFF_FRAME,
  });
  const handed = await handOverMail({
    id,
    from: { name: from ? `${from.name} via Estima` : "Estima", address },
    to: to.email,
    replyTo: address,
    subject: words.subject,
    ...page,
  });
  if (handed.kind !== "sent") log.warn({ ...handed.reply, kind: handed.kind }, "account mail not sent");
  return handed.kind === "sent";
}
