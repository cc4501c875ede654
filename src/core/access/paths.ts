import type { Permission } from "./permissions";

/** What some pages need that differs from their place. */
const OF_PAGES: Record<string, Permission> = {
  "people/import": "import lists",
  "people/addresses": "edit people",
  "people/duplicates": "edit people",
  "set-up/names": "edit people",
};

const OF_PLACES: Record<string, Permission> = {
  today: "see today",
  people: "see people",
  asking: "see asking",
  heard: "see heard",
  "set-up": "set up",
  desk: "ask",
};

/**
 * What somebody needs to see an address of a client; null for addresses that are none, and for places that are not
 * known.
 *
 * @example permissionFor("/c/bramble-lane-vets/people/import?x=1") // "import lists"
 */
export function permissionFor(address: string): Permission | null {
  const [, place, page] = /^\/c\/[^/?#]+\/([^/?#]+)(?:\/([^/?#]+))?/.exec(address) ?? [];
  if (!place) return null;
  return OF_PAGES[`${place}/${page}`] ?? OF_PLACES[place] ?? null;
}
