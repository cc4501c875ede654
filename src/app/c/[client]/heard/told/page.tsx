import { toldPath } from "@/core/notices/told";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { choiceOf, recentTellings, staffOf } from "@/features/notices";
import { AllowBrowser, ToldSentence } from "@/features/notices/parts/ToldSentence.client";
import { toldLine } from "@/locales/told";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "What you are told" };

type Props = { params: Promise<{ client: string }> };

/** What somebody is told at this client, how and when, and what they were told lately. */
export default async function WhatOneIsTold({ params }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const now = await clockNow();
  const { slug, zone, permissions, kind } = access.seat;
  const { setting, choice, recent, me } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    choice: await choiceOf(tx, access, {
      id: access.user.id,
      permissions,
      isOfAgency: kind === "agency" || kind === "group",
    }),
    recent: await recentTellings(tx, access, access.user.id, 30),
    me: (await staffOf(tx)).find(({ id }) => id === access.user.id) ?? null,
  }));
  const branches = setting.branches
    .filter(({ id }) => !access.branches || access.branches.includes(id))
    .map(({ id, name }) => ({ id, name }));
  const open = recent.filter(({ seen }) => seen !== null).length;
  return (
    <Page
      margin={
        <>
          <Note title="Only you choose">
            <p>Everybody chooses for themselves, at each client. A matter is told once to each, never twice.</p>
          </Note>
          <Note title="Reminders">
            <p>
              A private note that nobody has answered reminds whoever took it when half of the time is over, the manager
              when it is up, and the agency a day later, whatever they chose.
            </p>
          </Note>
          <Note title="What is settled">
            <p>What somebody has answered by the time you would be told of it is not told any more.</p>
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard`}>Heard</Link>
      </p>
      <h1 className="title">
        {open === 0
          ? "Nothing that you were told of waits."
          : `${capital(sayCount(open, "matter", "matters"))} that you were told of ${open === 1 ? "waits" : "wait"}.`}
      </h1>
      <div className="mt-5">
        <ToldSentence
          slug={slug}
          choice={choice}
          branches={branches}
          email={access.user.email}
          phone={me?.phone ?? null}
        />
        {choice.ways.includes("browser") ? (
          <div className="mt-3">
            <AllowBrowser />
          </div>
        ) : null}
      </div>
      <h2 className="font-title mt-9 text-[21px] font-semibold">Lately</h2>
      {recent.length === 0 ? (
        <div className="mt-3">
          <Empty>What you are told of stands here too, from now on.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {recent.map(({ id, seen, told, createdAt, toldAt, ways, dueAt }) => (
            <li key={id} className="flex flex-wrap items-baseline justify-between gap-x-4 py-2.5">
              <span>
                {seen ? (
                  <Link href={`/c/${slug}${toldPath(told)}`}>{toldLine(seen, { zone, now })}</Link>
                ) : (
                  <span className="text-second">Settled, or not there any more</span>
                )}
              </span>
              <span className="text-second text-[14px]">
                {toldAt
                  ? `told by ${ways.join(" and ")} ${sayAgo(toldAt, now)}`
                  : dueAt
                    ? `you are told ${sayAgo(dueAt, now)}`
                    : `here ${sayAgo(createdAt, now)}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
