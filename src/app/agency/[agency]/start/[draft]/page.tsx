import Link from "next/link";
import { notFound } from "next/navigation";
import { z } from "zod";
import { type Difference, differences } from "@/core/onboarding/proposal";
import { sayAgo } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, HOUR, isZone, toLocal } from "@/core/time/zone";
import { findDraft, LINK_DAYS } from "@/features/onboarding";
import { ClientLink, SettleFilled } from "@/features/onboarding/parts/ClientLink.client";
import { StartForm } from "@/features/onboarding/parts/StartForm.client";
import { countryNames } from "@/locales/countries";
import { requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Start a client" };

const FIELD_WORDS: Record<Difference["field"], string> = {
  name: "Name",
  postalAddress: "Postal address",
  senderEmail: "Sender email",
  branches: "Branches",
  services: "Services",
  team: "Team",
  days: "Days",
  opens: "From",
  closes: "To",
};

type Props = { params: Promise<{ agency: string; draft: string }> };

export default async function StartClient({ params }: Props) {
  const { agency, draft: id } = await params;
  const access = await requireAgency(agency, "start clients");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const draft = await withAgency(access, (tx) => findDraft(tx, access, id));
  if (!draft) notFound();
  const { values } = draft;
  const changes = draft.proposed ? differences(values, draft.proposed) : [];
  const isOpen = draft.linkExpiresAt !== null && draft.linkExpiresAt > now;
  const zone = isZone(values.zone) ? values.zone : "UTC";
  return (
    <Page
      margin={
        <>
          <Note title="Saved as you go">
            <p>
              Last changed by {draft.by} {sayAgo(draft.updatedAt, now)}. You can leave it and come back from Clients.
            </p>
          </Note>
          {draft.proposed ? (
            <Note title="The client’s answers">
              <p>
                {draft.doneAt !== null
                  ? `They sent it in ${sayAgo(draft.doneAt, now)}.`
                  : `Not finished yet; last changed ${sayAgo(draft.proposedAt ?? now, now)}.`}
              </p>
              {changes.length === 0 ? <p>It’s the same as what you have.</p> : null}
              <dl className="space-y-2">
                {changes.map(({ field, before, after }) => (
                  <div key={field}>
                    <dt className="font-semibold">{FIELD_WORDS[field]}</dt>
                    <dd className="[overflow-wrap:anywhere]">{after || "empty"}</dd>
                    {before ? (
                      <dd className="text-second text-[14px] [overflow-wrap:anywhere]">instead of {before}</dd>
                    ) : null}
                  </div>
                ))}
              </dl>
              <SettleFilled slug={access.seat.slug} id={draft.id} />
            </Note>
          ) : null}
          <Note title="Or let the client fill it in">
            <p>
              Send them a link. It works on a phone, without an account, for {LINK_DAYS} days. Nothing changes until
              you’ve checked what they wrote.
            </p>
            <ClientLink slug={access.seat.slug} id={draft.id} isOpen={isOpen} />
          </Note>
          <Note title="What happens next">
            <p>
              We check the plan: review links, words and hours. You can rehearse it on a list or on booked visits and
              see every message it would send. Then you start it.
            </p>
          </Note>
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/agency/${access.seat.slug}`} className="button-quiet -ml-2">
          ← Clients
        </Link>
      </p>
      <h1 className="title">Start a client: fill in the gaps.</h1>
      <p className="lead mb-6">We’ve filled in what’s usual for the trade.</p>
      <StartForm
        key={draft.proposed ? "with" : draft.updatedAt}
        slug={access.seat.slug}
        id={draft.id}
        draft={values}
        anchorAt={fromLocal(zone, dayNumber(toLocal(zone, now)) * DAY + 11 * HOUR)}
        zones={Intl.supportedValuesOf("timeZone").map((zone) => ({ value: zone, words: zone.replaceAll("_", " ") }))}
        countries={countryNames("en").map(({ code, name }) => ({ value: code, words: name }))}
      />
    </Page>
  );
}
