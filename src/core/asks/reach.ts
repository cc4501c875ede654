import type { Channel } from "../time/sendHours";

/** What is known of the addresses of a person. */
export type Addresses = {
  email: string | null;
  emailBounced: boolean;
  emailOptedOut: boolean;
  phone: string | null;
  /** False for a landline: texts cannot reach it. */
  phoneTakesTexts: boolean;
  textBounced: boolean;
  textOptedOut: boolean;
  /** A tag allows this channel alone. */
  only?: Channel | null;
  /** What the person said they would rather have. */
  prefers?: Channel | null;
};

/** Why a channel cannot be used for a person. */
export type Unreachable = "no address" | "bounced" | "opted out" | "landline" | "not wanted";

/** Null when the channel reaches the person, else why not. */
export function obstacle(addresses: Addresses, channel: Channel): Unreachable | null {
  if (addresses.only && addresses.only !== channel) return "not wanted";
  if (channel === "email") {
    if (!addresses.email) return "no address";
    if (addresses.emailOptedOut) return "opted out";
    return addresses.emailBounced ? "bounced" : null;
  }
  if (!addresses.phone) return "no address";
  if (addresses.textOptedOut) return "opted out";
  if (!addresses.phoneTakesTexts) return "landline";
  return addresses.textBounced ? "bounced" : null;
}

/** Whether any way reaches a person. */
export const isReached = (addresses: Addresses): boolean =>
  obstacle(addresses, "text") === null || obstacle(addresses, "email") === null;

/**
 * The channel that a message uses: the wanted one, else the other one, else none. "preferred" is what the person
 * prefers, and a text where nothing is known. Whoever opted out of either channel is not chased over the other one.
 */
export function chooseChannel(addresses: Addresses, wanted: Channel | "preferred"): Channel | null {
  if (addresses.emailOptedOut || addresses.textOptedOut) return null;
  const first = wanted === "preferred" ? (addresses.prefers ?? "text") : wanted;
  const other: Channel = first === "text" ? "email" : "text";
  if (obstacle(addresses, first) === null) return first;
  return obstacle(addresses, other) === null ? other : null;
}
