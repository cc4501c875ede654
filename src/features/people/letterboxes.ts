import { isReached, obstacle } from "@/core/asks/reach";
import { sayPhone } from "@/core/contacts/phone";
import { channelOf } from "@/core/contacts/replyAddress";
import type { Channel } from "@/core/time/sendHours";
import { addressesOf, type Reached } from "./service";

/** A way to write to someone, with the address as one reads it. */
export type Letterbox = { channel: Channel; to: string };

/** An address as one reads it. */
export const sayAddress = (address: string): string => (address.includes("@") ? address : sayPhone(address));

/**
 * By which ways someone can be written to now. `replyTo` is the address that they gave for an answer to this very
 * matter: it is good whatever else is on file.
 */
export function letterboxesOf(addressee: Reached | null, replyTo: string | null = null): Letterbox[] {
  const addresses = addressee && addressesOf(addressee);
  return (["text", "email"] as const).flatMap((channel) => {
    if (replyTo && channelOf(replyTo) === channel) return [{ channel, to: sayAddress(replyTo) }];
    const to = channel === "text" ? addresses?.phone : addresses?.email;
    return addresses && to && obstacle(addresses, channel) === null ? [{ channel, to: sayAddress(to) }] : [];
  });
}

/** Whether any way reaches someone. */
export const canBeWrittenTo = (addressee: Reached | null): boolean =>
  addressee !== null && isReached(addressesOf(addressee));
