"use client";

import { useEffect, useState } from "react";
import { type Candidate, findToAsk } from "../actions";
import type { AskChoices } from "./ComposeAsk.client";

/** Whom to ask: somebody who was here lately, somebody found, or somebody new. */
export function PickPerson({
  slug,
  pick,
  services,
  branches,
  isShared,
}: AskChoices & { pick: (person: Candidate) => void }) {
  const [typed, setTyped] = useState("");
  const [found, setFound] = useState<Candidate[] | null>(null);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      async () => {
        const list = await findToAsk(slug, typed).catch(() => []);
        if (current) setFound(list);
      },
      typed ? 180 : 0,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [slug, typed]);
  const fresh = (): Candidate => ({
    id: "new",
    name: "someone new",
    reach: "",
    last: null,
    serviceId: services[0]?.id ?? null,
    branchId: branches[0]?.id ?? null,
    teamMemberId: null,
    about: null,
    visitId: null,
    canText: true,
  });
  return (
    <div>
      <label className="label" htmlFor="ask-search">
        Name, phone or email
      </label>
      <input
        id="ask-search"
        className="field"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        autoComplete="off"
        // biome-ignore lint/a11y/noAutofocus: the dialog was opened to type here
        autoFocus
        placeholder="odette, 07700 900123 ..."
      />
      <p className="text-second mt-4 mb-1 text-[14px]" aria-live="polite">
        {found === null
          ? "Searching…"
          : typed
            ? found.length === 0
              ? isShared
                ? "Nobody matches. Type at least four letters or digits, the whole email address, or a short name in full."
                : "Nobody matches."
              : `${found.length} found`
            : found.length
              ? isShared
                ? "Here today"
                : "Recent visitors"
              : isShared
                ? "Nobody is waiting to be asked today."
                : "No recent visitors."}
      </p>
      <ul className="divide-rule border-rule divide-y border-y">
        {(found ?? []).map((person) => (
          <li key={person.id}>
            <button
              type="button"
              onClick={() => pick(person)}
              className="hover:bg-mulberry-tint flex min-h-[56px] w-full flex-wrap items-baseline gap-x-4 px-2 py-2 text-left"
            >
              <b>{person.name}</b>
              <span className="text-second text-[14px]">{person.last ?? person.reach}</span>
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="button mt-4" onClick={() => pick(fresh())}>
        Add someone new
      </button>
    </div>
  );
}
