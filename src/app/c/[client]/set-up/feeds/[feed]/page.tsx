import Link from "next/link";
import { notFound } from "next/navigation";
import { z } from "zod";
import { sayRule } from "@/core/calendar/rules";
import { eventTypeOf, pathsOf, valueAt } from "@/core/intake/events";
import { capital, sayAgo, sayCount, sayMoment } from "@/core/time/say";
import { loadSetting, type Setting } from "@/features/clients";
import {
  addressOf,
  type Feed,
  feedNumbers,
  findFeed,
  type InboundEvent,
  listInboundEvents,
  mappingOf,
  secretOf,
} from "@/features/intake";
import { deleteFeed, deliverAgain, fetchNow, renew, switchFeed } from "@/features/intake/feedActions";
import { FeedSetting, ImportCalendar } from "@/features/intake/parts/FeedForms.client";
import { MappingForm } from "@/features/intake/parts/MappingForm.client";
import { RulesForm } from "@/features/intake/parts/RulesForm.client";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { eventSentence, fetchProblemSentence, fetchSentence } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Copyable } from "@/ui/Copyable.client";
import { Note, Page } from "@/ui/Page";

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
      .max(8.64e15)
      .safeParse((await searchParams).before).data ?? null;
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const seen = await withClient(access, async (tx) => {
    const feed = await findFeed(tx, access, id);
    if (!feed) return null;
    const list = feed.kind === "webhook" ? await listInboundEvents(tx, access, id, before, PER_PAGE + 1) : [];
    return { feed, setting: await loadSetting(tx), list, numbers: (await feedNumbers(tx, access)).get(id) };
  });
  if (!seen) notFound();
  const { feed, setting, numbers } = seen;
  const list = seen.list.slice(0, PER_PAGE);
  const named = ({ id: key, name }: { id: string; name: string }) => ({ id: key, name });
  const services = setting.services.filter(({ retired }) => !retired).map(named);
  const failed = numbers?.failed ?? 0;
  return (
    <>
      <LiveRefresh seconds={10} />
      <Page
        margin={
          <>
            <Note title="So far">
              <p>
                <b>{(numbers?.visits ?? 0).toLocaleString("en-GB")}</b> visits came by it.
              </p>
              {numbers?.last ? (
                <p>Last heard from {sayAgo(numbers.last, now)}.</p>
              ) : numbers?.visits ? null : (
                <p>Nothing came yet.</p>
              )}
              {feed.report ? <p>{fetchSentence(feed.report)}</p> : null}
            </Note>
            <Note title="Setting">
              <FeedSetting
                slug={slug}
                feed={{
                  id,
                  kind: feed.kind,
                  name: feed.name,
                  branchId: feed.branchId,
                  serviceId: feed.serviceId,
                  url: feed.url,
                }}
                branches={setting.branches.map(named)}
                services={services}
              />
            </Note>
            <Note title="Turn off or remove">
              <div className="flex flex-wrap gap-2">
                <ConfirmButton action={switchFeed.bind(null, slug, id, feed.state === "on" ? "off" : "on")}>
                  {feed.state === "on" ? "Turn off" : "Turn on"}
                </ConfirmButton>
                <ConfirmButton
                  action={deleteFeed.bind(null, slug, id)}
                  sure={`Remove ${feed.name}? What it brought stays; its log goes.`}
                >
                  Remove
                </ConfirmButton>
              </div>
            </Note>
          </>
        }
      >
        <p className="text-second mb-1 text-[14px]">
          <Link href={`/c/${slug}/set-up`} className="underline underline-offset-[3px]">
            Feeds
          </Link>
        </p>
        <h1 className="title">{titleOf(feed, failed)}</h1>
        {feed.problem ? (
          <p className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2">
            {fetchProblemSentence(feed.problem)} Estima tries again when its turn comes.
          </p>
        ) : null}
        {feed.kind === "webhook" ? (
          <WebhookParts
            slug={slug}
            feed={feed}
            list={list}
            failed={failed}
            zone={zone}
            now={now}
            hasMore={seen.list.length > PER_PAGE}
          />
        ) : null}
        {feed.kind === "drop-off" ? <DropOffParts slug={slug} feed={feed} setting={setting} /> : null}
        {feed.kind === "calendar" ? (
          <CalendarParts slug={slug} feed={feed} setting={setting} services={services} />
        ) : null}
        {feed.kind === "end of day" ? (
          <div className="mt-5 space-y-3">
            <p className="lead">
              Fetched once a day, imported, and asked about. What cannot be read without a question waits under People.
            </p>
            <ConfirmButton action={fetchNow.bind(null, slug, id)}>Fetch it now</ConfirmButton>
            <p>
              <Link href={`/c/${slug}/people/import`} className="words-link">
                The lists it brought
              </Link>
            </p>
          </div>
        ) : null}
      </Page>
    </>
  );
}

function titleOf(feed: Feed, failed: number): string {
  if (feed.state === "off") return `${feed.name} is turned off.`;
  if (feed.problem) return `${feed.name} cannot be reached.`;
  if (failed > 0) return `${capital(sayCount(failed, "delivery", "deliveries"))} of ${feed.name} failed.`;
  return `${feed.name} is connected.`;
}

