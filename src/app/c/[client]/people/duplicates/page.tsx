import { sayPhone } from "@/core/contacts/phone";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { nameOf, type Person } from "@/features/people";
import { findDuplicatesAndHouseholds, recentMerges } from "@/features/people-admin";
import { HouseholdButtons, MatchButtons, UndoMerge } from "@/features/people-admin/parts/MatchButtons.client";
import { householdWords, likenessWords } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Duplicates and households" };

type Props = { params: Promise<{ client: string }> };

export default async function DuplicatesPage({ params }: Props) {
  const access = await requireAccess((await params).client, "edit people", "whole client");
  const now = await clockNow();
  const { slug } = access.seat;
  const { found, merges } = await withClient(access, async (tx) => ({
    found: await findDuplicatesAndHouseholds(tx, access),
    merges: await recentMerges(tx, access),
  }));
  const { homes } = found;
  const count = found.pairs.length + found.more;
  const title =
    found.foundAt === null
      ? "Comparing records…"
      : count === 0
        ? "No duplicates found."
        : `${capital(sayCount(count, "pair"))} might be the same person.`;
  return (
    <Page
      margin={
        <>
          <Note title="Likely matches are up to you">
            <p>
              When people come in with the same customer number, email or phone, we treat them as the same person.
              Likely matches wait here for you to decide.
            </p>
          </Note>
          {merges.length > 0 ? (
            <Note title="Recently merged">
              <ul className="space-y-1">
                {merges.map((merge) => {
                  const before = merge.before as { kept?: Person; gone?: Person };
                  return (
                    <li key={merge.id}>
                      <Link href={`/c/${slug}/people/${merge.keptId}`}>
                        {before.kept ? nameOf(before.kept) : "Someone"}
                      </Link>{" "}
                      and {before.gone ? nameOf(before.gone) : "someone"}, {sayAgo(merge.at, now)}{" "}
                      <UndoMerge slug={slug} id={merge.id} />
                    </li>
                  );
                })}
              </ul>
            </Note>
          ) : null}
          <Note title="Households">
            <p>
              If several people in a household visit on one day, only one is asked. You’ll see that in the others’
              stories.
            </p>
          </Note>
        </>
      }
    >
      {found.foundAt === null ? <LiveRefresh seconds={2} /> : null}
      <h1 className="title">{title}</h1>
      <p className="lead">
        {found.foundAt === null
          ? "With this many people it takes a few seconds. They’ll appear here when it’s done."
          : "Most likely first. You can undo anything you do here."}
      </p>
      {found.pairs.length === 0 ? null : (
        <ul className="mt-6 space-y-4">
          {found.pairs.map(({ like, a, b }) => (
            <li key={`${a.id} ${b.id}`} className="sheet p-4">
              <p className="text-second mb-3">{capital(likenessWords(like.why))}.</p>
              <div className="mb-4 grid gap-4 sm:grid-cols-2">
                <Record person={a} other={b} slug={slug} now={now} />
                <Record person={b} other={a} slug={slug} now={now} />
              </div>
              <MatchButtons slug={slug} a={{ id: a.id }} b={{ id: b.id }} />
            </li>
          ))}
        </ul>
      )}
      <h2 className="font-title mt-10 text-[21px] font-semibold">
        {homes.length === 0
          ? "No new households found."
          : `${capital(sayCount(homes.length, "household"))} to confirm.`}
      </h2>
      {homes.length === 0 ? (
        found.pairs.length === 0 ? (
          <div className="mt-6">
            <Empty>Everyone who shares a phone, mailbox or address is already in one household.</Empty>
          </div>
        ) : null
      ) : (
        <ul className="divide-rule border-rule mt-4 divide-y border-y">
          {homes.map(({ offer, people }) => (
            <li key={offer.members.join(" ")} className="flex flex-wrap items-center justify-between gap-3 py-3.5">
              <p>
                {people.map((person, index) => (
                  <span key={person.id}>
                    {index > 0 ? (index === people.length - 1 ? " and " : ", ") : ""}
                    <Link href={`/c/${slug}/people/${person.id}`} className="name-link">
                      {nameOf(person)}
                    </Link>
                  </span>
                ))}{" "}
                <span className="text-second">{householdWords(offer.why)}.</span>
              </p>
              <HouseholdButtons slug={slug} ids={offer.members} />
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}

function Record({ person, other, slug, now }: { person: Person; other: Person; slug: string; now: number }) {
  const line = (label: string, own: string | null, theirs: string | null) =>
    own || theirs ? (
      <div className="flex gap-3">
        <dt className="text-second w-[84px] shrink-0">{label}</dt>
        <dd className={`[overflow-wrap:anywhere] ${own === theirs ? "" : "font-semibold"}`}>{own ?? "none"}</dd>
      </div>
    ) : null;
  return (
    <div>
      <Link href={`/c/${slug}/people/${person.id}`} className="name-link text-[16px]">
        {nameOf(person)}
      </Link>
      <dl className="mt-1.5 space-y-0.5">
        {line("Mobile", person.phone && sayPhone(person.phone), other.phone && sayPhone(other.phone))}
        {line("Email", person.email, other.email)}
        {line("Address", person.postalAddress, other.postalAddress)}
        {line("Customer number", person.externalId, other.externalId)}
        {line(
          "Last visit",
          person.lastVisitAt ? sayAgo(person.lastVisitAt, now) : null,
          other.lastVisitAt ? sayAgo(other.lastVisitAt, now) : null,
        )}
        {line("Added", `${person.source}, ${sayAgo(person.createdAt, now)}`, null)}
      </dl>
    </div>
  );
}
