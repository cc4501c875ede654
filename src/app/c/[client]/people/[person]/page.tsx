import Link from "next/link";
import { notFound, redirect } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { sayPhone } from "@/core/contacts/phone";
import { capital, sayAgo, sayCount, sayTime, sayWhen } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { AskThisPerson } from "@/features/asks/parts/AskThisPerson.client";
import { changesOf } from "@/features/audit";
import { loadSetting, todayOf } from "@/features/clients";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { addresseeOf, findPerson, findWards, guardiansOf, nameOf, type Person, recipientZone } from "@/features/people";
import { housemates, mergesOf } from "@/features/people-admin";
import { quitHousehold } from "@/features/people-admin/actions";
import { UndoMerge } from "@/features/people-admin/parts/MatchButtons.client";
import { PersonForm } from "@/features/people-admin/parts/PersonForm.client";
import { ErasePerson, RestSentence } from "@/features/people-admin/parts/RecordButtons.client";
import { momentsOf, type Timeline, timelineOf } from "@/features/timeline";
import { UprightRuler } from "@/features/timeline/parts/UprightRuler";
import { RecordVisit } from "@/features/timeline/parts/VisitForms.client";
import { gatewayWords, optOutWords } from "@/locales/asking";
import { auditActionWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Person" };

type Props = { params: Promise<{ client: string; person: string }> };

export default async function PersonPage({ params }: Props) {
  const { client, person: id } = await params;
  const access = await requireAccess(client, "view");
  if (!z.uuid().safeParse(id).success) notFound();
  const now = await clockNow();
  const seen = await withClient(access, async (tx) => {
    const person = await findPerson(tx, access, id);
    if (!person) return null;
    return {
      person,
      setting: await loadSetting(tx),
      story: await timelineOf(tx, access, id),
      guardian: (await guardiansOf(tx, [person])).get(person.guardianId ?? "") ?? null,
      wards: await findWards(tx, access, id),
      mates: await housemates(tx, access, person),
      merges: await mergesOf(tx, access, id),
      changes: await changesOf(tx, access, id),
    };
  });
  if (!seen) notFound();
  const { person, setting, story, guardian, wards, mates, merges, changes } = seen;
  if (person.mergedInto) redirect(`/c/${client}/people/${person.mergedInto}`);
  const addressee = addresseeOf(person, guardian, todayOf(setting, now));
  const theirZone = addressee && recipientZone(addressee);
  const rests = person.restUntil !== null && person.restUntil > now;
  const servedBy = served(story);
  const { slug, zone, role } = access.seat;
  const name = nameOf(person);
  const moments = momentsOf(story, { slug, now, mayChange: may(role, "edit people") });
  const last = story.visits.find(({ visit }) => visit.endsAt <= now)?.visit;
  const choose = ({ id: key, name: label }: { id: string; name: string }) => ({ id: key, name: label });
  const mayKeep = may(role, "edit people");
  return (
    <>
      <LiveRefresh seconds={15} />
      <Page
        margin={
          <>
            <Note title="How to reach them">
              {addressee === null ? (
                <p className="text-vermilion-deep">
                  A minor, and no guardian is known: nothing is sent. Add the guardian under “Change details”.
                </p>
              ) : addressee.id !== person.id ? (
                <p>
                  Messages go to the guardian,{" "}
                  <Link href={`/c/${slug}/people/${addressee.id}`}>{nameOf(addressee)}</Link>.
                </p>
              ) : null}
              <p>
                {person.phone ? (
                  <Reach text={sayPhone(person.phone)} problem={textProblem(person, now)} />
                ) : (
                  "No phone."
                )}
              </p>
              <p>{person.email ? <Reach text={person.email} problem={emailProblem(person, now)} /> : "No email."}</p>
              {theirZone && theirZone !== zone && addressee?.phone ? (
                <p>
                  It is {sayTime(theirZone, now)} where they are ({theirZone.replaceAll("_", " ")}): texts wait for 8:00
                  to 21:00 there.
                </p>
              ) : null}
              <p>{consentWords(person, zone, now)}</p>
              {mayKeep && (person.emailBouncedAt || person.textBouncedAt) ? (
                <Link href={`/c/${slug}/people/addresses`}>Fix addresses</Link>
              ) : null}
            </Note>
            <Note title="When they may be asked">
              <p>
                {person.doNotAsk ? (
                  <>
                    <b>Never:</b> {person.doNotAsk}
                  </>
                ) : (
                  <>
                    Not before{" "}
                    {mayKeep ? (
                      <RestSentence
                        slug={slug}
                        id={person.id}
                        words={rests ? sayWhen(zone, person.restUntil ?? now, now) : "plans say so"}
                        day={rests ? formatDay(dayNumber(toLocal(zone, person.restUntil ?? now))) : ""}
                        reason={person.restReason ?? ""}
                      />
                    ) : rests ? (
                      sayWhen(zone, person.restUntil ?? now, now)
                    ) : (
                      "plans say so"
                    )}
                    {rests && person.restReason ? `: ${person.restReason}` : ""}.
                  </>
                )}
              </p>
              {person.tags.length > 0 ? <p>Tags: {person.tags.join(", ")}.</p> : null}
            </Note>
            <Note title="Who they are">
              {person.externalId ? <p>Number {person.externalId} in your books.</p> : null}
              {person.birthDate ? <p>Born {person.birthDate}.</p> : null}
              {person.language ? <p>Reads {LANGUAGE_WORDS[person.language] ?? person.language}.</p> : null}
              {person.postalAddress ? <p>{person.postalAddress}</p> : null}
              {servedBy.length > 0 ? <p>Served by {servedBy.join(", ")}.</p> : null}
              {wards.length > 0 ? (
                <p>
                  Guardian of{" "}
                  {wards.map((ward, index) => (
                    <span key={ward.id}>
                      {index > 0 ? ", " : ""}
                      <Link href={`/c/${slug}/people/${ward.id}`}>{nameOf(ward)}</Link>
                    </span>
                  ))}
                  .
                </p>
              ) : null}
              {mates.length > 0 ? (
                <p>
                  One household with{" "}
                  {mates.map((mate, index) => (
                    <span key={mate.id}>
                      {index > 0 ? ", " : ""}
                      <Link href={`/c/${slug}/people/${mate.id}`}>{nameOf(mate)}</Link>
                    </span>
                  ))}
                  .{" "}
                  {mayKeep ? (
                    <ConfirmButton className="button-quiet" action={quitHousehold.bind(null, slug, person.id)}>
                      Take out
                    </ConfirmButton>
                  ) : null}
                </p>
              ) : null}
              <p>
                Came {sayAgo(person.createdAt, now)}: {person.source}.
              </p>
              {merges.map((merge) => (
                <p key={merge.id}>
                  Made one with {nameOf((merge.before as { gone: Person }).gone)} {sayAgo(merge.at, now)}.{" "}
                  {mayKeep ? <UndoMerge slug={slug} id={merge.id} /> : null}
                </p>
              ))}
            </Note>
            <Note title="So far">
              <p>
                {capital(sayCount(story.visits.filter(({ visit }) => visit.endsAt <= now).length, "visit"))},{" "}
                {sayCount(story.asks.length, "ask")}, {sayCount(story.answers.length, "answer")}.
              </p>
              <p>
                <Link href={`/c/${slug}/people/${person.id}/why`}>Why they are asked or not</Link>
              </p>
              {person.note ? <p>{person.note}</p> : null}
            </Note>
            {changes.length > 0 ? (
              <Note title="Changes">
                <ul>
                  {changes.map((change) => (
                    <li key={change.id}>
                      {change.who} {auditActionWords(change.action)}{" "}
                      {Array.isArray(change.details) ? `(${change.details.map(fieldWords).join(", ")}) ` : ""}
                      {sayAgo(change.at, now)}
                    </li>
                  ))}
                </ul>
              </Note>
            ) : null}
            {may(role, "export people") || may(role, "erase people") ? (
              <Note title="Privacy">
                {may(role, "export people") ? (
                  <p>
                    <a href={`/c/${slug}/people/${person.id}/all.json`} download>
                      Everything known of them
                    </a>{" "}
                    as a file (JSON).
                  </p>
                ) : null}
                {may(role, "erase people") ? (
                  <p>
                    <ErasePerson slug={slug} id={person.id} name={name} /> this person for good.
                  </p>
                ) : null}
              </Note>
            ) : null}
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
          {moments.length === 0 ? (
            <Empty>Nothing has happened yet. Record a visit, or ask {person.given}.</Empty>
          ) : (
            <UprightRuler zone={zone} moments={moments} now={now} />
          )}
        </div>
      </Page>
    </>
  );
}

function Reach({ text, problem }: { text: string; problem: string | null }) {
  return (
    <>
      <span className={`[overflow-wrap:anywhere] ${problem ? "line-through" : "text-ink font-semibold"}`}>{text}</span>
      {problem ? <span className="text-ochre-deep block">{problem}</span> : null}
    </>
  );
}

function emailProblem(person: Person, now: number): string | null {
  if (person.emailOptedOutAt)
    return `opted out ${sayAgo(person.emailOptedOutAt, now)}${person.emailOptedOutHow ? `, ${optOutWords(person.emailOptedOutHow)}` : ""}`;
  return person.emailBouncedAt
    ? `came back ${sayAgo(person.emailBouncedAt, now)}${person.emailBouncedWhy ? `: ${gatewayWords(person.emailBouncedWhy)}` : ""}`
    : null;
}

function textProblem(person: Person, now: number): string | null {
  if (person.textOptedOutAt)
    return `opted out ${sayAgo(person.textOptedOutAt, now)}${person.textOptedOutHow ? `, ${optOutWords(person.textOptedOutHow)}` : ""}`;
  if (person.textBouncedAt)
    return `came back ${sayAgo(person.textBouncedAt, now)}${person.textBouncedWhy ? `: ${gatewayWords(person.textBouncedWhy)}` : ""}`;
  return person.phoneTakesTexts ? null : "a landline: no texts";
}

function consentWords({ consent }: Person, zone: string, now: number): string {
  if (!consent) return "Nothing is noted of their consent.";
  return `${consent.given ? "Agreed" : "Did not agree"} to be written to, ${sayWhen(zone, consent.at, now)} (${consent.source}).`;
}

const LANGUAGE_WORDS: Record<string, string> = {
  en: "English",
  es: "Spanish",
  fr: "French",
  de: "German",
  pt: "Portuguese",
};

const FIELD_WORDS: Record<string, string> = {
  given: "first name",
  family: "last name",
  phoneTakesTexts: "kind of phone",
  doNotAsk: "never ask",
  externalId: "number",
  birthDate: "birth date",
  postalAddress: "address",
  guardianId: "guardian",
};
const fieldWords = (field: string) => FIELD_WORDS[field] ?? field;

/** Who served them how often, most first. */
function served(story: Timeline): string[] {
  const counts = new Map<string, number>();
  for (const { member } of story.visits) if (member) counts.set(member, (counts.get(member) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([member, count]) => (count > 1 ? `${member} (${count} times)` : member));
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
function titleOf(person: Person, story: Timeline, now: number, zone: string): string {
  const name = nameOf(person);
  const concern = story.concerns.find(({ state }) => state !== "closed");
  if (concern) return `${name} is waiting to hear from you.`;
  const [ask] = story.asks;
  const planned = story.messages.find(({ state, direction }) => state === "planned" && direction === "out");
  if (planned?.dueAt)
    return `${name} will be ${planned.step === 0 ? "asked" : "reminded"} ${sayWhen(zone, planned.dueAt, now)}.`;
  const [answer] = story.answers.map(({ answer: each }) => each).sort((a, b) => b.givenAt - a.givenAt);
  if (answer?.rating) return `${name} answered: ${answer.rating} of 5.`;
  if (person.textOptedOutAt || person.emailOptedOutAt) return `${name} wants no more messages.`;
  if (ask && ask.sentCount > 0)
    return `${name} was asked ${sayAgo(ask.lastSentAt ?? ask.createdAt, now)} and has not answered.`;
  const [visit] = story.visits;
  if (visit?.visit.decision === "left out") return `${name} was left out last time.`;
  return story.visits.length === 0 ? name : `${name} has been here ${sayCount(story.visits.length, "time")}.`;
}
