"use client";

import { useRouter } from "next/navigation";
import { useTransition } from "react";
import type { ActionResult } from "@/ui/result";
import { Sentence } from "@/ui/Sentence.client";

type Choice = { value: string; words: string };
export type Filter = { name: string; label: string; value: string; choices: Choice[] };

/** The filters as small selects whose choice lives in the address. */
export function PeopleFilters({ base, query, filters }: { base: string; query: string; filters: Filter[] }) {
  const router = useRouter();
  const [pending, go] = useTransition();
  return (
    <fieldset className="flex flex-wrap items-center gap-2" aria-busy={pending}>
      <legend className="sr-only">Filters</legend>
      {filters.map(({ name, label, value, choices }) => (
        <label key={name} className={`chip cursor-pointer pr-1 ${value ? "border-mulberry" : ""}`}>
          <span className="text-second">{label}</span>
          <select
            className="bg-sheet min-h-[28px] max-w-[150px] rounded-full font-semibold"
            value={value}
            onChange={(event) => {
              const next = new URLSearchParams(query);
              if (event.target.value) next.set(name, event.target.value);
              else next.delete(name);
              go(() => router.replace(next.size > 0 ? `${base}?${next}` : base));
            }}
          >
            {choices.map((choice) => (
              <option key={choice.value} value={choice.value}>
                {choice.words}
              </option>
            ))}
          </select>
        </label>
      ))}
      {pending ? <span className="text-second text-[14px]">looking ...</span> : null}
    </fieldset>
  );
}

/** Keeps the filters of the moment under a name. */
export function KeepView({ action }: { action: (before: ActionResult, form: FormData) => Promise<ActionResult> }) {
  return (
    <Sentence words="Keep this as a view" label="Keep this as a view" action={action}>
      {(error) => (
        <>
          <label className="label" htmlFor="view-name">
            Name
          </label>
          <input id="view-name" name="name" className="field" maxLength={60} autoComplete="off" />
          {error("name")}
        </>
      )}
    </Sentence>
  );
}
