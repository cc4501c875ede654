import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { cleanText } from "@/core/words/clean";
import { agencyClients } from "@/features/accounts";
import { listSharedTexts } from "@/features/conversations";
import { SharedTexts } from "@/features/conversations/parts/SharedTexts.client";
import { bringSharedText } from "@/features/messaging/actions";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { AcceptOffer, EndOffer } from "@/features/offboarding/parts/Offboarding.client";
import { ImportClient, StartOne, ThrowAway } from "@/features/onboarding/parts/StartButtons.client";
import { type ClientOutlook, listOutlooks, loadStartMargin, type OutlookFilter } from "@/features/outlook";
import { NeedyClients, WellClients } from "@/features/outlook/parts/ClientList";
import { SummaryButton } from "@/features/outlook/parts/SummaryButton.client";
import { Walk } from "@/features/outlook/parts/Walk.client";
import { type AgencyAccess, type AgencySeat, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { Counted } from "@/ui/Counted";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Clients" };

type Props = {
  params: Promise<{ agency: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({
  q: z.string().max(80).transform(cleanText).catch(""),
  show: z.enum(["needs", "well"]).nullable().catch(null),
  group: z.uuid().nullable().catch(null),
  by: z
    .string()
    .regex(/^[\w-]{1,64}$/)
    .nullable()
    .catch(null),
});

const SHOWS = [
  { value: "needs", words: "only those that need you" },
  { value: "well", words: "only those running smoothly" },
];

export default async function Clients({ params, searchParams }: Props) {
  const access = await requireAgency((await params).agency);
  const search = await searchParams;
  const { q, show, group, by } = query.parse({
    q: search.q ?? "",
    show: search.show ?? null,
    group: search.group ?? null,
    by: search.by ?? null,
  });
  const now = await clockNow();
  const seen = await loadClients(access, { q, group, by, only: show });
  const { clients, groups, team } = seen;
  const needy = clients.filter(({ needs }) => needs && needs.length > 0);
  const well = clients.filter(({ needs }) => !needs || needs.length === 0);
  const base = `/agency/${access.seat.slug}`;
  const link = (name: string, value: string | null) => {
    const to = new URLSearchParams();
    for (const [key, held] of Object.entries({ q, show, group, by, [name]: value })) if (held) to.set(key, held);
    return to.size > 0 ? `${base}?${to}` : base;
  };
  const arranging = {
    slug: access.seat.slug,
    team: team.map(({ userId, name }) => ({ userId, name })),
    groups,
    mayChange: may(access.seat, "start clients"),
  };
  const maySetAside = may(access.seat, "set up");
  const oldest = Math.min(...clients.flatMap(({ at }) => (at === null ? [] : [at])));
  const isFiltered = Boolean(q || show || group || by);
  const shared = may(access.seat, "answer concerns") ? await loadSharedTexts(access, now) : [];
  return (
    <Page margin={<ClientsMargin seen={seen} seat={access.seat} isFiltered={isFiltered} />}>
      <h1 className="title">{titleOf(needy.length, clients.length, isFiltered)}</h1>
      <p className="lead">
        Clients that need you come first, each with what to do next.
        {Number.isFinite(oldest)
          ? oldest > now - 60_000
            ? " All were checked just now."
            : ` The oldest check was ${sayAgo(oldest, now)}.`
          : ""}
      </p>
      <LiveRefresh seconds={20} />
      {shared.length > 0 ? (
        <section className="mt-5" aria-label="Texts we couldn’t match to a client">
          <h2 className="text-[19px] font-semibold">
            {capital(sayCount(shared.length, "text", "texts"))} to a shared number: which client{" "}
            {shared.length === 1 ? "is it" : "are they"} for?
          </h2>
          <SharedTexts list={shared} />
        </section>
      ) : null}
      <form className="mt-4" action={base}>
        <label className="sr-only" htmlFor="client-search">
          Search clients
        </label>
        <input
          id="client-search"
          name="q"
          type="search"
          defaultValue={q}
          placeholder="Search clients by name"
          className="field max-w-[340px]"
        />
        {show ? <input type="hidden" name="show" value={show} /> : null}
        {group ? <input type="hidden" name="group" value={group} /> : null}
        {by ? <input type="hidden" name="by" value={by} /> : null}
      </form>
      <div className="mt-3">
        <FilterSentence parts={filtersOf(seen, { show, group, by }, link)} />
      </div>
      <Walk search="client-search">
        {clients.length === 0 ? (
          <div className="mt-5">
            <Empty>{isFiltered ? "No clients match." : "No clients yet."}</Empty>
          </div>
        ) : null}
        {needy.length > 0 ? (
          <NeedyClients clients={needy} arranging={arranging} now={now} maySetAside={maySetAside} />
        ) : null}
        {well.length > 0 ? (
          <section className="mt-8" aria-label="Running smoothly">
            <h2 className="text-[19px] font-semibold">
              {capital(sayCount(well.length, "client is running smoothly", "clients are running smoothly"))}
            </h2>
            <WellClients clients={well} arranging={arranging} now={now} maySetAside={maySetAside} />
          </section>
        ) : null}
      </Walk>
    </Page>
  );
}

/** Texts to a shared number that wait for somebody who knows whom they are for; of clients that one may enter. */
async function loadSharedTexts(access: AgencyAccess, now: number) {
  const { texts, clients } = await withAgency(access, async (tx) => {
    const texts = await listSharedTexts(tx, access);
    return { texts, clients: texts.length > 0 ? await agencyClients(tx, access) : [] };
  });
  return texts.flatMap(({ id, sender, body, receivedAt, choices }) => {
    const own = clients.filter((client) => choices.includes(client.id)).map(({ id, name }) => ({ id, name }));
    const bring = bringSharedText.bind(null, access.seat.slug, id);
    return own.length > 0 ? [{ id, sender, body, came: sayAgo(receivedAt, now), choices: own, bring }] : [];
  });
}

const total = (clients: readonly ClientOutlook[], what: "asked" | "newReviews") =>
  clients.reduce((sum, client) => sum + (client[what] ?? 0), 0);

function titleOf(needy: number, all: number, isFiltered: boolean): string {
  if (all === 0) return isFiltered ? "No clients match." : "No clients yet.";
  const of = isFiltered ? "of these need" : `of ${all} clients need`;
  if (all === 1 && !isFiltered) return needy === 0 ? "Your client is doing well." : "Your client needs you.";
  if (needy === 0) return isFiltered ? "None of these clients needs you." : "No client needs you today.";
  return needy === 1 ? `One ${of}s you.` : `${capital(sayCount(needy, "", "").trim())} ${of} you.`;
}

type Seen = Awaited<ReturnType<typeof loadClients>>;

function loadClients(access: AgencyAccess, filter: OutlookFilter) {
  return withAgency(access, async (tx) => ({
    clients: await listOutlooks(tx, access, filter),
    ...(await loadStartMargin(tx, access, access.user.id)),
  }));
}

type Wanted = { show: "needs" | "well" | null; group: string | null; by: string | null };

function filtersOf(
  { groups, team }: Seen,
  { show, group, by }: Wanted,
  link: (name: string, value: string | null) => string,
) {
  return [
    "Showing ",
    filterPart({
      label: "Clients",
      any: "every client",
      value: show,
      choices: SHOWS,
      href: (value) => link("show", value),
    }),
    ...(groups.length > 0
      ? [
          " of ",
          filterPart({
            label: "Group",
            any: "all groups",
            value: group,
            choices: namedChoices(groups),
            href: (value) => link("group", value),
          }),
        ]
      : []),
    ", looked after by ",
    filterPart({
      label: "Looked after by",
      any: "anyone",
      value: by,
      choices: team.map(({ userId, name }) => ({ value: userId, words: name })),
      href: (value) => link("by", value),
    }),
    ".",
  ];
}

function ClientsMargin({ seen, seat, isFiltered }: { seen: Seen; seat: AgencySeat; isFiltered: boolean }) {
  const { clients, drafts, offered } = seen;
  const base = `/agency/${seat.slug}`;
  return (
    <>
      {may(seat, "start clients") ? (
        <Note title="Start a client">
          <p>
            One page to fill in. Choose the trade, and its usual services and a ready-made plan are filled in for you.
          </p>
          <StartOne slug={seat.slug} />
          {drafts.length > 0 ? (
            <ul className="space-y-1">
              {drafts.map(({ id, name: typed }) => {
                const name = typed.trim() || "a client without a name";
                return (
                  <li key={id} className="flex flex-wrap items-center justify-between gap-2">
                    <Link href={`${base}/start/${id}`}>Continue with {name}</Link>
                    <ThrowAway slug={seat.slug} id={id} name={name} />
                  </li>
                );
              })}
            </ul>
          ) : null}
          <ImportClient slug={seat.slug} />
        </Note>
      ) : null}
      {offered.length > 0 ? (
        <Note title="Offered to you">
          <ul className="space-y-2">
            {offered.map(({ id, fromName, clientName, by }) => (
              <li key={id}>
                {by} of {fromName} wants to hand <b>{clientName}</b> over to you.
                <span className="mt-1 flex flex-wrap gap-1">
                  {may(seat, "start clients") ? <AcceptOffer slug={seat.slug} id={id} name={clientName} /> : null}
                  {may(seat, "end clients") ? (
                    <EndOffer slug={seat.slug} id={id} name={clientName} isOwn={false} />
                  ) : null}
                </span>
              </li>
            ))}
          </ul>
        </Note>
      ) : null}
      {seen.archived.length > 0 ? (
        <Note title="Archived">
          <ul className="space-y-1">
            {seen.archived.map(({ id, slug, name, deletingAt }) => (
              <li key={id}>
                {deletingAt === null ? <Link href={`${base}/clients/${slug}`}>{name}</Link> : `${name}, being deleted`}
              </li>
            ))}
          </ul>
        </Note>
      ) : null}
      <Note title="This week">
        <p>
          <Counted count={total(clients, "asked")} one="person" many="people" /> asked and{" "}
          <Counted count={total(clients, "newReviews")} one="new review" />, over {isFiltered ? "these" : "all"}{" "}
          clients.
        </p>
        <p className="text-[14px]">
          {seen.reads ? "You get an email every morning at seven saying who needs you." : ""}{" "}
          <SummaryButton slug={seat.slug} wants={seen.reads} />
        </p>
      </Note>
      <Note title="What’s usual">
        <p>
          We learn what’s normal for each client from its last eight weeks, weekday by weekday, and flag it when things
          go quiet for longer than you’d expect.
        </p>
      </Note>
    </>
  );
}
