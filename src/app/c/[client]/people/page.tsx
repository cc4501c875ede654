import type { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayPhone } from "@/core/contacts/phone";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { openNames } from "@/features/intake";
import {
  afterKey,
  countListed,
  countPeople,
  directoryQuery,
  keyAfter,
  listPeople,
  listViews,
  PEOPLE_PAGE,
  type Person,
  queryString,
} from "@/features/people";
import { KeepView } from "@/features/people/parts/PeopleFilters.client";
import { PeopleSearch } from "@/features/people/parts/PeopleSearch.client";
import { peopleFilters, stateClause } from "@/features/people/parts/peopleFilters";
import { countInvalidAddresses } from "@/features/people-admin";
import { deleteNamedView, saveNamedView } from "@/features/people-admin/actions";
import { PeopleTable, type PersonRow } from "@/features/people-admin/parts/PeopleTable.client";
import { PersonForm } from "@/features/people-admin/parts/PersonForm.client";
import { listPlans, longestRest } from "@/features/plans";
import { reasonWords } from "@/locales/asking";
import { type Access, mayEverywhere, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "People" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const MOST_COUNTED = 1000;

export default async function People({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see people");
  const typed = await searchParams;
  const wanted = directoryQuery.parse({ q: "", ...typed });
  const after = afterKey.parse(typed.after);
  const now = await clockNow();
  const { slug } = access.seat;
  const base = `/c/${slug}/people`;
  const query = queryString(wanted);
  const isFiltered = query !== "";
  const seen = await loadPeople(access, wanted, after, now);
  const { setting, found, views } = seen;
  const shown = found.slice(0, PEOPLE_PAGE);
  const last = shown.at(-1);
  const total =
    isFiltered && seen.total > MOST_COUNTED
      ? `more than ${MOST_COUNTED.toLocaleString("en-GB")}`
      : seen.total.toLocaleString("en-GB");
  const link = (name: "state" | "asked" | "branch" | "tag", value: string | null) => {
    const to = new URLSearchParams(query);
    if (value) to.set(name, value);
    else to.delete(name);
    return to.size > 0 ? `${base}?${to}` : base;
  };
  const filters = peopleFilters(setting, wanted, link);
  const mayEdit = may(access.seat, "edit people");
  const isWhole = mayEverywhere(access.seat, "edit people");
  return (
    <Page
      margin={<PeopleMargin seen={seen} slug={slug} mayImport={may(access.seat, "import lists")} isWhole={isWhole} />}
    >
      <div className="flex flex-wrap items-start justify-between gap-4">
        <h1 className="title">{titleOf(wanted, seen.total, total)}</h1>
        <div className="flex flex-wrap gap-2">
          {may(access.seat, "import lists") ? (
            <Link href={`${base}/import`} className="button">
              Import a list
            </Link>
          ) : null}
          {mayEdit ? <PersonForm slug={slug} tags={setting.tags.map(({ name }) => name)} /> : null}
        </div>
      </div>
      <Views views={views} base={base} query={query} />
      <div className="mt-4 mb-3 space-y-3">
        <PeopleSearch base={base} query={query} typed={wanted.q} focus={typed.find === "1"} />
        <FilterSentence parts={filters} />
        {isFiltered ? (
          <div className="flex flex-wrap items-center gap-4 text-[14px]">
            <Link href={base} className="words-link">
              Show everyone
            </Link>
            {isWhole ? <KeepView action={saveNamedView.bind(null, slug, query)} /> : null}
            {isWhole && views.some((view) => view.query === query) ? (
              <form action={deleteNamedView.bind(null, slug, views.find((view) => view.query === query)?.id ?? "")}>
                <button type="submit" className="button-quiet">
                  Delete this view
                </button>
              </form>
            ) : null}
          </div>
        ) : null}
      </div>
      {shown.length === 0 ? (
        <Empty
          action={
            isFiltered ? (
              <Link href={base} className="button">
                Show everyone
              </Link>
            ) : (
              <Link href={`${base}/import`} className="button">
                Import a list
              </Link>
            )
          }
        >
          {isFiltered
            ? "No matches. Try part of the name, or the last few digits of the phone number."
            : "Nobody here yet. Import a list, connect a feed under Set-up, or add your first person."}
        </Empty>
      ) : (
        <PeopleTable
          key={`${query} ${last?.id}`}
          slug={slug}
          rows={shown.map((person) => rowOf(person, now))}
          tags={setting.tags.map(({ name }) => name)}
          query={query}
          total={total}
          hasMore={found.length > PEOPLE_PAGE || after !== null}
          may={{
            ask: may(access.seat, "ask many"),
            edit: mayEdit,
            export: may(access.seat, "export people"),
            erase: may(access.seat, "erase people"),
          }}
        />
      )}
      {found.length > PEOPLE_PAGE && last ? (
        <p className="mt-5">
          <Link
            href={`${base}?${new URLSearchParams([...new URLSearchParams(query), ["after", keyAfter(last)]])}`}
            className="button"
          >
            The next {PEOPLE_PAGE}
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

type Wanted = z.output<typeof directoryQuery>;
type Seen = Awaited<ReturnType<typeof loadPeople>>;

function loadPeople(access: Access, wanted: Wanted, after: z.output<typeof afterKey>, now: number) {
  const { zone } = access.seat;
  return withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const facts = { now, zone, restDays: longestRest(await listPlans(tx, access), setting.client.restDays) };
    const isFiltered = queryString(wanted) !== "";
    return {
      setting,
      found: await listPeople(tx, wanted, after, facts),
      total: isFiltered ? await countListed(tx, wanted, facts, MOST_COUNTED + 1) : await countPeople(tx),
      views: await listViews(tx, access),
      names: (await openNames(tx, access)).length,
      invalid: await countInvalidAddresses(tx, access),
    };
  });
}

function Views({ views, base, query }: { views: Seen["views"]; base: string; query: string }) {
  if (views.length === 0) return null;
  return (
    <nav aria-label="Views" className="mt-4 flex flex-wrap gap-2">
      <Link href={base} className="chip" aria-current={query === "" ? "page" : undefined}>
        Everyone
      </Link>
      {views.map((view) => (
        <Link
          key={view.id}
          href={`${base}?${view.query}`}
          className="chip"
          aria-current={view.query === query ? "page" : undefined}
        >
          {view.name}
        </Link>
      ))}
    </nav>
  );
}

type MarginProps = { seen: Seen; slug: string; mayImport: boolean; isWhole: boolean };

function PeopleMargin({ seen, slug, mayImport, isWhole }: MarginProps) {
  const base = `/c/${slug}/people`;
  return (
    <>
      {mayImport ? (
        <Note title="Import people">
          <p>
            <Link href={`${base}/import`}>Import a list</Link> of people and visits from any software.
          </p>
        </Note>
      ) : null}
      {seen.names > 0 && isWhole ? (
        <Note title="Names to match">
          <p>
            <Link href={`/c/${slug}/set-up/names`}>
              <b>{seen.names}</b> {seen.names === 1 ? "name" : "names"} of services, branches or tags
            </Link>{" "}
            we don’t recognise. Their visits are waiting.
          </p>
        </Note>
      ) : null}
      {seen.invalid > 0 ? (
        <Note title="Addresses to fix">
          <p>
            <Link href={`${base}/addresses`}>
              <b>{seen.invalid.toLocaleString("en-GB")}</b> {seen.invalid === 1 ? "address" : "addresses"}
            </Link>{" "}
            bounced.
          </p>
        </Note>
      ) : null}
      {isWhole ? (
        <Note title="Duplicates and households">
          <p>
            <Link href={`${base}/duplicates`}>Find duplicate records</Link> and people who share a home.
          </p>
        </Note>
      ) : null}
    </>
  );
}

function titleOf(wanted: Wanted, count: number, total: string): string {
  const people = count === 1 ? "person" : "people";
  const number =
    count > MOST_COUNTED
      ? capital(total)
      : capital(sayCount(count, "person", "people")).replace(/ (?:person|people)$/, "");
  if (wanted.leftout) return `${number} ${people} left out: ${reasonWords(wanted.leftout)}.`;
  if (wanted.q.trim()) return `${number} ${people} ${count === 1 ? "matches" : "match"} “${wanted.q.trim()}”.`;
  if (wanted.state) return `${number} ${people} ${stateClause(wanted.state, count)}.`;
  return queryString(wanted) === ""
    ? `${total} people, by name.`
    : `${number} ${people} ${count === 1 ? "fits" : "fit"}.`;
}

function rowOf(person: Person, now: number): PersonRow {
  return {
    id: person.id,
    name: person.family
      ? `${person.family}, ${person.given}`
      : person.given || person.email || person.phone || "No name",
    phone: person.phone && sayPhone(person.phone),
    phoneProblem: person.textOptedOutAt
      ? "opted out"
      : person.textBouncedAt
        ? "came back"
        : person.phoneTakesTexts
          ? null
          : "landline",
    email: person.email,
    emailProblem: person.emailOptedOutAt ? "opted out" : person.emailBouncedAt ? "bounced" : null,
    marks: person.tags,
    doNotAsk: person.doNotAsk !== null,
    lastAsked: person.lastAskedAt ? sayAgo(person.lastAskedAt, now) : "never",
  };
}
