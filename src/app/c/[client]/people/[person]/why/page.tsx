import { notFound } from "next/navigation";
import { z } from "zod";
import { sayMoment } from "@/core/time/say";
import { whyPerson } from "@/features/asks";
import { Remedies, Trace } from "@/features/asks/parts/Trace";
import { loadSetting } from "@/features/clients";
import { nameOf } from "@/features/people";
import { reasonWords } from "@/locales/asking";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Why" };

type Props = { params: Promise<{ client: string; person: string }> };

export default async function WhyPerson({ params }: Props) {
  const { client, person: personId } = await params;
  const access = await requireAccess(client, "see people");
  if (!z.uuid().safeParse(personId).success) notFound();
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const why = await whyPerson(tx, access, setting, personId, now);
    return why && { setting, ...why };
  });
  if (!seen) notFound();
  const { person, plans, latest, setting } = seen;
  const asked = plans.filter((one) => one.asked).length;
  return (
    <Page>
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/people/${person.id}`} className="button-quiet -ml-2">
          ← {nameOf(person)}
        </Link>
      </p>
      <h1 className="title">
        {asked > 0
          ? `If ${person.given} had a visit now, ${asked === 1 ? "one plan" : `${asked} plans`} would ask.`
          : `If ${person.given} had a visit now, no plan would ask.`}
      </h1>
      <p className="lead">What each plan would decide about a visit like their last one, if it ended right now.</p>
      {plans.length === 0 ? (
        <div className="mt-5">
          <Empty
            action={
              <Link href={`/c/${slug}/asking`} className="button">
                See the plans
              </Link>
            }
          >
            No plans are running.
          </Empty>
        </div>
      ) : null}
      {plans.map(({ plan, begins, asked: would, trace, objecting }) => (
        <section key={plan.id} className="sheet mt-5 p-5" aria-label={plan.name}>
          <h2 className="text-[18px] font-semibold">
            <Link href={`/c/${slug}/asking/plans/${plan.id}`} className="name-link">
              {plan.name}
            </Link>{" "}
            {would ? "would ask" : "wouldn’t ask"}
          </h2>
          <p className="text-second">It starts when {begins}.</p>
          <div className="mt-2">
            <Trace lines={trace} />
          </div>
          {objecting.length > 0 ? (
            <>
              <h3 className="mt-3 font-sans text-[15px] font-semibold tracking-normal">What would need to change</h3>
              <Remedies lines={objecting} />
            </>
          ) : null}
        </section>
      ))}
      {latest.length > 0 ? (
        <section className="mt-8" aria-label="Visits so far">
          <h2 className="text-[18px] font-semibold">What we decided about each visit</h2>
          <ul className="divide-rule border-rule mt-2 divide-y border-y">
            {latest.map((visit) => (
              <li key={visit.id} className="grid gap-x-4 py-2 sm:grid-cols-[170px_1fr]">
                <span className="text-second text-[14px]">{sayMoment(zone, visit.endsAt, now)}</span>
                <Link href={`/c/${slug}/asking/why/${visit.id}`} className="name-link">
                  {setting.services.find(({ id }) => id === visit.serviceId)?.name ?? "Visit"}:{" "}
                  {visit.decision === "asked"
                    ? "asked"
                    : visit.reason
                      ? `left out, ${reasonWords(visit.reason)}`
                      : visit.waitsFor
                        ? "waiting for a turn"
                        : "not decided yet"}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </Page>
  );
}
