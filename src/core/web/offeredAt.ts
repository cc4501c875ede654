/** Which article of the guide a page offers. */

/** A page's address below its client, or below the agency as `agency/…`; null for any other page. */
export function placeOf(path: string): string | null {
  const [, kind, , ...rest] = path.split("/");
  if (kind === "c") return rest.join("/");
  return kind === "agency" ? ["agency", ...rest].join("/") : null;
}

/** The article that names this page most exactly; null where none does. */
export function articleAt<T extends { at: readonly string[] }>(articles: readonly T[], path: string): T | null {
  const place = placeOf(path);
  if (place === null) return null;
  const exact = articles.find(({ at }) => at.includes(place));
  return exact ?? articles.find(({ at }) => at.some((pattern) => fits(pattern, place))) ?? null;
}

function fits(pattern: string, place: string): boolean {
  const [wanted, found] = [pattern.split("/"), place.split("/")];
  return wanted.length === found.length && wanted.every((part, index) => part === "*" || part === found[index]);
}
