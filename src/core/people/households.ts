import { place, type Record } from "./duplicates";
import type { HouseholdSign } from "./likeness";
import { compareNames } from "./sameness";

/**
 * People who share a phone, a mailbox or a postal address and are not one person: offered as a household, made one by
 * a person.
 */

export type HouseholdOffer = { members: string[]; why: HouseholdSign[] };

/**
 * Offers among records without a household; an address that more than eight share is no home. `apart` holds the keys
 * that somebody refused.
 */
export function householdOffers(
  records: readonly Record[],
  apart: ReadonlySet<string> = new Set(),
  most = 100,
): HouseholdOffer[] {
  const groups = new Map<string, { why: HouseholdSign; members: Record[] }>();
  const add = (key: string, why: HouseholdSign, record: Record) => {
    const group = groups.get(key) ?? { why, members: [] };
    group.members.push(record);
    groups.set(key, group);
  };
  for (const record of records) {
    if (record.phone) add(`p ${record.phone}`, "phone", record);
    if (record.email) add(`e ${record.email}`, "mailbox", record);
    if (record.postalAddress) add(`a ${place(record.postalAddress)}`, "postal address", record);
  }
  const offers = new Map<string, HouseholdOffer>();
  for (const { why, members } of groups.values()) {
    if (members.length < 2 || members.length > 8) continue;
    const homes = new Set(members.map(({ householdId }) => householdId ?? null));
    if (homes.size === 1 && !homes.has(null)) continue;
    if (
      members.every((one, index) =>
        members.every((other, at) => at <= index || compareNames(one, other) !== "different"),
      )
    )
      continue;
    const ids = members.map(({ id }) => id).sort();
    const key = householdKey(ids);
    if (apart.has(key)) continue;
    const known = offers.get(key);
    offers.set(key, { members: ids, why: [...(known?.why ?? []), why] });
  }
  return [...offers.values()].slice(0, most);
}

/** The name of a group of people, whatever their order. */
export function householdKey(ids: readonly string[]): string {
  return [...ids].sort().join(" ");
}

/**
 * Whether somebody born on `birthDate` (ISO day) is under age on `today` (ISO day). Nobody is, whose birth date is
 * not known.
 */
export function isMinor(birthDate: string | null, today: string, adultAt = 18): boolean {
  if (!birthDate) return false;
  const [year, rest] = [Number(birthDate.slice(0, 4)), birthDate.slice(4)];
  return `${String(year + adultAt).padStart(4, "0")}${rest}` > today;
}