function WebhookParts({
  slug,
  feed,
  list,
  failed,
  zone,
  now,
  hasMore,
}: {
  slug: string;
  feed: Feed;
  list: InboundEvent[];
  failed: number;
  zone: string;
  now: number;
  hasMore: boolean;
}) {
  const mapping = mappingOf(feed);
  const sample = list[0]?.body ?? null;
  const names = [...new Set([...list.map(({ body }) => valueAt(body, mapping.type)), ...Object.keys(mapping.types)])]
    .filter(Boolean)
    .slice(0, 20);
  return (
    <>
      <dl className="mt-5 space-y-3">
        <div>
          <dt className="label">Address</dt>
          <dd>
            <Copyable text={addressOf(feed) ?? ""} label="Address" />
          </dd>
        </div>
        <div>
          <dt className="label">Signing secret</dt>
          <dd>
            <Copyable text={secretOf(feed) ?? ""} label="Secret" hidden />
            <ConfirmButton
              className="button-quiet mt-1"
              action={renew.bind(null, slug, feed.id)}
              sure="Make a new secret? Deliveries signed with the old one are refused at once."
            >
              Make a new secret
            </ConfirmButton>
          </dd>
        </div>
      </dl>
      <p className="text-second mt-3">
        Signed after the Standard Webhooks specification; older than five minutes is refused; the same event counts
        once.
      </p>
      <div className="mt-8 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-title text-[19px] font-semibold">Deliveries</h2>
        {failed > 0 ? (
          <ConfirmButton action={deliverAgain.bind(null, slug, feed.id, null)}>
            Try all {failed} failed again
          </ConfirmButton>
        ) : null}
      </div>
      {list.length === 0 ? (
        <p className="text-second mt-2">
          Nothing was delivered yet. Send a first event to the address above; it appears here within a second.
        </p>
      ) : (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {list.map((delivery) => (
            <li key={delivery.id} className="py-2.5">
              <details>
                <summary className="flex flex-wrap gap-x-4">
                  <span className="text-second w-[150px]">{sayMoment(zone, delivery.at, now)}</span>
                  <code className="text-[13px]">{valueAt(delivery.body, mapping.type) || "no name"}</code>
                  <span
                    className={
                      delivery.state === "failed"
                        ? "text-vermilion-deep"
                        : delivery.state === "done"
                          ? ""
                          : "text-second"
                    }
                  >
                    {delivery.result
                      ? eventSentence(delivery.result, zone, now)
                      : delivery.state === "waiting"
                        ? "Waits to be read."
                        : ""}
                  </span>
                </summary>
                <p className="text-second mt-1 text-[14px]">
                  {eventTypeOf(valueAt(delivery.body, mapping.type), mapping) ?? "no known event"} · {delivery.eventId}
                  {delivery.personId ? (
                    <>
                      {" "}
                      ·{" "}
                      <Link href={`/c/${slug}/people/${delivery.personId}`} className="underline">
                        the person
                      </Link>
                    </>
                  ) : null}
                </p>
                <pre className="border-rule bg-sheet mt-2 max-h-[260px] overflow-auto rounded-[8px] border p-3 text-[13px]">
                  {JSON.stringify(delivery.body, null, 2)}
                </pre>
                {delivery.state === "failed" ? (
                  <ConfirmButton className="button mt-2" action={deliverAgain.bind(null, slug, feed.id, delivery.id)}>
                    Try again
                  </ConfirmButton>
                ) : null}
              </details>
            </li>
          ))}
        </ul>
      )}
      {hasMore ? (
        <p className="mt-3">
          <Link href={`/c/${slug}/set-up/feeds/${feed.id}?before=${list.at(-1)?.at}`} className="button">
            Earlier deliveries
          </Link>
        </p>
      ) : null}
      <details
        className="mt-8"
        open={sample !== null && list.some(({ state }) => state === "failed" || state === "ignored")}
      >
        <summary className="font-title text-[19px] font-semibold">What is where in a delivery</summary>
        <div className="mt-3">
          <MappingForm
            slug={slug}
            id={feed.id}
            mapping={mapping}
            sample={sample}
            paths={pathsOf(sample)}
            names={names}
          />
        </div>
      </details>
    </>
  );
}

function DropOffParts({ slug, feed, setting }: { slug: string; feed: Feed; setting: Setting }) {
  const branch = setting.branches.find(({ id }) => id === feed.branchId);
  return (
    <div className="mt-5 space-y-4">
      <p className="lead">
        Bookmark it on the desk’s phone. No signing in; it can only add, and shows nobody who is here already.
        {branch ? ` Limited to ${branch.name}.` : ""}
      </p>
      <Copyable text={addressOf(feed) ?? ""} label="Link" />
      <p>
        <a href={addressOf(feed) ?? "#"} className="words-link" target="_blank" rel="noreferrer">
          Open the page
        </a>
      </p>
      <ConfirmButton
        action={renew.bind(null, slug, feed.id)}
        sure="Make a new link? The old one leads nowhere from then on."
      >
        Make a new link
      </ConfirmButton>
    </div>
  );
}

function CalendarParts({
  slug,
  feed,
  setting,
  services,
}: {
  slug: string;
  feed: Feed;
  setting: Setting;
  services: { id: string; name: string }[];
}) {
  const rules = feed.rules ?? [];
  return (
    <div className="mt-5 space-y-6">
      {feed.url ? <ConfirmButton action={fetchNow.bind(null, slug, feed.id)}>Look at it now</ConfirmButton> : null}
      <ImportCalendar slug={slug} id={feed.id} />
      <section>
        <h2 className="font-title mb-2 text-[19px] font-semibold">Which events are visits</h2>
        <p className="sr-only">
          {rules
            .map((rule) => sayRule(rule, setting.services.find(({ id }) => id === rule.serviceId)?.name ?? null))
            .join(" ")}
        </p>
        <RulesForm key={JSON.stringify(rules)} slug={slug} id={feed.id} rules={rules} services={services} />
      </section>
      <p className="text-second">
        Customers are named by an attendee, or by a line like “Phone: 07700 900123” in the description. An occurrence
        that is moved stays one visit; what disappears counts as cancelled.
      </p>
    </div>
  );
}
