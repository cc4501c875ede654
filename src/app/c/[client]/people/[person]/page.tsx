import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { sayPhone } from "@/core/contacts/phone";
import { sayAgo, sayCount, sayTime, sayWhen } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { AskThisPerson } from "@/features/asks/parts/AskThisPerson.client";
import { loadSetting } from "@/features/clients";
import { findPerson, nameOf, type Person } from "@/features/people";
import { PersonForm } from "@/features/people/parts/PersonForm.client";
import { LiveRefresh } from "@/features/shell";
import { type Story, storyOf } from "@/features/story";
import { momentsOf } from "@/features/story/moments";
import { UprightRuler } from "@/features/story/parts/UprightRuler";
import { RecordVisit } from "@/features/story/parts/VisitForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Person" };

type Props = { params: Promise<{ client: string; person: string }> };

export default async function PersonPage({ params }: Props) {
  const { client, person: id } = await params;
  const access = await requireAccess(client, "look");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const seen = await withClient(access, async (tx) => {
    const person = await findPerson(tx, access, id);
    return person && { person, setting: await loadSetting(tx), story: await storyOf(tx, access, id) };
  });
  if (!seen) notFound();
  const { person, setting, story } = seen;
  const { slug, zone, role } = access.seat;
  const name = nameOf(person);
  const moments = momentsOf(story, { slug, now, mayChange: may(role, "keep people") });
  const last = story.visits.find(({ visit }) => visit.endsAt <= now)?.visit;
  const choose = ({ id: key, name: label }: { id: string; name: string }) => ({ id: key, name: label });
  const mayKeep = may(role, "keep people");
  return (
    <>
      <LiveRefresh seconds={15} />
      <Page
        margin={
          <>
            <Note title="How to reach them">
              <p>
                {person.phone ? (
                  <Reach
                    text={sayPhone(person.phone)}
                    trouble={
                      person.textOptedOutAt
                        ? `opted out ${sayAgo(person.textOptedOutAt, now)}`
                        : person.textBouncedAt
                          ? `came back ${sayAgo(person.textBouncedAt, now)}`
                          : person.phoneTakesTexts
                            ? null
                            : "a landline: no texts"
                    }
                  />
                ) : (
                  "No phone."
                )}
              </p>
              <p>
                {person.email ? (
                  <Reach
                    text={person.email}
                    trouble={
                      person.emailOptedOutAt ? `opted out ${sayAgo(person.emailOptedOutAt, now)}` : person.emailBouncedAt ? `came back ${sayAgo(person.emailBouncedAt, now)}` : null
                    }
                  />
                ) : (
                  "No email."
                )}
              </p>
            </Note>
            {person.doNotAsk ? (
              <Note title="Do not ask">
                <p>{person.doNotAsk}</p>
              </Note>
            ) : null}
            {person.tags.length > 0 ? (
              <Note title="Tags">
                <p>{person.tags.join(", ")}</p>
              </Note>
            ) : null}
            <Note title="So far">
              <p>
                {sayCount(story.visits.filter(({ visit }) => visit.endsAt <= now).length, "visit")}, {sayCount(story.asks.length, "ask")},{" "}
                {sayCount(story.answers.length, "answer")}.
              </p>
              {person.note ? <p>{person.note}</p> : null}
            </Note>
          </>
        }
      >
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1 className="title">{titleOf(person, story, now, zone)}</h1>
            <p className="lead">{last ? `Last here ${sayAgo(last.endsAt, now)}.` : "Not been here yet."}</p>
          </div>
          {mayKeep ? (
            <div className="flex flex-wrap gap-2">
              <PersonForm slug={slug} person={{ id: person.id, name, email: person.email ?? "", phone: person.phone ?? "", note: person.note, doNotAsk: person.doNotAsk ?? "" }} />
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
                  name,
                  reach: person.email ?? person.phone ?? "",
                  last: null,
                  serviceId: last?.serviceId ?? null,
                  branchId: last?.branchId ?? null,
                  teamMemberId: last?.teamMemberId ?? null,
                  about: last?.about ?? null,
                  visitId: last && last.endsAt > now - 2 * 86_400_000 ? last.id : null,
                  canText: person.phoneTakesTexts && !person.textOptedOutAt && !person.textBouncedAt,
                }}
              />
            </div>
          ) : null}
        </div>
        <div className="mt-7">
          {moments.length === 0 ? <Empty>Nothing has happened yet. Record a visit, or ask {person.given}.</Empty> : <UprightRuler zone={zone} moments={moments} now={now} />}
        </div>
      </Page>
    </>
  );
}

function Reach({ text, trouble }: { text: string; trouble: string | null }) {
  return (
    <>
      <span className={`[overflow-wrap:anywhere] ${trouble ? "line-through" : "text-ink font-semibold"}`}>{text}</span>
      {trouble ? <span className="text-ochre-deep block">{trouble}</span> : null}
    </>
  );
}

/** What is so with this person, as the page's title. */
function titleOf(person: Person, story: Story, now: number, zone: string): string {
  const name = nameOf(person);
  const concern = story.concerns.find(({ state }) => state !== "closed");
  if (concern) return `${name} is waiting to hear from you.`;
  const [ask] = story.asks;
  const planned = story.messages.find(({ state, direction }) => state === "planned" && direction === "out");
  if (planned?.dueAt) return `${name} will be ${planned.step === 0 ? "asked" : "reminded"} ${sayWhen(zone, planned.dueAt, now)}.`;
  const [answer] = story.answers.map(({ answer: each }) => each).sort((a, b) => b.givenAt - a.givenAt);
  if (answer?.rating) return `${name} answered: ${answer.rating} of 5.`;
  if (person.textOptedOutAt || person.emailOptedOutAt) return `${name} wants no more messages.`;
  if (ask && ask.sentCount > 0) return `${name} was asked ${sayAgo(ask.lastSentAt ?? ask.createdAt, now)} and has not answered.`;
  const [visit] = story.visits;
  if (visit?.visit.decision === "left out") return `${name} was left out last time.`;
  return story.visits.length === 0 ? name : `${name} has been here ${sayCount(story.visits.length, "time")}.`;
}
