import { notFound } from "next/navigation";
import { z } from "zod";
import { connectorOf } from "@/connectors";
import { CONNECTOR_IDS } from "@/core/reviews/sites";
import { capital } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { listPlans } from "@/features/plans";
import { findConnection, likelyPlace, listAccounts, searchSite } from "@/features/sites";
import { ChooseForm, ConnectForm, SearchForm } from "@/features/sites/parts/ConnectForms.client";
import { LeaveConnecting, SignInButton } from "@/features/sites/parts/SiteButtons.client";
import { siteProblemWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Connect a site" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({
  site: z.enum(CONNECTOR_IDS),
  /** "find": looks for the business once more. */
  step: z.enum(["find"]).optional().catch(undefined),
  said: z.enum(["not begun", "too late", "not agreed", "refused", "wrong account"]).optional().catch(undefined),
});

const SAID_WORDS = {
  "not begun": "That sign-in wasn’t started here, or has already been used. Start again.",
  "too late": "That took longer than 15 minutes. Start the sign-in again.",
  "not agreed": "You didn’t give permission on the site, so nothing has changed. You can try again any time.",
  refused: "The site rejected the sign-in. Start again.",
  "wrong account": "That account doesn’t manage this page.",
} as const;

/** Connecting a site: find the business, choose its places, open them. Each step stands where it was left. */
export default async function ConnectSite({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const read = query.safeParse(await searchParams);
  if (!read.success) notFound();
  const { site, step, said } = read.data;
  const connector = connectorOf(site);
  if (!connector.isReachable()) notFound();
  const { slug } = access.seat;
  const { setting, connection, accounts, plans } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    connection: await findConnection(tx, access, site),
    accounts: await listAccounts(tx, access, site),
    plans: (await listPlans(tx, access)).filter(({ state }) => state === "running").map((plan) => plan.name),
  }));
  const isOffered = setting.listings.some((listing) => listing.site === connector.name);
  const { name } = connector;
  const looked = connection?.name ? connection : null;
  const wanted = {
    name: looked?.name ?? setting.client.name,
    town: looked?.town ?? commonTown(setting.branches.map(({ address }) => address)),
  };
  const chosen = connection?.choices ?? null;
  const isFinding = chosen === null || step === "find";
  const result = isFinding && wanted.name ? await searchSite(site, wanted) : null;
  const account = accounts.find(({ id }) => id === connection?.accountId) ?? accounts[0] ?? null;
  const places = (chosen ?? []).flatMap(({ branchId, place }) => {
    const branch = setting.branches.find(({ id }) => id === branchId);
    return place && branch ? [{ id: branch.id, name: branch.name, place: place.name, url: place.url }] : [];
  });
  return (
    <Page
      margin={
        <>
          <Note title={`What ${name} can do`}>
            <p>
              {connector.scale === "five"
                ? "People rate from 1 to 5."
                : connector.scale === "ten"
                  ? "People rate from 1 to 10, to one decimal place."
                  : "People recommend a business or don’t."}{" "}
              {connector.reply
                ? `You can reply once to each review, in up to ${connector.reply.longest.toLocaleString("en-GB")} characters.`
                : "It doesn’t allow replies."}{" "}
              {connector.listen ? "New reviews arrive straight away." : "We check for new reviews every minute."}
            </p>
          </Note>
          <Note title="You can stop at any time">
            <p>Your progress is saved. You or a colleague can pick up where you left off.</p>
            {connection ? (
              <p className="mt-2">
                <LeaveConnecting slug={slug} site={site} />
              </p>
            ) : null}
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/set-up/pages`}>Review pages</Link>
      </p>
      <h1 className="title">
        {isFinding
          ? `Which of these on ${name} is ${setting.client.name}?`
          : connector.access === "sign-in" && !account
            ? `Sign in to ${name} to collect its reviews.`
            : `${name} is one step away.`}
      </h1>
      {said ? (
        <p role="alert" className="bg-vermilion-tint text-vermilion-deep mt-4 rounded-[8px] px-3 py-2">
          {SAID_WORDS[said]}
        </p>
      ) : null}
      <ol className="mt-5 space-y-6">
        <Step number={1} name="Find it" isOpen={isFinding}>
          {isFinding ? (
            <>
              <SearchForm slug={slug} site={site} name={wanted.name} town={wanted.town} />
              {result && "problem" in result ? (
                <p role="alert" className="text-vermilion-deep mt-4">
                  {capital(siteProblemWords(result.problem))}. Try again in a moment.
                </p>
              ) : null}
              {result && "found" in result ? (
                result.found.length === 0 ? (
                  <p className="mt-4">
                    We found nothing by that name on {name}. Try a shorter name, or leave out the town.
                  </p>
                ) : (
                  <ChooseForm
                    // Other finds make it another form.
                    key={result.found.map(({ id }) => id).join()}
                    slug={slug}
                    site={site}
                    siteName={name}
                    looked={wanted}
                    found={result.found}
                    branches={setting.branches.map((branch) => ({
                      id: branch.id,
                      name: branch.name,
                      address: branch.address,
                      likely:
                        chosen?.find(({ branchId }) => branchId === branch.id)?.place?.id ??
                        likelyPlace(result.found, branch, setting.branches.length === 1)?.id ??
                        null,
                    }))}
                  />
                )
              ) : null}
            </>
          ) : (
            <>
              <ul>
                {places.map((place) => (
                  <li key={place.id}>
                    <b>{place.name}</b> is{" "}
                    <a href={place.url} target="_blank" rel="noopener noreferrer">
                      {place.place}
                    </a>
                    .
                  </li>
                ))}
              </ul>
              <Link href={`/c/${slug}/set-up/pages/connect?site=${site}&step=find`} className="button-quiet -ml-2">
                Change
              </Link>
            </>
          )}
        </Step>
        {connector.access === "sign-in" ? (
          <Step number={2} name={`Sign in to ${name}`} isOpen={!isFinding && !account}>
            {account ? (
              <p>
                Signed in as <b>{account.name}</b>.{" "}
                <SignInButton slug={slug} site={site} again={null}>
                  Use a different account
                </SignInButton>
              </p>
            ) : isFinding ? null : (
              <>
                <p className="mb-3">
                  {name} will ask whether Estima can read reviews of your pages and reply on your behalf. You can
                  withdraw that on the site at any time.
                </p>
                <SignInButton slug={slug} site={site} again={null} main>
                  Sign in to {name}
                </SignInButton>
              </>
            )}
          </Step>
        ) : null}
        <Step
          number={connector.access === "sign-in" ? 3 : 2}
          name={connector.access === "key" ? "Enter its key" : "Collect its reviews"}
          isOpen={!isFinding && (connector.access !== "sign-in" || account !== null)}
        >
          {!isFinding && (connector.access !== "sign-in" || account !== null) ? (
            <>
              <p>
                First we’ll collect everything ever written there, then check for new reviews every minute.
                {connector.reply
                  ? " Reviews over two months old are set aside; the rest wait for a reply. Nothing is answered automatically unless one of your rules says so."
                  : ""}
              </p>
              <ConnectForm
                slug={slug}
                site={site}
                siteName={name}
                keyPage={connector.access === "key" ? (connector.keyPage ?? "") : null}
                branches={places}
                offeredBy={isOffered ? null : offeredBy(plans)}
              />
            </>
          ) : null}
        </Step>
      </ol>
    </Page>
  );
}

function Step(props: { number: number; name: string; isOpen: boolean; children: React.ReactNode }) {
  const { number, name, isOpen, children } = props;
  return (
    <li className={`sheet p-5 ${isOpen ? "!border-mulberry" : ""}`} aria-current={isOpen ? "step" : undefined}>
      <h2 className="font-title mb-2 text-[18px] font-semibold">
        <span className="text-second">{number}.</span> {name}
      </h2>
      {children}
    </li>
  );
}

/** Whose pages offer a new site: "“After a visit” and “After a job”, and of your standing links". */
function offeredBy(plans: string[]): string {
  const names = new Intl.ListFormat("en-GB").format(plans.map((name) => `“${name}”`));
  return plans.length === 0
    ? "your standing links, and of plans once they run"
    : `${names}, and of your standing links`;
}

/** The town that all of these lie in; "" where they lie in several. */
function commonTown(addresses: string[]): string {
  const towns = new Set(addresses.map(townOf));
  return towns.size === 1 ? [...towns][0] : "";
}

/** The town of an address: its last part without a postcode. "1 Lane, Merrow Bay" is "Merrow Bay". */
function townOf(address: string): string {
  const parts = address.split(",").map((part) => part.trim());
  return parts.findLast((part) => part !== "" && !/\d/.test(part)) ?? "";
}
