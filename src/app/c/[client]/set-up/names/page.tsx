import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { assignedNames, type NameKind, openNames } from "@/features/intake";
import { AssignName } from "@/features/intake/parts/AssignName.client";
import { countWaiting } from "@/features/visits";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Names to match" };

const KINDS: Record<NameKind, string> = { service: "service", branch: "branch", team: "team member", tag: "tag" };

type Props = { params: Promise<{ client: string }> };

export default async function NamesPage({ params }: Props) {
  const access = await requireAccess((await params).client, "edit people", "whole client");
  const now = await clockNow();
  const { slug } = access.seat;
  const { open, known, setting, waiting } = await withClient(access, async (tx) => ({
    open: await openNames(tx, access),
    known: await assignedNames(tx, access),
    setting: await loadSetting(tx),
    waiting: await countWaiting(tx, access),
  }));
  const choices = (kind: NameKind) =>
    ({ service: setting.services, branch: setting.branches, team: setting.team, tag: setting.tags })[kind].map(
      ({ id, name }) => ({ id, name }),
    );
  return (
    <Page
      margin={
        <Note title="Only once">
          <p>
            Match a name once and we’ll recognise it in every list and feed.{" "}
            {waiting > 0
              ? `${capital(sayCount(waiting, "visit is", "visits are"))} waiting for a match.`
              : "No visits are waiting."}
          </p>
        </Note>
      }
    >
      <h1 className="title">
        {open.length === 0 ? "No unknown names." : `${capital(sayCount(open.length, "name"))} to match.`}
      </h1>
      {open.length === 0 ? (
        <div className="mt-5">
          <Empty>
            When a list or feed mentions a service, branch, team member or tag we don’t recognise, it waits here.
          </Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-5 divide-y border-y">
          {open.map((name) => (
            <li key={name.id} className="flex flex-wrap items-center justify-between gap-3 py-3">
              <span>
                <b>{name.name}</b>{" "}
                <span className="text-second">
                  {KINDS[name.kind]}, seen {sayCount(name.times, "time")}, first {sayAgo(name.firstSeenAt, now)}
                </span>
              </span>
              <AssignName slug={slug} id={name.id} name={name.name} kind={name.kind} choices={choices(name.kind)} />
            </li>
          ))}
        </ul>
      )}
      {known.length > 0 ? (
        <details className="mt-8">
          <summary className="font-title text-[18px] font-semibold">
            {capital(sayCount(known.length, "name"))} matched before
          </summary>
          <ul className="divide-rule border-rule mt-2 divide-y border-y">
            {known.map((name) => (
              <li key={name.id} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
                <span>
                  {name.name} <span className="text-second">{KINDS[name.kind]}</span>
                </span>
                <AssignName
                  slug={slug}
                  id={name.id}
                  name={name.name}
                  kind={name.kind}
                  choices={choices(name.kind)}
                  value={name.targetId ?? "nothing"}
                />
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </Page>
  );
}
