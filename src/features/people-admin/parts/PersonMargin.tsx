import { sayPhone } from "@/core/contacts/phone";
import { capital, sayAgo, sayCount, sayTime, sayWhen } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { isLanguage, LANGUAGE_NAMES } from "@/core/words/languages";
import { nameOf, type Person, recipientZones } from "@/features/people";
import type { Timeline } from "@/features/timeline";
import { gatewayWords, optOutWords } from "@/locales/asking";
import { auditSentence } from "@/locales/operations";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { quitHousehold } from "../actions";
import type { PersonView } from "../personView";
import { UndoMerge } from "./MatchButtons.client";
import { ErasePerson, RestSentence } from "./RecordButtons.client";

/** What is known of a person: how to reach them, when they may be asked, who they are, what changed. */
export function PersonMargin({ view }: { view: PersonView }) {
  return (
    <>
      <HowToReach view={view} />
      <WhenAsked view={view} />
      <WhoTheyAre view={view} />
      <SoFar view={view} />
      <Changes view={view} />
      <Privacy view={view} />
    </>
  );
}

function HowToReach({ view }: { view: PersonView }) {
  const { person, addressee, conversation, setting, slug, zone, now, may } = view;
  const zones = addressee?.phone ? recipientZones(addressee, setting.client.country) : [];
  return (
    <Note title="How to reach them">
      {addressee === null ? (
        <p className="text-vermilion-deep">
          Under age, with no guardian on file, so nothing is sent. Add one under “Edit details”.
        </p>
      ) : addressee.id !== person.id ? (
        <p>
          Messages go to the guardian, <Link href={`/c/${slug}/people/${addressee.id}`}>{nameOf(addressee)}</Link>.
        </p>
      ) : null}
      <p>{person.phone ? <Reach text={sayPhone(person.phone)} problem={textProblem(person, now)} /> : "No phone."}</p>
      <p>{person.email ? <Reach text={person.email} problem={emailProblem(person, now)} /> : "No email."}</p>
      {zones.length > 1 ? (
        <p>
          Their number could be in any of {zones.length} time zones. Texts go out when it’s between 8:00 and 21:00 in
          all of them. Set their time zone, or add a postal address, to reach them earlier.
        </p>
      ) : zones.length === 1 && zones[0] !== zone ? (
        <p>
          It’s {sayTime(zones[0], now)} where they are ({zones[0].replaceAll("_", " ")}). Texts go out between 8:00 and
          21:00 there.
        </p>
      ) : null}
      <p>{consentWords(person, zone, now)}</p>
      {may.edit && (person.emailBouncedAt || person.textBouncedAt) ? (
        <Link href={`/c/${slug}/people/addresses`}>Fix addresses</Link>
      ) : null}
      {conversation ? (
        <p>
          They wrote {sayAgo(conversation.heardAt, now)}:{" "}
          <Link href={`/c/${slug}/heard/conversations/${conversation.id}`}>
            {conversation.waitingSince === null ? "see the conversation" : "answer them"}
          </Link>
        </p>
      ) : null}
    </Note>
  );
}

function WhenAsked({ view: { person, slug, zone, now, may } }: { view: PersonView }) {
  const rests = person.restUntil !== null && person.restUntil > now;
  return (
    <Note title="When they can be asked">
      <p>
        {person.doNotAsk ? (
          <>
            <b>Never:</b> {person.doNotAsk}
          </>
        ) : (
          <>
            Can be asked{" "}
            {may.edit ? (
              <RestSentence
                slug={slug}
                id={person.id}
                words={rests ? sayWhen(zone, person.restUntil ?? now, now) : "as soon as a plan allows"}
                day={rests ? formatDay(dayNumber(toLocal(zone, person.restUntil ?? now))) : ""}
                reason={person.restReason ?? ""}
              />
            ) : rests ? (
              sayWhen(zone, person.restUntil ?? now, now)
            ) : (
              "as soon as a plan allows"
            )}
            {rests && person.restReason ? `: ${person.restReason}` : ""}.
          </>
        )}
      </p>
      {person.tags.length > 0 ? <p>Tags: {person.tags.join(", ")}.</p> : null}
    </Note>
  );
}

