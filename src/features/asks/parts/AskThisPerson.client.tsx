"use client";
import type { Candidate } from "../actions";

/** Opens "Ask someone" with this person already picked. */
export function AskThisPerson({ person }: { person: Candidate }) {
  return (
    <button
      type="button"
      className="button-main"
      onClick={() => dispatchEvent(new CustomEvent("estima:ask", { detail: person }))}
    >
      Ask {person.name.split(" ")[0]}
    </button>
  );
}
