import Link from "next/link";
import { notFound } from "next/navigation";
import { z } from "zod";
import { sayAgo } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, HOUR, isZone, toLocal } from "@/core/time/zone";
import { findDraft } from "@/features/onboarding";
import { StartForm } from "@/features/onboarding/parts/StartForm.client";
import { requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Start a client" };

type Props = { params: Promise<{ agency: string; draft: string }> };

export default async function StartClient({ params }: Props) {
  const { agency, draft: id } = await params;
  const access = await requireAgency(agency, "start clients");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const draft = await withAgency(access, (tx) => findDraft(tx, access, id));
  if (!draft) notFound();
  const { values } = draft;
  const zone = isZone(values.zone) ? values.zone : "UTC";
  return (
    <Page
      margin={
        <>
          <Note title="Kept as you go">
            <p>
              Last touched by {draft.by} {sayAgo(draft.updatedAt, now)}. Leave it and take it up again from Clients.
            </p>
          </Note>
          <Note title="What comes next">
            <p>
              The plan is checked: review links, wording, hours. You can rehearse it on a list or on booked visits, and
              see every message it would send. Then you let it run.
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
      <h1 className="title">Start a client: fill in the blanks.</h1>
      <p className="lead mb-6">What is usual in the trade is filled in already.</p>
      <StartForm
        slug={access.seat.slug}
        id={draft.id}
        draft={values}
        anchorAt={fromLocal(zone, dayNumber(toLocal(zone, now)) * DAY + 11 * HOUR)}
        zones={Intl.supportedValuesOf("timeZone")}
      />
    </Page>
  );
}
