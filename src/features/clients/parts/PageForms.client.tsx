"use client";
import { Sentence } from "@/ui/Sentence.client";
import { saveListing, savePostalAddress } from "../actions";

/** A branch's page on a review site, or with no `listing` the way to add one. */
export function ListingForm({
  slug,
  listing,
  branches,
}: {
  slug: string;
  listing?: { id: string; branchId: string; site: string; url: string };
  branches: { id: string; name: string }[];
}) {
  return (
    <Sentence
      words={listing?.site ?? "Add a review page"}
      label={listing ? `Page on ${listing.site}` : "A new review page"}
      action={saveListing.bind(null, slug, listing?.id ?? "")}
      wide
    >
      {(error) => (
        <div className="space-y-3">
          {listing ? (
            <>
              <input type="hidden" name="branchId" value={listing.branchId} />
              <input type="hidden" name="site" value={listing.site} />
            </>
          ) : (
            <>
              <div>
                <label className="label" htmlFor="listing-branch">
                  Branch
                </label>
                <select id="listing-branch" name="branchId" className="field">
                  {branches.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
                {error("branchId")}
              </div>
              <div>
                <label className="label" htmlFor="listing-site">
                  Site
                </label>
                <input id="listing-site" name="site" className="field" maxLength={60} />
                {error("site")}
              </div>
            </>
          )}
          <div>
            <label className="label" htmlFor="listing-url">
              Link to the page where customers write a review
            </label>
            <input id="listing-url" name="url" className="field" defaultValue={listing?.url} inputMode="url" />
            {error("url")}
          </div>
        </div>
      )}
    </Sentence>
  );
}

/** The postal address under every email. */
export function PostalAddressForm({ slug, address }: { slug: string; address: string }) {
  return (
    <Sentence
      words={address || "no address yet"}
      label="Postal address"
      action={savePostalAddress.bind(null, slug)}
      id="address"
    >
      {(error) => (
        <>
          <label className="label" htmlFor="postalAddress">
            Postal address
          </label>
          <input id="postalAddress" name="postalAddress" className="field" defaultValue={address} maxLength={300} />
          {error("postalAddress")}
        </>
      )}
    </Sentence>
  );
}
