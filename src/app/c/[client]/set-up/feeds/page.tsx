import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { type Feed, feedNumbers, listFeeds } from "@/features/intake";
import { AddFeed } from "@/features/intake/parts/FeedForms.client";
import { fetchProblemSentence } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Feeds" };

const KIND_WORDS: Record<Feed["kind"], string> = {
  webhook: "webhook",
  calendar: "calendar",
  "drop-off": "drop-off page",
  "end of day": "end-of-day file",
};

type Props = { params: Promise<{ client: string }> };

export default async function Feeds({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { slug } = access.seat;
  const { feeds, numbers, setting } = await withClient(access, async (tx) => ({
    feeds: await listFeeds(tx, access),
    numbers: await feedNumbers(tx, access),
    setting: await loadSetting(tx),
  }));
  const troubled = feeds.filter((feed) => feed.problem || (numbers.get(feed.id)?.failed ?? 0) > 0).length;
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  const add = (
    <AddFeed
      slug={slug}
      branches={setting.branches.map(named)}
      services={setting.services.filter(({ retired }) => !retired).map(named)}
    />
  );
  return (
    <Page
      margin={
        <>
          <Note title="However visits come in">
            <p>Feeds, lists, the API and entries by hand all follow the same rules, and nobody is added twice.</p>
          </Note>
          <Note title="For developers">
            <p>
              Your own software can use the <a href="/api/v1">API</a>, with a{" "}
              <Link href={`/c/${slug}/set-up/keys`}>key</Link>.
            </p>
          </Note>
        </>
      }
    >
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h1 className="title">
            {feeds.length === 0
              ? "No feeds connected yet."
              : troubled > 0
                ? `${capital(sayCount(troubled, "feed needs", "feeds need"))} attention.`
                : `${capital(sayCount(feeds.length, "feed"))} ${feeds.length === 1 ? "brings" : "bring"} visits in.`}
          </h1>
          <p className="lead">Connect a feed once, and visits come in without anyone having to remember.</p>
        </div>
        {feeds.length > 0 ? add : null}
      </div>
      {feeds.length === 0 ? (
        <div className="mt-6">
          <Empty action={add}>Connect your booking software or calendar, or give the front desk a drop-off page.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-6 divide-y border-y">
          {feeds.map((feed) => {
            const it = numbers.get(feed.id);
            return (
              <li key={feed.id} className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1 py-3.5">
                <span>
                  <Link href={`/c/${slug}/set-up/feeds/${feed.id}`} className="name-link text-[16px]">
                    {feed.name}
                  </Link>
                  <span className="text-second">
                    , {KIND_WORDS[feed.kind]}
                    {feed.state === "off" ? ", off" : ""}
                  </span>
                  {feed.problem ? (
                    <span className="text-vermilion-deep block">{fetchProblemSentence(feed.problem)}</span>
                  ) : null}
                  {it && it.failed > 0 ? (
                    <span className="text-vermilion-deep block">
                      {sayCount(it.failed, "delivery", "deliveries")} failed.
                    </span>
                  ) : null}
                </span>
                <span className="text-second">
                  {sayCount(it?.visits ?? 0, "visit")} so far
                  {it?.last ? `, last received ${sayAgo(it.last, now)}` : it?.visits ? "" : ", nothing yet"}
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </Page>
  );
}
