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

/** Opens "Ask someone" with nobody picked yet. */
export function AskAnybody({ words = "By name or number" }: { words?: string }) {
  return (
    <button
      type="button"
      className="button-main w-full sm:w-auto"
      onClick={() => dispatchEvent(new CustomEvent("estima:ask", { detail: null }))}
    >
      {words}
    </button>
  );
}
