"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { putWordsInForce } from "../actions";

export type OfferRow = { key: string; client: string; plan: string; texts: number };

/** Which plans would get the agency's words, and puts them in force in those that are ticked. */
export function AgencyOffers({ agency, rows, mayEnforce }: { agency: string; rows: OfferRow[]; mayEnforce: boolean }) {
  return (
    <ActionForm action={putWordsInForce.bind(null, agency)} className="mt-2">
      {({ pending }) => (
        <>
          <ul className="divide-rule border-rule divide-y border-y">
            {rows.map(({ key, client, plan, texts }) => (
              <li key={key}>
                <label className="flex min-h-[44px] items-center gap-3 py-1.5">
                  <input
                    type="checkbox"
                    name="plan"
                    value={key}
                    defaultChecked
                    disabled={!mayEnforce}
                    className="h-5 w-5"
                  />
                  <span className="grow">
                    <b>{client}</b>, {plan}
                  </span>
                  <span className="text-second text-[14px]">{texts === 1 ? "one text" : `${texts} texts`}</span>
                </label>
              </li>
            ))}
          </ul>
          {mayEnforce ? (
            <button type="submit" className="button-main mt-3" disabled={pending}>
              {pending ? "One moment ..." : "Put them in force there"}
            </button>
          ) : null}
        </>
      )}
    </ActionForm>
  );
}
