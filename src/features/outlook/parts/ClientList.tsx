import Link from "next/link";
import { needKey, needPath } from "@/core/activity/needs";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { needWords } from "@/locales/needs";
import { Weeks } from "@/ui/Weeks";
import type { ClientOutlook } from "../queries";
import { ArrangeSentence, type Arranging } from "./ArrangeSentence.client";
import { SetAside, TakeBack } from "./NeedAside.client";

/** Clients that need somebody: why, and the one thing to do. Further reasons stand below the first. */
export function NeedyClients({
  clients,
  arranging,
  now,
  maySetAside,
}: {
  clients: ClientOutlook[];
  arranging: Arranging;
  now: number;
  maySetAside: boolean;
}) {
  return (
    <ul className="divide-rule border-rule mt-5 divide-y border-y">
      {clients.map((client) => {
        const [first, ...others] = client.needs ?? [];
        const words = needWords(first, client.zone, now);
        return (
          <li key={client.id} className="grid items-start gap-x-5 gap-y-2 py-4 sm:grid-cols-[210px_1fr_auto]">
            <span className="min-w-0">
              <Link
                href={`/c/${client.slug}/today`}
                className="name-link inline-block min-h-[24px] font-semibold"
                data-client=""
              >
                {client.name}
              </Link>
              <span className="text-second block text-[14px]">
                <ArrangeSentence client={client} arranging={arranging} />
                <AsAWhole client={client} arranging={arranging} />
              </span>
            </span>
            <div className="min-w-0 [overflow-wrap:anywhere]">
              <p>
                <b className={first.code.startsWith("allowance") ? "text-ochre-deep" : "text-vermilion-deep"}>
                  {words.title}
                </b>{" "}
                {words.says}
              </p>
              {others.map((need) => {
                const more = needWords(need, client.zone, now);
                return (
                  <p key={`${need.code} ${more.title}`} className="text-second text-[14px]">
                    <Link href={`/c/${client.slug}/${needPath(need)}`} className="underline underline-offset-[3px]">
                      {more.title}
                    </Link>{" "}
                    {more.says}{" "}
                    {maySetAside ? <SetAside slug={client.slug} needKey={needKey(need)} client={client.name} /> : null}
                  </p>
                );
              })}
              {maySetAside ? (
                <p className="text-[14px]">
                  <SetAside slug={client.slug} needKey={needKey(first)} client={client.name} />
                </p>
              ) : null}
              <AsideList client={client} now={now} maySetAside={maySetAside} />
            </div>
            <Link href={`/c/${client.slug}/${needPath(first)}`} className="button justify-self-start">
              {words.button}
              <span className="sr-only">: {client.name}</span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

/** What was set aside, by whom and why. */
export function AsideList({ client, now, maySetAside }: { client: ClientOutlook; now: number; maySetAside: boolean }) {
  const aside = client.aside ?? [];
  if (aside.length === 0) return null;
  return (
    <details className="text-[14px]">
      <summary className="text-second">{capital(sayCount(aside.length, "thing"))} set aside</summary>
      <ul className="space-y-1">
        {aside.map(({ need, key, reason, by, at }) => (
          <li key={key}>
            <Link href={`/c/${client.slug}/${needPath(need)}`} className="underline underline-offset-[3px]">
              {needWords(need, client.zone, now).title}
            </Link>{" "}
            {by}, {sayAgo(at, now)}: “{reason}” {maySetAside ? <TakeBack slug={client.slug} needKey={key} /> : null}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Leads to what is done with a client as a whole. */
function AsAWhole({ client, arranging }: { client: ClientOutlook; arranging: Arranging }) {
  if (!arranging.mayChange) return null;
  return (
    <>
      {" · "}
      <Link
        href={`/agency/${arranging.slug}/clients/${client.slug}`}
        className="inline-block min-h-[24px] underline underline-offset-[3px]"
      >
        more<span className="sr-only"> about {client.name}</span>
      </Link>
    </>
  );
}

/** Clients that run by themselves, with their figures. */
export function WellClients({
  clients,
  arranging,
  now,
  maySetAside,
}: {
  clients: ClientOutlook[];
  arranging: Arranging;
  now: number;
  maySetAside: boolean;
}) {
  const number = "py-2.5 pr-4 text-right";
  return (
    <div className="relative overflow-x-auto">
      <table className="mt-2 w-full border-collapse text-left">
        <thead className="text-second text-[14px]">
          <tr>
            <th className="py-1.5 pr-4 font-medium">Client</th>
            <th className="py-1.5 pr-4 font-medium max-sm:hidden">looked after by</th>
            <th className={`${number} font-medium`}>asked (7 days)</th>
            <th className={`${number} font-medium max-sm:hidden`}>new reviews</th>
            <th className={`${number} font-medium max-sm:hidden`}>public rating</th>
            <th className={`${number} font-medium`}>answered</th>
            <th className="py-1.5 font-medium">last eight weeks</th>
          </tr>
        </thead>
        <tbody className="divide-rule border-rule divide-y border-y">
          {clients.map((client) => (
            <tr key={client.id}>
              <td className="py-2.5 pr-4">
                <Link
                  href={`/c/${client.slug}/today`}
                  className="name-link inline-block min-h-[24px] font-semibold"
                  data-client=""
                >
                  {client.name}
                </Link>
                <AsideList client={client} now={now} maySetAside={maySetAside} />
              </td>
              <td className="text-second py-2.5 pr-4 max-sm:hidden">
                <ArrangeSentence client={client} arranging={arranging} />
                <AsAWhole client={client} arranging={arranging} />
              </td>
              <td className={number}>{client.asked ?? 0}</td>
              <td className={`${number} max-sm:hidden`}>{client.newReviews ?? 0}</td>
              <td className={`${number} max-sm:hidden`}>{client.shown?.toFixed(1) ?? "–"}</td>
              <td className={number}>{client.answered === null ? "–" : `${Math.round(client.answered * 100)}%`}</td>
              <td className="py-2.5">
                <Weeks
                  counts={client.weeks ?? []}
                  says={`Asked in each of the last eight weeks: ${(client.weeks ?? []).join(", ")}`}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
