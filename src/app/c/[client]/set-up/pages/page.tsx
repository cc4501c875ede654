import { sayAgo, sayCount } from "@/core/time/say";
import { type Listing, loadSetting } from "@/features/clients";
import { ListingForm, PostalAddressForm } from "@/features/clients/parts/PageForms.client";
import { siteProblemWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Review pages" };

type Props = { params: Promise<{ client: string }> };

export default async function ReviewPages({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { client, branches, listings } = await withClient(access, loadSetting);
  const { slug } = access.seat;
  const named = branches.map(({ id, name }) => ({ id, name }));
  return (
    <Page
      margin={
        <Note title="Where customers are led">
          <p>
            Each branch has its own page on each site. Which one comes first, and how many are offered, a plan says.
            Links are followed once a day, and before a plan runs.
          </p>
        </Note>
      }
    >
      <h1 className="title">{titleOf(listings)}</h1>
      {branches.map((branch) => {
        const own = listings.filter(({ branchId }) => branchId === branch.id);
        return (
          <section key={branch.id} aria-label={branch.name} className="mt-6">
            <h2 className="text-[18px] font-semibold">{branch.name}</h2>
            <ul className="divide-rule border-rule mt-1 divide-y border-y">
              {own.map((listing) => (
                <li key={listing.id} className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 py-2.5">
                  <span className="min-w-0">
                    <ListingForm slug={slug} listing={listing} branches={named} />{" "}
                    <a
                      href={listing.url}
                      rel="noreferrer"
                      className="text-second [overflow-wrap:anywhere] underline underline-offset-[3px]"
                    >
                      {listing.url}
                    </a>
                  </span>
                  <span className={listing.problem ? "text-vermilion-deep" : "text-second"}>
                    {listing.problem
                      ? `leads nowhere: ${siteProblemWords(listing.problem)}`
                      : listing.lookedAt
                        ? `opens, followed ${sayAgo(listing.lookedAt, now)}`
                        : "not followed yet"}
                  </span>
                </li>
              ))}
              {own.length === 0 ? (
                <li className="text-second py-2.5">
                  No page yet: whoever is asked about this branch cannot write in public.
                </li>
              ) : null}
            </ul>
          </section>
        );
      })}
      <p className="mt-4">
        <ListingForm slug={slug} branches={named} />
      </p>
      <h2 className="font-title mt-10 text-[21px] font-semibold">Under every email</h2>
      <p className="mt-2">
        <PostalAddressForm slug={slug} address={client.postalAddress} />
      </p>
    </Page>
  );
}

function titleOf(listings: Listing[]): string {
  const lost = listings.filter(({ problem }) => problem).length;
  if (lost > 0) return lost === 1 ? "One review page leads nowhere." : `${lost} review pages lead nowhere.`;
  if (listings.length === 0) return "No branch has a review page yet.";
  const unseen = listings.filter(({ lookedAt }) => lookedAt === null).length;
  return unseen > 0 ? `Customers are led to ${sayCount(listings.length, "review page")}.` : "Every review page opens.";
}
