"use server";

import { headers } from "next/headers";
import { normaliseEmail } from "@/core/contacts/email";
import { mailPasswordLink } from "@/features/accounts";
import { action, anyone, before, form } from "@/platform/action";
import { clientAddressOf } from "@/platform/clientAddress";
import { describeError, log } from "@/platform/log";
import { isWelcome } from "@/platform/publicLimit";
import { type ActionResult, formText } from "@/ui/result";

const HOUR = 3600;

/** Mails a link for a new password. The answer is the same whether anybody has this address. */
export const forgot = action(
  anyone,
  [before<ActionResult>(), form],
  async (_nobody, _before, form): Promise<ActionResult> => {
    const email = normaliseEmail(formText(form, "email").slice(0, 254));
    if (!email) {
      const message = "That isn’t an email address.";
      return { ok: false, message, fields: { email: message } };
    }
    const client = clientAddressOf(await headers()) ?? "unknown";
    if (!(await isWelcome(`forgot ${client}`, 20, HOUR)))
      return { ok: false, message: "Too many attempts. Wait an hour, then try again." };
    // A mailbox is not filled by somebody else: beyond three an hour nothing more is sent, and nothing else is said.
    // Nor does the time tell: nobody waits for the mail, whether there is one or not.
    if (await isWelcome(`forgot of ${email}`, 3, HOUR))
      void mailPasswordLink(email).catch((error) => log.error(describeError(error), "password link not mailed"));
    return { ok: true };
  },
);
