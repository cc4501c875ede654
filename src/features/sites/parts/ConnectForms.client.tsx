"use client";

import type { FoundPlace } from "@/connectors";
import type { ConnectorId } from "@/core/reviews/sites";
import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { choose, connect, searchForPlaces } from "../actions";

/** What to look for at a site. */
export function SearchForm({
  slug,
  site,
  name,
  town,
}: {
  slug: string;
  site: ConnectorId;
  name: string;
  town: string;
}) {
  return (
    <ActionForm action={searchForPlaces.bind(null, slug, site)} className="flex flex-wrap items-end gap-3">
      {({ pending, error }) => (
        <>
          <div className="min-w-[220px] grow">
            <Field id="find-name" name="name" label="Name of the business" defaultValue={name} required error={error} />
          </div>
          <div className="min-w-[160px]">
            <Field id="find-town" name="town" label="Town" defaultValue={town} error={error} />
          </div>
          <button type="submit" className="button" disabled={pending}>
            {pending ? "Searching…" : "Search"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

export type BranchToPlace = { id: string; name: string; address: string; likely: string | null };

/** Which of the places found is which branch's. */
export function ChooseForm({
  slug,
  site,
  siteName,
  looked,
  branches,
  found,
}: {
  slug: string;
  site: ConnectorId;
  siteName: string;
  /** What was looked for to find these. */
  looked: { name: string; town: string };
  branches: BranchToPlace[];
  found: FoundPlace[];
}) {
  return (
    <ActionForm action={choose.bind(null, slug, site)} className="mt-4">
      {({ pending }) => (
        <>
          <input type="hidden" name="name" value={looked.name} />
          <input type="hidden" name="town" value={looked.town} />
          {branches.map((branch) => (
            <fieldset key={branch.id} className="border-rule mt-4 border-t pt-3">
              <legend className="float-left mb-1 w-full">
                <b>{branch.name}</b> <span className="text-second">{branch.address}</span>
              </legend>
              <div className="clear-both space-y-1">
                {found.map((place) => (
                  <label key={place.id} className="flex min-h-[36px] items-baseline gap-2.5">
                    <input type="radio" name={branch.id} value={place.id} defaultChecked={place.id === branch.likely} />
                    <span>
                      {place.name}
                      <span className="text-second">
                        , {place.address} ·{" "}
                        {place.rating
                          ? `${place.rating} from ${place.count.toLocaleString("en-GB")} ${place.count === 1 ? "person" : "people"}`
                          : "no reviews yet"}
                      </span>
                    </span>
                  </label>
                ))}
                <label className="flex min-h-[36px] items-baseline gap-2.5">
                  <input type="radio" name={branch.id} value="" defaultChecked={branch.likely === null} />
                  Not on {siteName}
                </label>
              </div>
            </fieldset>
          ))}
          <button type="submit" className="button-main mt-4" disabled={pending}>
            {pending ? "One moment…" : "Yes, these are ours"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

export type ChosenBranch = { id: string; name: string; place: string; url: string };

/** Opens the places that were chosen: with the key of each, where the site opens by key. */
export function ConnectForm({
  slug,
  site,
  siteName,
  keyPage,
  branches,
  offeredBy,
}: {
  slug: string;
  site: ConnectorId;
  siteName: string;
  /** What would offer the site to customers from now on; null where it is offered already. */
  offeredBy: string | null;
  /** Where a place's key stands, below its page; null where none is needed. */
  keyPage: string | null;
  branches: ChosenBranch[];
}) {
  return (
    <ActionForm action={connect.bind(null, slug, site)} className="mt-3 space-y-4">
      {({ pending, error }) => (
        <>
          {keyPage === null
            ? null
            : branches.map((branch) => (
                <div key={branch.id}>
                  <Field
                    id={`key-${branch.id}`}
                    name={`key-${branch.id}`}
                    label={`Key for ${branch.place}`}
                    autoComplete="off"
                    spellCheck={false}
                    required
                    error={error}
                  />
                  <p className="text-second mt-1 text-[14px]">
                    You’ll find it on{" "}
                    <a href={`${branch.url}${keyPage}`} target="_blank" rel="noopener noreferrer">
                      the owner’s page on {siteName}
                    </a>
                    : copy it from there.
                  </p>
                </div>
              ))}
          {offeredBy === null ? null : (
            <div>
              <input type="hidden" name="asksOffered" value="yes" />
              <label className="flex min-h-[32px] items-center gap-2.5">
                <input type="checkbox" name="isOffered" value="yes" defaultChecked />
                Offer customers “Write on {siteName}” as well
              </label>
              <p className="text-second text-[14px]">
                It appears straight away on the pages of {offeredBy}. You can leave it out of any plan later, under its
                review sites.
              </p>
            </div>
          )}
          <button type="submit" className="button-main" disabled={pending}>
            {pending ? `Contacting ${siteName}…` : "Start collecting reviews"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
