import { notFound } from "next/navigation";
import { z } from "zod";
import { isInRange } from "@/core/time/range";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { type Feed, feedNumbers, findFeed, listInboundEvents } from "@/features/intake";
import { deleteFeed, fetchNow, switchFeed } from "@/features/intake/feedActions";
import { FeedSetting } from "@/features/intake/parts/FeedForms.client";
import { CalendarFeed, DropOffFeed } from "@/features/intake/parts/OtherFeeds";
import { WebhookFeed } from "@/features/intake/parts/WebhookFeed";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { fetchProblemSentence, fetchSentence } from "@/locales/intake";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Counted } from "@/ui/Counted";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "A feed" };

const PER_PAGE = 30;

type Props = {
  params: Promise<{ client: string; feed: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function OneFeed({ params, searchParams }: Props) {
  const { client, feed: id } = await params;
  const access = await requireAccess(client, "set up");
  if (!z.uuid().safeParse(id).success) notFound();
  const before =
    z.coerce
      .number()
      .int()
      .positive()
      .refine(isInRange)
      .safeParse((await searchParams).before).data ?? null;
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await loadFeed(access, id, before);
  if (!seen) notFound();
  const { feed, setting, numbers } = seen;
  const list = seen.list.slice(0, PER_PAGE);
  const named = ({ id: key, name }: { id: string; name: string }) => ({ id: key, name });
  const services = setting.services.filter(({ retired }) => !retired).map(named);
  const failed = numbers?.failed ?? 0;
  return (
    <>
      <LiveRefresh seconds={10} />
      <Page margin={<FeedMargin seen={seen} slug={slug} services={services} now={now} />}>
        <p className="text-second mb-1 text-[14px]">
          <Link href={`/c/${slug}/set-up/feeds`} className="underline underline-offset-[3px]">
            Feeds
          </Link>
        </p>
        <h1 className="title">{titleOf(feed, failed)}</h1>
        {feed.problem ? (
          <p className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2">
            {fetchProblemSentence(feed.problem)} We’ll try again at the next scheduled time.
          </p>
        ) : null}
        {feed.kind === "webhook" ? (
          <WebhookFeed
            slug={slug}
            feed={feed}
            list={list}
            failed={failed}
            visits={seen.numbers?.visits ?? 0}
            zone={zone}
            now={now}
            hasMore={seen.list.length > PER_PAGE}
          />
        ) : null}
        {feed.kind === "drop-off" ? <DropOffFeed slug={slug} feed={feed} setting={setting} /> : null}
        {feed.kind === "calendar" ? (
          <CalendarFeed slug={slug} feed={feed} setting={setting} services={services} />
        ) : null}
        {feed.kind === "end of day" ? (
          <div className="mt-5 space-y-3">
            <p className="lead">
              We fetch the file once a day, import it and start asking. If there’s something to clear up first, it waits
              for you under People.
            </p>
            <ConfirmButton action={fetchNow.bind(null, slug, id)}>Fetch now</ConfirmButton>
            <p>
              <Link href={`/c/${slug}/people/import`} className="words-link">
                Lists from this feed
              </Link>
            </p>
          </div>
        ) : null}
      </Page>
    </>
  );
}

function titleOf(feed: Feed, failed: number): string {
  if (feed.state === "off") return `${feed.name} is off.`;
  if (feed.problem) return `${feed.name} can’t be reached.`;
  if (failed > 0) return `${capital(sayCount(failed, "delivery", "deliveries"))} of ${feed.name} failed.`;
  return `${feed.name} is connected.`;
}

type Seen = NonNullable<Awaited<ReturnType<typeof loadFeed>>>;

function loadFeed(access: Access, id: string, before: number | null) {
  return withClient(access, async (tx) => {
    const feed = await findFeed(tx, access, id);
    if (!feed) return null;
    const list = feed.kind === "webhook" ? await listInboundEvents(tx, access, id, before, PER_PAGE + 1) : [];
    return { feed, setting: await loadSetting(tx), list, numbers: (await feedNumbers(tx, access)).get(id) };
  });
}

function FeedMargin({
  seen: { feed, setting, numbers },
  slug,
  services,
  now,
}: {
  seen: Seen;
  slug: string;
  services: { id: string; name: string }[];
  now: number;
}) {
  return (
    <>
      <Note title="So far">
        <p>
          <Counted count={numbers?.visits ?? 0} one="visit" /> came in this way.
        </p>
        {numbers?.last ? (
          <p>Last received {sayAgo(numbers.last, now)}.</p>
        ) : numbers?.visits ? null : (
          <p>Nothing yet.</p>
        )}
        {feed.report ? <p>{fetchSentence(feed.report)}</p> : null}
      </Note>
      <Note title="Settings">
        <FeedSetting
          slug={slug}
          feed={{
            id: feed.id,
            kind: feed.kind,
            name: feed.name,
            branchId: feed.branchId,
            serviceId: feed.serviceId,
            url: feed.url,
          }}
          branches={setting.branches.map(({ id, name }) => ({ id, name }))}
          services={services}
        />
      </Note>
      <Note title="Turn off or remove">
        <div className="flex flex-wrap gap-2">
          <ConfirmButton action={switchFeed.bind(null, slug, feed.id, feed.state === "on" ? "off" : "on")}>
            {feed.state === "on" ? "Turn off" : "Turn on"}
          </ConfirmButton>
          <ConfirmButton
            action={deleteFeed.bind(null, slug, feed.id)}
            sure={`Remove ${feed.name}? The people and visits it brought stay; its log is deleted.`}
          >
            Remove
          </ConfirmButton>
        </div>
      </Note>
    </>
  );
}
