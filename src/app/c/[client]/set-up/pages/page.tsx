import { connectorOf, reachableConnectors } from "@/connectors";
import { may } from "@/core/access/permissions";
import { siteReading } from "@/core/reviews/sites";
import { capital, pluralOf, sayAgo, sayCount, sayWhen } from "@/core/time/say";
import { type Listing, loadSetting, type Setting } from "@/features/clients";
import { ListingForm, PostalAddressForm } from "@/features/clients/parts/PageForms.client";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { LookAgain } from "@/features/plan-editor/parts/PlanButtons.client";
import { unpostedByListing } from "@/features/reviews";
import { accountNames, listConnections } from "@/features/sites";
import { SignInButton, StopReading } from "@/features/sites/parts/SiteButtons.client";
import { siteProblemHelp, siteProblemWords, siteRemedySentence } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Review pages" };

type Props = { params: Promise<{ client: string }> };

export default async function ReviewPages({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { setting, begun, accounts, unposted } = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const ids = setting.listings.flatMap(({ accountId }) => accountId ?? []);
    return {
      setting,
      begun: await listConnections(tx, access),
      accounts: await accountNames(tx, access, ids),
      unposted: await unpostedByListing(tx, access),
    };
  });
  const { client, branches, listings } = setting;
  const { slug, zone } = access.seat;
  const named = branches.map(({ id, name }) => ({ id, name }));
  return (
    <Page
      margin={
        <>
          <Note title="Where customers go">
            <p>
              Each branch has its own page on each site. Plans decide which comes first and how many to offer. We check
              the links when you open a plan, before it runs, and whenever you ask us to.
            </p>
          </Note>
          <Note title="Collecting reviews">
            <p>
              We check connected sites every minute, and notice edits and deletions. If a site is down, nothing is lost:
              we pick up where we left off. Each site’s ratings are shown its own way; to compare them, scores out of
              ten are halved and “recommended” counts as 4 of 5.
            </p>
          </Note>
        </>
      }
    >
      {listings.some(isUnderWay) ? <LiveRefresh seconds={3} /> : null}
      <h1 className="title">{titleOf(listings)}</h1>
      {branches.map((branch) => {
        const own = listings.filter(({ branchId }) => branchId === branch.id);
        return (
          <section key={branch.id} aria-label={branch.name} className="mt-6">
            <h2 className="text-[18px] font-semibold">{branch.name}</h2>
            <ul className="divide-rule border-rule mt-1 divide-y border-y">
              {own.map((listing) => (
                <li key={listing.id} className="py-2.5">
                  <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
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
                        ? `broken link: ${siteProblemWords(listing.problem)}`
                        : listing.lookedAt
                          ? `link works, checked ${sayAgo(listing.lookedAt, now)}`
                          : "link not checked yet"}
                    </span>
                  </div>
                  {listing.connector ? (
                    <ReadingLine
                      listing={listing}
                      slug={slug}
                      zone={zone}
                      now={now}
                      account={accounts.get(listing.accountId ?? "") ?? null}
                      unposted={unposted.get(listing.id) ?? 0}
                    />
                  ) : null}
                </li>
              ))}
              {own.length === 0 ? (
                <li className="text-second py-2.5">
                  No page yet, so customers of this branch can’t be sent to a review site.
                </li>
              ) : null}
            </ul>
          </section>
        );
      })}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <ListingForm slug={slug} branches={named} />
        {listings.length > 0 && may(access.seat, "change plans") ? <LookAgain slug={slug} className="button" /> : null}
      </div>
      <Connectable setting={setting} slug={slug} begun={begun.map(({ connector }) => connector)} />
      <h2 className="font-title mt-10 text-[21px] font-semibold">At the bottom of every email</h2>
      <p className="mt-2">
        <PostalAddressForm slug={slug} address={client.postalAddress} />
      </p>
    </Page>
  );
}

type LineProps = {
  listing: Listing;
  slug: string;
  zone: string;
  now: number;
  account: string | null;
  unposted: number;
};

