import { createHash } from "node:crypto";

/**
 * The identifier of the visit that row `row` of a list brings, the same whenever it is asked: a look ahead at the list
 * draws the very moments over which it is then spread. A UUID of version 8 (RFC 9562): it begins with the moment of its
 * list's identifier, then come the row and a hash, so that the visits of a list stay in the order of its rows.
 */
export function visitOfRow(intakeId: string, row: number): string {
  const hash = createHash("sha256").update(`${intakeId} ${row}`).digest("hex");
  const hex = (row % 2 ** 24).toString(16).padStart(6, "0");
  const variant = (8 + (Number.parseInt(hash[0], 16) % 4)).toString(16);
  return `${intakeId.slice(0, 13)}-8${hex.slice(0, 3)}-${variant}${hex.slice(3)}-${hash.slice(1, 13)}`;
}
