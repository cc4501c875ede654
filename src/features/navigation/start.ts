import { may, type PlacePermission } from "@/core/access/permissions";
import type { AgencySeat, Seat } from "@/platform/access";

/** The places of a client, in the order in which they stand in the masthead. */
export const CLIENT_PLACES: readonly { name: string; path: string; needs: PlacePermission }[] = [
  { name: "Today", path: "today", needs: "see today" },
  { name: "People", path: "people", needs: "see people" },
  { name: "Asking", path: "asking", needs: "see asking" },
  { name: "Heard", path: "heard", needs: "see heard" },
];

/** The first page of a client that a seat may see; null where it sees none. */
export function firstPlace(seat: Seat): string | null {
  const place = CLIENT_PLACES.find(({ needs }) => may(seat, needs));
  if (place) return `/c/${seat.slug}/${place.path}`;
  if (may(seat, "set up")) return `/c/${seat.slug}/set-up`;
  return may(seat, "ask") ? `/c/${seat.slug}/desk` : null;
}

/**
 * Where somebody starts: whoever has a seat for a whole agency at its clients, unless it has one only and nobody else
 * works there; everybody else at the first client of theirs.
 */
export function startOf(seats: readonly Seat[], agencies: readonly AgencySeat[]): string | null {
  const [agency] = agencies;
  const isAlone = seats.length === 1;
  if (agency && !isAlone) return `/agency/${agency.slug}`;
  for (const seat of seats) {
    const place = firstPlace(seat);
    if (place) return place;
  }
  return agency ? `/agency/${agency.slug}` : null;
}