function WhoTheyAre({ view }: { view: PersonView }) {
  const { person, timeline, wards, mates, merges, slug, now, may } = view;
  const servedBy = served(timeline);
  const reads = person.language;
  return (
    <Note title="Who they are">
      {person.externalId ? <p>Customer number {person.externalId}.</p> : null}
      {person.birthDate ? <p>Born {person.birthDate}.</p> : null}
      {reads ? <p>Language: {isLanguage(reads) ? LANGUAGE_NAMES[reads] : reads}.</p> : null}
      {person.postalAddress ? <p>{person.postalAddress}</p> : null}
      {servedBy.length > 0 ? <p>Usually sees {servedBy.join(", ")}.</p> : null}
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
          In a household with{" "}
          {mates.map((mate, index) => (
            <span key={mate.id}>
              {index > 0 ? ", " : ""}
              <Link href={`/c/${slug}/people/${mate.id}`}>{nameOf(mate)}</Link>
            </span>
          ))}
          .{" "}
          {may.edit ? (
            <ConfirmButton className="button-quiet" action={quitHousehold.bind(null, slug, person.id)}>
              {" "}
              Remove from household{" "}
            </ConfirmButton>
          ) : null}
        </p>
      ) : null}
      <p>
        Added {sayAgo(person.createdAt, now)}: {person.source}.
      </p>
      {merges.map((merge) => (
        <p key={merge.id}>
          Merged with {nameOf((merge.before as { gone: Person }).gone)} {sayAgo(merge.at, now)}.{" "}
          {may.edit ? <UndoMerge slug={slug} id={merge.id} /> : null}
        </p>
      ))}
    </Note>
  );
}

function SoFar({ view: { person, timeline, slug, now } }: { view: PersonView }) {
  return (
    <Note title="So far">
      <p>
        {capital(sayCount(timeline.visits.filter(({ visit }) => visit.endsAt <= now).length, "visit"))},{" "}
        {sayCount(timeline.asks.length, "ask")}, {sayCount(timeline.answers.length, "answer")}.
      </p>
      <p>
        <Link href={`/c/${slug}/people/${person.id}/why`}>Why they’re asked or not</Link>
      </p>
      {person.note ? <p>{person.note}</p> : null}
    </Note>
  );
}

/** "corrected an address of Odette". */
function changeWords({ action, subject }: PersonView["changes"][number], { given }: Person): string {
  const { before, name, after } = auditSentence({ action, subject, name: given || null, count: 1 });
  return `${before}${name}${after}`;
}

function Changes({ view: { changes, person, now } }: { view: PersonView }) {
  if (changes.length === 0) return null;
  return (
    <Note title="Changes">
      <ul>
        {changes.map((change) => (
          <li key={change.id}>
            {change.who} {changeWords(change, person)}{" "}
            {Array.isArray(change.details) ? `(${change.details.map(fieldWords).join(", ")}) ` : ""}
            {sayAgo(change.at, now)}
          </li>
        ))}
      </ul>
    </Note>
  );
}

function Privacy({ view: { person, slug, may } }: { view: PersonView }) {
  if (!may.export && !may.erase) return null;
  return (
    <Note title="Privacy">
      {may.export ? (
        <p>
          <a href={`/c/${slug}/people/${person.id}/all.json`} download>
            Everything we hold about them
          </a>{" "}
          as a file (JSON).
        </p>
      ) : null}
      {may.erase ? (
        <p>
          <ErasePerson slug={slug} id={person.id} name={nameOf(person)} /> this person permanently.
        </p>
      ) : null}
    </Note>
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
    ? `bounced ${sayAgo(person.emailBouncedAt, now)}${person.emailBouncedWhy ? `: ${gatewayWords(person.emailBouncedWhy)}` : ""}`
    : null;
}

function textProblem(person: Person, now: number): string | null {
  if (person.textOptedOutAt)
    return `opted out ${sayAgo(person.textOptedOutAt, now)}${person.textOptedOutHow ? `, ${optOutWords(person.textOptedOutHow)}` : ""}`;
  if (person.textBouncedAt)
    return `bounced ${sayAgo(person.textBouncedAt, now)}${person.textBouncedWhy ? `: ${gatewayWords(person.textBouncedWhy)}` : ""}`;
  return person.phoneTakesTexts ? null : "a landline: no texts";
}

function consentWords({ consent }: Person, zone: string, now: number): string {
  if (!consent) return "No consent recorded.";
  return `${consent.given ? "Agreed" : "Said no"} to messages, ${sayWhen(zone, consent.at, now)} (${consent.source}).`;
}

const FIELD_WORDS: Record<string, string> = {
  given: "first name",
  family: "last name",
  phoneTakesTexts: "phone type",
  doNotAsk: "never ask",
  externalId: "number",
  birthDate: "birth date",
  postalAddress: "address",
  guardianId: "guardian",
};
const fieldWords = (field: string) => FIELD_WORDS[field] ?? field;

/** Who served them how often, most first. */
function served(timeline: Timeline): string[] {
  const counts = new Map<string, number>();
  for (const { member } of timeline.visits) if (member) counts.set(member, (counts.get(member) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([member, count]) => (count > 1 ? `${member} (${count} times)` : member));
}
