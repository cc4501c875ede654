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

export const metadata = { title: "Your notifications" };

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
          <Note title="Just for you">
            <p>Everyone sets their own, for each client. You’ll never be notified twice about the same thing.</p>
          </Note>
          <Note title="Reminders">
            <p>
              If nobody answers a concern, we remind its owner halfway through the time allowed, the manager when it’s
              up, and the agency a day later, whatever they’ve chosen here.
            </p>
          </Note>
          <Note title="Already dealt with">
            <p>If someone has answered before your notification goes out, we don’t send it.</p>
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard`}>Heard</Link>
      </p>
      <h1 className="title">
        {open === 0
          ? "Nothing you were notified about is waiting."
          : `${capital(sayCount(open, "thing", "things"))} you were notified about ${open === 1 ? "is" : "are"} waiting.`}
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
      <h2 className="font-title mt-9 text-[21px] font-semibold">Recent</h2>
      {recent.length === 0 ? (
        <div className="mt-3">
          <Empty>Your notifications will be listed here too.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {recent.map(({ id, seen, told, createdAt, toldAt, ways, dueAt }) => (
            <li key={id} className="flex flex-wrap items-baseline justify-between gap-x-4 py-2.5">
              <span>
                {seen ? (
                  <Link href={`/c/${slug}${toldPath(told)}`}>{toldLine(seen, { zone, now })}</Link>
                ) : (
                  <span className="text-second">Dealt with, or since removed</span>
                )}
              </span>
              <span className="text-second text-[14px]">
                {toldAt
                  ? `sent by ${ways.join(" and ")} ${sayAgo(toldAt, now)}`
                  : dueAt
                    ? `due ${sayAgo(dueAt, now)}`
                    : `listed ${sayAgo(createdAt, now)}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
