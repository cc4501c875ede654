/** The businesses of the town, as its sites list them. */

export type Place = { slug: string; name: string; address?: string };

const plain = (text: string) =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word.length > 1);

/** The town that every place lies in, where its own address says nothing else. */
export const TOWN_NAME = "Merrow Bay";

export const addressOf = (place: Place) => place.address ?? TOWN_NAME;

/** Places by name and town as somebody types them, the likeliest first; a letter too few or too many does no harm. */
export function searchPlaces(places: readonly Place[], name: string, town: string): Place[] {
  const wanted = plain(name);
  const inTown = plain(town);
  if (wanted.length === 0) return [];
  return places
    .map((place) => {
      const own = plain(place.name);
      const hits = wanted.filter((word) => own.some((each) => each.startsWith(word.slice(0, 4)))).length;
      const where = plain(addressOf(place));
      const isThere = inTown.every((word) => where.includes(word));
      return { place, share: isThere ? hits / wanted.length : 0 };
    })
    .filter(({ share }) => share >= 0.5)
    .sort((a, b) => b.share - a.share || a.place.name.localeCompare(b.place.name))
    .slice(0, 20)
    .map(({ place }) => place);
}
