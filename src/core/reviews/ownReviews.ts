/** The business's own reviews: answers whose writers agreed that they are shown. */

/** Why one may not be shown. Being unhappy is no reason. */
export const HIDDEN_REASONS = ["abuse", "private facts"] as const;
export type HiddenReason = (typeof HIDDEN_REASONS)[number];

/** "Odette M.": a first name and an initial, as customers are shown; blank where neither is known. */
export function shownName({ given, family }: { given: string; family: string }): string {
  const first = given.trim().split(/\s+/)[0] ?? "";
  const initial = [...family.trim()][0]?.toUpperCase();
  return [first, initial ? `${initial}.` : ""].filter(Boolean).join(" ");
}

/** The middle of ratings from 1 to 5 to one decimal, with how many there are; null for none. */
export function averageOf(counts: readonly number[]): { average: number; count: number } | null {
  const count = counts.reduce((sum, each) => sum + each, 0);
  if (count === 0) return null;
  const total = counts.reduce((sum, each, index) => sum + each * (index + 1), 0);
  return { average: Math.round((total / count) * 10) / 10, count };
}

/** An address below /reviews/: small letters, figures and hyphens; null for what cannot be one. */
export function reviewsAddress(typed: string): string | null {
  const address = typed.trim().toLowerCase();
  return /^[a-z0-9](?:[a-z0-9-]{1,58}[a-z0-9])$/.test(address) ? address : null;
}

/** A branch's part of such an address: "Old Mill" is "old-mill". Accents go, and whatever else is no letter or figure. */
export function branchAddress(name: string): string {
  return name
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replaceAll("ł", "l")
    .replaceAll("Ł", "l")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "");
}
