import { z } from "zod";
import { TRAIL_PARTS, type TrailPart } from "@/core/audit/actions";
import { sayMoment } from "@/core/time/say";
import { auditTrail, TRAIL_PAGE, type TrailEntry } from "@/features/audit";
import { EntryDetails, recordOf } from "@/features/audit/parts/EntryDetails";
import { auditSentence } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { chip } from "@/ui/chip";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Who did what" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const PARTS = Object.keys(TRAIL_PARTS) as TrailPart[];
const CHIPS: Record<TrailPart, string> = {
  "sign-ins": "Sign-ins",
  people: "People",
  asking: "Asking",
  heard: "Heard",
  "set-up": "Set-up",
};
const query = z.object({ part: z.enum(PARTS).nullable().catch(null), after: pageKey });

export default async function Changes({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const search = await searchParams;
  const { part, after } = query.parse({ part: search.part ?? null, after: search.after ?? null });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const entries = await withClient(access, (tx) => auditTrail(tx, access, part, after));
  const shown = entries.slice(0, TRAIL_PAGE);
  const last = entries.length > TRAIL_PAGE ? shown.at(-1) : undefined;
  const link = (to: { part: TrailPart | null; after?: string }) => {
    const search = new URLSearchParams({
      ...(to.part ? { part: to.part } : {}),
      ...(to.after ? { after: to.after } : {}),
    });
    return `/c/${slug}/set-up/changes${search.size ? `?${search}` : ""}`;
  };
  return (
    <Page
      margin={
        <Note title="What’s recorded">
          <p>
            Every sign-in, every change to people, plans, concerns and set-up, and every export. Nobody can change or
            delete an entry.
          </p>
        </Note>
      }
    >
      <h1 className="title">Who did what</h1>
      <nav aria-label="Filters" className="mt-4 mb-5 flex flex-wrap gap-2">
        {chip(link({ part: null }), part === null, "All")}
        {PARTS.map((each) => (
          <span key={each}>{chip(link({ part: part === each ? null : each }), part === each, CHIPS[each])}</span>
        ))}
      </nav>
      {shown.length === 0 ? (
        <Empty>{after ? "There’s nothing earlier." : "Nothing recorded yet."}</Empty>
      ) : (
        <ol className="divide-rule border-rule divide-y border-y">
          {shown.map((entry) => (
            <li key={entry.id} className="grid gap-x-4 py-2.5 sm:grid-cols-[150px_1fr]">
              <span className="text-second text-[14px]">{sayMoment(zone, entry.at, now)}</span>
              <span className="min-w-0 [overflow-wrap:anywhere]">
                <b>{entry.who}</b> <Deed entry={entry} slug={slug} />
                <EntryDetails entry={entry} />
              </span>
            </li>
          ))}
        </ol>
      )}
      {last ? (
        <p className="mt-5">
          <Link href={link({ part, after: `${last.at}~${last.id}` })} className="button">
            Earlier
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

/** Where a thing can be looked at. */
const PLACES: Partial<Record<string, (id: string) => string>> = {
  person: (id) => `people/${id}`,
  visit: (id) => `asking/why/${id}`,
  list: (id) => `people/import/${id}`,
  plan: (id) => `asking/plans/${id}`,
  concern: (id) => `heard/concerns/${id}`,
  feed: (id) => `set-up/feeds/${id}`,
};

/** What somebody did; what it was done to leads to where it can be looked at. */
function Deed({ entry, slug }: { entry: TrailEntry; slug: string }) {
  const { count } = recordOf(entry.details);
  const { before, name, after } = auditSentence({ ...entry, count: typeof count === "number" ? count : 0 });
  const place = entry.subjectId ? PLACES[entry.subject]?.(entry.subjectId) : undefined;
  return (
    <>
      {before}
      {name && place ? (
        <Link href={`/c/${slug}/${place}`} className="name-link">
          {name}
        </Link>
      ) : (
        name
      )}
      {after}
    </>
  );
}
