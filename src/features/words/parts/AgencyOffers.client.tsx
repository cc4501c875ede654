"use client";

import { useState } from "react";
import { capital, sayCount } from "@/core/time/say";
import { ActionForm } from "@/ui/ActionForm.client";
import { putWordsInForce } from "../actions";

/** A client with those of its plans that would get something. */
export type OfferRow = { client: string; plans: { key: string; name: string; texts: number }[] };

/** Which plans would get the agency's words, client by client, and puts them in force in those that are ticked. */
export function AgencyOffers({ agency, rows, mayEnforce }: { agency: string; rows: OfferRow[]; mayEnforce: boolean }) {
  const all = rows.flatMap(({ plans }) => plans.map(({ key }) => key));
  const [unticked, setUnticked] = useState<ReadonlySet<string>>(new Set());
  const ticked = all.filter((key) => !unticked.has(key)).length;
  const tick = (keys: readonly string[], on: boolean) => {
    const after = new Set(unticked);
    for (const key of keys) on ? after.delete(key) : after.add(key);
    setUnticked(after);
  };
  return (
    <ActionForm action={putWordsInForce.bind(null, agency)} className="mt-2">
      {({ pending }) => (
        <>
          {mayEnforce ? (
            <p className="flex flex-wrap items-center gap-x-4 gap-y-2">
              <button type="submit" className="button-main" disabled={pending || ticked === 0}>
                {pending ? "One moment…" : `Apply to ${sayCount(ticked, "plan")}`}
              </button>
              <button type="button" className="button-quiet" onClick={() => tick(all, ticked < all.length)}>
                {ticked < all.length ? "Tick all" : "Tick none"}
              </button>
            </p>
          ) : null}
          <details className="mt-3">
            <summary className="text-second">{capital(sayCount(rows.length, "client"))}: see each plan</summary>
            <ul className="divide-rule border-rule mt-2 divide-y border-y">
              {rows.map(({ client, plans }) => (
                <li key={plans[0].key} className="flex flex-col gap-x-4 py-2 sm:flex-row">
                  <b className="shrink-0 py-1 sm:w-[220px]">{client}</b>
                  <span className="flex grow flex-col">
                    {plans.map(({ key, name, texts }) => (
                      <label key={key} className="flex min-h-[32px] items-center gap-3">
                        <input
                          type="checkbox"
                          name="plan"
                          value={key}
                          checked={!unticked.has(key)}
                          onChange={({ target }) => tick([key], target.checked)}
                          disabled={!mayEnforce}
                          className="h-5 w-5 shrink-0"
                        />
                        <span className="grow">{name}</span>
                        <span className="text-second text-[14px]">{sayCount(texts, "passage")}</span>
                      </label>
                    ))}
                  </span>
                </li>
              ))}
            </ul>
          </details>
        </>
      )}
    </ActionForm>
  );
}