/** How the reading of a page goes, in words, with what can be done about it. */
function ReadingLine({ listing, slug, zone, now, account, unposted }: LineProps) {
  const reading = siteReading({ ...listing, problem: listing.collectError });
  const isBad = reading.code === "signed out" || reading.code === "failing";
  return (
    <div className="mt-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
      <span className={isBad ? "text-vermilion-deep" : "text-second"}>
        {reading.code === "not begun" ? "Collecting will start in a moment." : null}
        {reading.code === "first reading"
          ? `First collection: ${reading.read.toLocaleString("en-GB")}${reading.of ? ` of ${reading.of.toLocaleString("en-GB")}` : ""} ${pluralOf(reading.of ?? reading.read, "review")} so far.`
          : null}
        {reading.code === "well" ? `Last checked ${sayAgo(reading.lastAt, now)}.` : null}
        {reading.code === "patience"
          ? `${listing.site} has asked us to wait${reading.until ? ` until ${reading.until}` : ""}; then we’ll carry on.`
          : null}
        {reading.code === "signed out"
          ? `The sign-in expired${reading.at === null ? "" : ` ${sayWhen(zone, reading.at, now)}`}. ${listing.collectError ? siteRemedySentence(listing.collectError) : ""}`
          : null}
        {reading.code === "failing"
          ? `We can’t read it${reading.since === null ? "" : ` since ${sayWhen(zone, reading.since, now)}`}. ${listing.collectError ? siteProblemHelp(listing.collectError).says : ""}`
          : null}
        {listing.reviewCount ? ` ${capital(sayCount(listing.reviewCount, "review"))}.` : null}
        {account ? ` Signed in as ${account}.` : null}
      </span>
      <span className="flex flex-wrap gap-2">
        {reading.code === "signed out" && listing.connector ? (
          <SignInButton slug={slug} site={listing.connector} again={listing.accountId} main>
            Sign in again
          </SignInButton>
        ) : null}
        {isBad && listing.connector && reading.code !== "signed out" ? (
          <Link href={`/c/${slug}/set-up/pages/connect?site=${listing.connector}`} className="button-quiet">
            Reconnect
          </Link>
        ) : null}
        <StopReading slug={slug} listingId={listing.id} site={listing.site} unposted={unposted} />
      </span>
    </div>
  );
}

/** Sites that can be connected, with what each of them can do. */
function Connectable({ setting, slug, begun }: { setting: Setting; slug: string; begun: string[] }) {
  const sites = reachableConnectors();
  if (sites.length === 0) return null;
  const readAt = (id: string) => setting.listings.filter(({ connector }) => connector === id).length;
  return (
    <>
      <h2 className="font-title mt-10 text-[21px] font-semibold">Connect a site</h2>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {sites.map(({ id, name, scale, reply, access }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 py-3">
            <span>
              <b>{name}</b>{" "}
              <span className="text-second">
                {scale === "five" ? "rates from 1 to 5" : scale === "ten" ? "rates from 1 to 10" : "recommended or not"}
                {reply
                  ? `; replies up to ${reply.longest.toLocaleString("en-GB")} characters`
                  : "; reviews only, no replies"}
                {access === "sign-in" ? "; you sign in to the site" : access === "key" ? "; each page has a key" : ""}.{" "}
                {readAt(id) > 0
                  ? `Connected at ${readAt(id) === setting.branches.length && readAt(id) > 1 ? "every branch" : sayCount(readAt(id), "branch", "branches")}.`
                  : ""}
              </span>
            </span>
            <Link
              href={`/c/${slug}/set-up/pages/connect?site=${id}`}
              className={readAt(id) === 0 || begun.includes(id) ? "button-main" : "button"}
            >
              {begun.includes(id) ? `Finish connecting ${name}` : `Connect ${name}`}
            </Link>
          </li>
        ))}
      </ul>
      <p className="text-second mt-2">
        For any other site, add its page above. You can also{" "}
        <Link href={`/c/${slug}/heard/bring-in`}>import its reviews from a file, or type them in</Link>.
      </p>
    </>
  );
}

const isUnderWay = (listing: Listing) =>
  listing.connector !== null && listing.firstReadAt === null && !listing.collectError;

function titleOf(listings: Listing[]): string {
  const signedOut = listings.find(({ collectError }) => collectError?.code === "sign-in ended");
  if (signedOut) return `Your sign-in to ${signedOut.site} has expired.`;
  const stopped = listings.filter(({ collectError }) => collectError !== null);
  if (stopped.length > 0)
    return stopped.length === 1
      ? `We can’t reach ${stopped[0].site} right now.`
      : `${capital(sayCount(stopped.length, "review page"))} can’t be reached right now.`;
  const lost = listings.filter(({ problem }) => problem).length;
  if (lost > 0) return lost === 1 ? "One review link is broken." : `${lost} review links are broken.`;
  if (listings.some(isUnderWay))
    return `${connectorOf(listings.find(isUnderWay)?.connector ?? "waypost").name} is being collected for the first time.`;
  if (listings.length === 0) return "No branch has a review page yet.";
  const unseen = listings.filter(({ lookedAt }) => lookedAt === null).length;
  return unseen > 0
    ? `Customers are sent to ${sayCount(listings.length, "review page")}.`
    : "All your review links work.";
}
