import { isOneSlip } from "../contacts/email";
import type { LikenessSigns } from "./likeness";
import { compareNames, type Named, slippedDigits } from "./sameness";

/** Pairs that a person should look at: two records that may be one person. Nothing is ever merged by itself. */

export type Record = Named & {
  id: string;
  email: string | null;
  phone: string | null;
  postalAddress: string | null;
  householdId?: string | null;
};

export type Likeness = { a: string; b: string; why: LikenessSigns; weight: number };

/**
 * What speaks for two records being one person, or null. Weights run from 0 to 1 and only order the list.
 */
export function likeness(a: Record, b: Record): Likeness | null {
  const names = compareNames(a, b);
  if (names === "different") return null;
  const make = (by: LikenessSigns["by"], weight: number) => ({
    a: a.id,
    b: b.id,
    why: { names, by },
    weight: names === "same" ? weight : weight - 0.1,
  });
  if (a.email && a.email === b.email) return make("email", 0.98);
  if (a.phone && a.phone === b.phone) return make("phone", 0.96);
  if (a.phone && b.phone && slippedDigits(a.phone, b.phone)) return make("phone slip", 0.9);
  if (a.email && b.email && isOneSlip(a.email, b.email) && !numbered(a.email, b.email)) return make("email slip", 0.9);
  if (a.email && b.email && mailbox(a.email) === mailbox(b.email)) return make("mailbox", 0.85);
  if (a.postalAddress && b.postalAddress && place(a.postalAddress) === place(b.postalAddress))
    return make("postal address", 0.8);
  return null;
}

/** A digit more or another one is how mail hosts tell namesakes apart, not a slip. */
const numbered = (a: string, b: string) => a.replace(/\d/g, "") === b.replace(/\d/g, "");

const mailbox = (email: string) => email.slice(0, email.lastIndexOf("@")).replace(/\+.*$/, "").replace(/\./g, "");
/** A postal address as a key: what people write differently is left out. */
export const place = (address: string) =>
  address
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/\b(?:street|st|road|rd|lane|ln|avenue|ave|flat|apt|apartment|unit|no)\b/g, "")
    .replace(/[^\p{L}\p{N}]/gu, "");

/**
 * Keys under which records that may be one person meet: whoever shares one is compared. Keeps the work to pairs that
 * can matter: by phone without its last two digits, by mailbox, by family name's and given name's beginnings, by
 * place.
 */
export function meetingKeys(record: Record): string[] {
  const first = (text: string) =>
    text
      .normalize("NFKD")
      .replace(/[^\p{L}]/gu, "")
      .toLowerCase();
  const [given, family] = [first(record.given), first(record.family)];
  const keys = [`n ${[given.slice(0, 3), family.slice(0, 3)].sort().join(" ")}`];
  if (record.email) keys.push(`e ${mailbox(record.email)}`);
  if (record.phone) keys.push(`p ${record.phone}`);
  if (record.postalAddress) keys.push(`a ${place(record.postalAddress)}`);
  // An initial, a short form or a slip changes the beginning of one of the two names only.
  if (family) keys.push(`f ${family.slice(0, 4)} ${given.slice(0, 1)}`);
  return keys;
}

/** Keys that this many records share tell nothing, and comparing them all would take for ever. */
const CROWD = 60;

/**
 * The likely pairs among records, likeliest first, at most `most`; `apart` holds the pairs ("a b", smaller id first)
 * that somebody said are two people.
 */
export function likelyPairs(
  records: readonly Record[],
  apart: ReadonlySet<string> = new Set(),
  most = 200,
): Likeness[] {
  const meeting = new Map<string, Record[]>();
  for (const record of records)
    for (const key of meetingKeys(record)) meeting.set(key, [...(meeting.get(key) ?? []), record]);
  const found = new Map<string, Likeness>();
  for (const list of meeting.values()) {
    if (list.length > CROWD) continue;
    for (let i = 0; i < list.length; i++) {
      for (let j = i + 1; j < list.length; j++) {
        const [a, b] = list[i].id < list[j].id ? [list[i], list[j]] : [list[j], list[i]];
        const key = pairKey(a.id, b.id);
        if (a.id === b.id || found.has(key) || apart.has(key)) continue;
        const like = likeness(a, b);
        if (like) found.set(key, like);
      }
    }
  }
  return [...found.values()].sort((x, y) => y.weight - x.weight || x.a.localeCompare(y.a)).slice(0, most);
}

/** The name of a pair, whichever way round it is given. */
export function pairKey(a: string, b: string): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`;
}
