import Link from "next/link";
import { capital, sayMoment } from "@/core/time/say";
import { dayNumber, formatDay, toLocal } from "@/core/time/zone";
import { agencyClients, listSeats } from "@/features/accounts";
import {
  AGENCY_PARTS,
  type AgencyTrailEntry,
  type AgencyTrailPart,
  agencyTrail,
  filterOfTrail,
  readTrailQuery,
  TRAIL_PAGE,
} from "@/features/audit";
import { deedWords, EntryDetails } from "@/features/audit/parts/EntryDetails";
import { accountActionWords, accountNameWords, accountSubjectWords, deletedWords } from "@/locales/accounts";
import { requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { DayField } from "@/ui/DayField.client";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Who did what" };

type Props = {
  params: Promise<{ agency: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const PART_WORDS: Record<AgencyTrailPart, string> = {
  agency: "the agency",
  "sign-ins": "sign-ins",
  people: "people",
  asking: "asking",
  heard: "reviews and concerns",
  "set-up": "set-up",
};

export default async function Trail({ params, searchParams }: Props) {
  const access = await requireAgency((await params).agency, "manage people");
  const wanted = readTrailQuery(await searchParams);
  const now = await clockNow();
  const seen = await withAgency(access, async (tx) => {
    const clients = await agencyClients(tx, access);
    const zone = zoneOf(clients, wanted.client);
    return {
      clients,
      zone,
      people: new Map((await listSeats(tx, access)).map(({ userId, name }) => [userId, name])),
      entries: await agencyTrail(tx, access, filterOfTrail(wanted, zone), TRAIL_PAGE + 1),
    };
  });
  const shown = seen.entries.slice(0, TRAIL_PAGE);
  const today = formatDay(dayNumber(toLocal(seen.zone, now)));
  const last = seen.entries.length > TRAIL_PAGE ? shown.at(-1) : undefined;
  const base = `/agency/${access.seat.slug}/trail`;
  const searchOf = (change: Partial<Record<"part" | "who" | "client" | "day" | "after", string | null>>) => {
    const to = new URLSearchParams();
    const { part, who, client, day } = wanted;
    for (const [name, value] of Object.entries({ part, who, client, day, ...change })) if (value) to.set(name, value);
    return to.size > 0 ? `?${to}` : "";
  };
  const link = (change: Parameters<typeof searchOf>[0]) => `${base}${searchOf(change)}`;
  const part = (name: "part" | "who" | "client", it: { label: string; any: string; choices: Choice[] }) =>
    filterPart({ ...it, value: wanted[name], href: (value) => link({ [name]: value }) });
  return (
    <Page
      margin={
        <Note title="Export">
          <p>Everything shown here, right back to the start.</p>
          <form action={`${base}/export`} method="post" className="mt-2">
            <input type="hidden" name="query" value={searchOf({})} />
            <button type="submit" className="button">
              Export as CSV
            </button>
          </form>
        </Note>
      }
    >
      <h1 className="title">Who did what</h1>
      <p className="lead">At the agency and all its clients. Nobody can change or delete an entry.</p>
      <div className="mt-4">
        <FilterSentence
          parts={[
            "Showing what ",
            part("who", {
              label: "Who",
              any: "anyone",
              choices: [...seen.people].map(([value, words]) => ({ value, words })),
            }),
            " did with ",
            part("part", {
              label: "What",
              any: "anything",
              choices: AGENCY_PARTS.map((value) => ({ value, words: PART_WORDS[value] })),
            }),
            " for ",
            part("client", { label: "Client", any: "every client", choices: namedChoices(seen.clients) }),
            wanted.day ? ` on ${wanted.day}.` : ".",
          ]}
        />
      </div>
      <form action={base} className="mt-3 mb-5 flex flex-wrap items-center gap-2">
        {Object.entries({ part: wanted.part, who: wanted.who, client: wanted.client }).map(([name, value]) =>
          value ? <input key={name} type="hidden" name={name} value={value} /> : null,
        )}
        <label htmlFor="trail-day" className="text-second text-[14px]">
          On a particular day
        </label>
        <DayField
          id="trail-day"
          name="day"
          label="On a particular day"
          defaultValue={wanted.day ?? ""}
          today={today}
          isOptional
        />
        <button type="submit" className="button">
          Show
        </button>
      </form>
      {shown.length === 0 ? (
        <Empty>{wanted.after ? "There’s nothing earlier." : "Nothing matches."}</Empty>
      ) : (
        <ol className="divide-rule border-rule divide-y border-y">
          {once(shown).map((entry) => (
            <li key={entry.id} className="grid gap-x-4 py-2.5 sm:grid-cols-[150px_1fr]">
              <span className="text-second text-[14px]">{sayMoment(seen.zone, entry.at, now)}</span>
              <span className="min-w-0 [overflow-wrap:anywhere]">
                <Entry entry={entry} />
              </span>
            </li>
          ))}
        </ol>
      )}
      {last ? (
        <p className="mt-5">
          <Link href={link({ after: `${last.at}~${last.id}` })} className="button">
            Earlier
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

/** Signing in is noted at each client that somebody may enter: here it stands once, without a client. */
function once(entries: readonly AgencyTrailEntry[]): AgencyTrailEntry[] {
  const seen = new Set<string>();
  return entries.flatMap((entry) => {
    if (entry.subject !== "sign-in") return entry;
    const key = `${entry.who} ${entry.at}`;
    if (seen.has(key)) return [];
    seen.add(key);
    const others = entries.some((other) => other !== entry && `${other.who} ${other.at}` === key);
    return others ? { ...entry, client: null } : entry;
  });
}

type Choice = { value: string; words: string };

/** In which zone times are told: the one client's that is looked at, else that of the first. */
function zoneOf(clients: readonly { id: string; zone: string }[], wanted: string | null): string {
  return (clients.find(({ id }) => id === wanted) ?? clients[0])?.zone ?? "UTC";
}

function Entry({ entry }: { entry: AgencyTrailEntry }) {
  const { who, client } = entry;
  const at = client ? (
    <>
      {" "}
      at{" "}
      <Link href={`/c/${client.slug}/set-up/changes`} className="name-link">
        {client.name}
      </Link>
    </>
  ) : null;
  if (entry.of === "agency")
    return (
      <>
        <b>{who}</b> {accountActionWords(entry.action)} {accountSubjectWords(entry.subject)}{" "}
        {entry.name === who ? "" : accountNameWords(entry)}
        {entry.name === client?.name ? null : at}
        {deletedWords(entry.details) ? <span className="text-second">: {deletedWords(entry.details)}</span> : null}
      </>
    );
  return (
    <>
      <b>{capital(who)}</b> {deedWords(entry)}
      {at}
      <EntryDetails entry={entry} />
    </>
  );
}
