import Link from "next/link";
import { notFound } from "next/navigation";
import { may } from "@/core/access/permissions";
import { DATA_DAYS, keptUntil, LINK_DAYS, linksUntil } from "@/core/offboarding/retention";
import { sayDay } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { findOwnClient, listHandovers } from "@/features/offboarding";
import { Archive, DeleteForGood, EndOffer, Offer, TakeBack } from "@/features/offboarding/parts/Offboarding.client";
import { CopyClient } from "@/features/onboarding/parts/CopyClient.client";
import { atClient, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "A client" };

type Props = { params: Promise<{ agency: string; client: string }> };

export default async function OneClient({ params }: Props) {
  const { agency, client: clientSlug } = await params;
  const access = await requireAgency(agency, "start clients");
  const isEnding = may(access.seat, "end clients");
  const now = await clockNow();
  const seen = await withAgency(access, async (tx) => ({
    client: await findOwnClient(tx, access, { slug: clientSlug }),
    offers: await listHandovers(tx, access),
  }));
  const { client } = seen;
  if (!client || client.deletingAt !== null) notFound();
  const setting = await withClient(atClient(access, client.id), loadSetting);
  const offer = seen.offers.find((one) => one.aboutClient === client.id);
  const { slug } = access.seat;
  const { zone } = setting.client;
  const it = { slug, client: { id: client.id, name: client.name } };
  const isArchived = client.archivedAt !== null;
  return (
    <Page
      margin={
        <Note title="Export">
          <p>
            Everything you’ve set up for this client, without its secrets, people or history. You can import it
            somewhere else.
          </p>
          <form action={`/agency/${slug}/clients/${client.slug}/export`} method="post" className="mt-2">
            <button type="submit" className="button">
              Export (JSON)
            </button>
          </form>
        </Note>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/agency/${slug}`} className="button-quiet -ml-2">
          ← Clients
        </Link>
      </p>
      <h1 className="title">{client.name}</h1>
      <p className="lead">
        {client.archivedAt !== null
          ? `Archived on ${sayDay(zone, client.archivedAt, now)} by ${client.archivedBy}. Customers’ links work until ${sayDay(zone, linksUntil(client.archivedAt), now)}; everything is deleted on ${sayDay(zone, keptUntil(client.archivedAt), now)}.`
          : "Copy it, hand it over, archive it or delete it."}
      </p>
      {isArchived && isEnding ? (
        <p className="mt-5">
          <TakeBack {...it} />
        </p>
      ) : null}
      {!isArchived ? (
        <Part title="Make a copy">
          <p className="mb-3">
            Copies its services, plans, tags, hours and rules; the copied plans don’t run until you’ve checked them.
            Addresses, review pages, team and feeds aren’t copied.
          </p>
          <CopyClient slug={slug} client={it.client} />
        </Part>
      ) : null}
      {isEnding && !isArchived ? (
        <>
          <Part title="Hand it over to another agency">
            {offer ? (
              <p className="flex flex-wrap items-center gap-3">
                {offer.by} offered it on {sayDay(zone, offer.at, now)}. Nothing changes until the other agency accepts.
                <EndOffer slug={slug} id={offer.id} name={client.name} isOwn />
              </p>
            ) : (
              <>
                <p className="mb-3">
                  Once they accept, nobody at {access.seat.name} can open it. The client’s own staff keep their access.
                </p>
                <Offer {...it} />
              </>
            )}
          </Part>
          <Part title="Archive it">
            <p className="mb-3">
              It stops asking, importing and checking for reviews. Customers’ links show a polite notice for {LINK_DAYS}{" "}
              days; after {DATA_DAYS} days everything is deleted. Until then you can restore it.
            </p>
            <Archive {...it} />
          </Part>
        </>
      ) : null}
      {isEnding ? (
        <Part title="Delete it for good">
          <p className="mb-3">
            Deletes everything: people, visits, messages, answers, reviews and settings. It can’t be undone. We’ll email
            you a summary of what was deleted.
          </p>
          <DeleteForGood {...it} />
        </Part>
      ) : null}
    </Page>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-9" aria-label={title}>
      <h2 className="mb-2 text-[19px] font-semibold">{title}</h2>
      {children}
    </section>
  );
}
