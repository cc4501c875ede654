import { normaliseEmail } from "../contacts/email";
import { normalisePhone } from "../contacts/phone";

/** Cells of a row that are looked at for addresses, and how much of each. */
const LOOK = 400;

/**
 * The email addresses and phone numbers (E.164) that a row's cells hold, whatever its columns are called. `country`
 * (ISO 3166-1) is the default for phones.
 */
export function addressesIn(cells: readonly string[], country: string): string[] {
  const found = new Set<string>();
  for (const cell of cells) {
    const text = cell.slice(0, LOOK);
    if (text.includes("@")) {
      for (const piece of text.split(/[\s,;/|<>()"]+/)) {
        const email = piece.includes("@") ? normaliseEmail(piece) : null;
        if (email) found.add(email);
      }
    } else if (text.replace(/\D/g, "").length >= 7) {
      for (const piece of [text, ...text.split(/[,;/|\n]/).slice(0, 6)]) {
        const phone = normalisePhone(piece, country);
        if (phone) found.add(phone.number);
      }
    }
  }
  return [...found];
}
