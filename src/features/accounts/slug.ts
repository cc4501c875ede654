/**
 * A name as the part of an address: small letters, digits and hyphens, 2 to 40 of them; `otherwise` where nothing of
 * the name can be one.
 *
 * @example slugFor("Larkspur & Vane", "agency") // "larkspur-vane"
 */
export function slugFor(name: string, otherwise: string): string {
  const plain = name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40)
    .replace(/-+$/, "");
  return plain.length >= 2 ? plain : otherwise;
}
