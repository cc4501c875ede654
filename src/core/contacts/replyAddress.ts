import type { Channel } from "../time/sendHours";
import { normaliseEmail } from "./email";
import { normalisePhone } from "./phone";

/**
 * The mailbox or the mobile (E.164) that someone typed to be written to; null for what is neither. A landline is none:
 * no text reaches it.
 *
 * @param country ISO 3166-1 alpha-2, for numbers without a plus.
 */
export function readReplyAddress(typed: string, country: string): string | null {
  const text = typed.trim().slice(0, 254);
  if (text.includes("@")) return normaliseEmail(text);
  const phone = normalisePhone(text, country);
  return phone?.canText ? phone.number : null;
}

/** By which way a reply address is written to. */
export const channelOf = (address: string): Channel => (address.includes("@") ? "email" : "text");
