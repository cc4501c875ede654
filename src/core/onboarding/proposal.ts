import { WEEKDAYS } from "../time/say";
import type { ClientDraft } from "./draft";

/** What a client fills in of a draft by a link, and what of it differs from what the agency has. */

/** What a client is asked; plan, colour and the number of texts are the agency's to choose. */
const ASKED = [
  "name",
  "postalAddress",
  "senderEmail",
  "branches",
  "services",
  "team",
  "days",
  "opens",
  "closes",
] as const satisfies readonly (keyof ClientDraft)[];

/** The draft with what the client filled in in place of what stood there. */
export function takenOver(draft: ClientDraft, proposed: ClientDraft): ClientDraft {
  return { ...draft, ...Object.fromEntries(ASKED.map((field) => [field, proposed[field]])) };
}

export type Difference = { field: (typeof ASKED)[number]; before: string; after: string };

/** What the client wrote otherwise, as words. */
export function differences(draft: ClientDraft, proposed: ClientDraft): Difference[] {
  return ASKED.flatMap((field) => {
    const [before, after] = [draft, proposed].map((one) => wordsOf(one, field));
    return before === after ? [] : { field, before, after };
  });
}

function wordsOf(draft: ClientDraft, field: (typeof ASKED)[number]): string {
  if (field === "branches")
    return draft.branches
      .map(({ name, address, site, url }) => [name, address, site, url].filter(Boolean).join(", "))
      .filter(Boolean)
      .join("; ");
  if (field === "services")
    return draft.services
      .filter(({ name }) => name.trim())
      .map(({ name, neverAsk }) => (neverAsk ? `${name} (never ask)` : name))
      .join(", ");
  if (field === "team") return draft.team.split("\n").filter(Boolean).join(", ");
  if (field === "days") return draft.days.map((day) => WEEKDAYS[day]).join(", ");
  if (field === "opens" || field === "closes")
    return `${Math.floor(draft[field] / 60)}:${String(draft[field] % 60).padStart(2, "0")}`;
  return draft[field].trim();
}
