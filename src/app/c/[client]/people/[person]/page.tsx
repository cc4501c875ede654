import { notFound, redirect } from "next/navigation";
import { z } from "zod";
import { sayAgo, sayCount, sayTime, sayWhen } from "@/core/time/say";
import { DAY, dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { AskThisPerson } from "@/features/asks/parts/AskThisPerson.client";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { nameOf, type Person } from "@/features/people";
import { loadPersonView, type PersonView } from "@/features/people-admin";
import { PersonForm } from "@/features/people-admin/parts/PersonForm.client";
import { PersonMargin } from "@/features/people-admin/parts/PersonMargin";
import { momentsOf } from "@/features/timeline/parts/moments";
import { UprightRuler } from "@/features/timeline/parts/UprightRuler";
import { RecordVisit } from "@/features/timeline/parts/VisitForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { Empty, Page } from "@/ui/Page";

export const metadata = { title: "Person" };

type Props = { params: Promise<{ client: string; person: string }> };

export default async function PersonPage({ params }: Props) {
  const { client, person: id } = await params;
  const access = await requireAccess(client, "see people");
  if (!z.uuid().safeParse(id).success) notFound();
  const view = await loadPersonView(access, id, await clockNow());
  if (!view) notFound();
  const { person, timeline, slug, zone, now } = view;
  if (person.mergedInto) redirect(`/c/${client}/people/${person.mergedInto}`);
  const moments = momentsOf(timeline, { slug, now, mayChange: view.may.edit });
  const last = lastVisit(view);
  return (
    <>
      <LiveRefresh seconds={15} />
      <Page margin={<PersonMargin view={view} />}>
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1 className="title">{titleOf(view)}</h1>
            <p className="lead">{last ? `Last visit ${sayAgo(last.endsAt, now)}.` : "Hasn’t been in yet."}</p>
          </div>
          {view.may.edit ? <PersonButtons view={view} /> : null}
        </div>
        <div className="mt-7">
          {moments.length === 0 ? (
            <Empty>Nothing here yet. Record a visit, or ask {person.given}.</Empty>
          ) : (
            <UprightRuler zone={zone} moments={moments} now={now} />
          )}
        </div>
      </Page>
    </>
  );
}

const lastVisit = ({ timeline, now }: PersonView) => timeline.visits.find(({ visit }) => visit.endsAt <= now)?.visit;

/** A visit stands for the next ask for two days. */
const FRESH = 2 * DAY;

function PersonButtons({ view }: { view: PersonView }) {
  const { person, guardian, setting, slug, zone, now } = view;
  const last = lastVisit(view);
  const choose = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return (
    <div className="flex flex-wrap gap-2">
      <PersonForm
        slug={slug}
        tags={setting.tags.map(({ name: tag }) => tag)}
        person={detailsOf(person, guardian, setting.tags)}
      />
      <RecordVisit
        slug={slug}
        personId={person.id}
        services={setting.services.map(choose)}
        branches={setting.branches.map(choose)}
        team={setting.team.map(choose)}
        day={formatDay(dayNumber(toLocal(zone, now)))}
        time={sayTime(zone, now)}
        about={last?.about ?? ""}
      />
      <AskThisPerson
        person={{
          id: person.id,
          name: nameOf(person),
          reach: person.email ?? person.phone ?? "",
          last: null,
          serviceId: last?.serviceId ?? null,
          branchId: last?.branchId ?? null,
          teamMemberId: last?.teamMemberId ?? null,
          about: last?.about ?? null,
          visitId: last && last.endsAt > now - FRESH ? last.id : null,
          canText: person.phoneTakesTexts && !person.textOptedOutAt && !person.textBouncedAt,
        }}
      />
    </div>
  );
}

function detailsOf(person: Person, guardian: Person | null, tags: readonly { name: string }[]) {
  return {
    id: person.id,
    name: nameOf(person),
    email: person.email ?? "",
    phone: person.phone ?? "",
    note: person.note,
    doNotAsk: person.doNotAsk ?? "",
    externalId: person.externalId ?? "",
    language: person.language ?? "",
    birthDate: person.birthDate ?? "",
    postalAddress: person.postalAddress ?? "",
    prefers: person.prefers ?? "",
    zone: person.zone ?? "",
    consent: person.consent ? (person.consent.given ? "yes" : "no") : "",
    guardianName: guardian ? nameOf(guardian) : "",
    guardianReach: guardian?.phone ?? guardian?.email ?? "",
    tags: person.tags.filter((tag) => tags.some(({ name }) => name === tag)),
  };
}

/** What is so with this person, as the page's title. */
function titleOf({ person, timeline, now, zone }: PersonView): string {
  const name = nameOf(person);
  const concern = timeline.concerns.find(({ state }) => state !== "closed");
  if (concern) return `${name} is waiting to hear from you.`;
  const [ask] = timeline.asks;
  const planned = timeline.messages.find(({ state, direction }) => state === "planned" && direction === "out");
  if (planned?.dueAt)
    return `${name} will be ${planned.step === 0 ? "asked" : "reminded"} ${sayWhen(zone, planned.dueAt, now)}.`;
  const [answer] = timeline.answers.map(({ answer: each }) => each).sort((a, b) => b.givenAt - a.givenAt);
  if (answer?.rating) return `${name} answered: ${answer.rating} of 5.`;
  if (person.textOptedOutAt || person.emailOptedOutAt) return `${name} has opted out.`;
  if (ask && ask.sentCount > 0)
    return `${name} was asked ${sayAgo(ask.lastSentAt ?? ask.createdAt, now)} and hasn’t answered.`;
  const [visit] = timeline.visits;
  if (visit?.visit.decision === "left out") return `${name} was left out last time.`;
  return timeline.visits.length === 0 ? name : `${name} has been here ${sayCount(timeline.visits.length, "time")}.`;
}
