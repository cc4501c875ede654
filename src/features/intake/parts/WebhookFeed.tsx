import { eventTypeOf, pathsOf, valueAt } from "@/core/intake/events";
import { sayMoment } from "@/core/time/say";
import { eventSentence } from "@/locales/intake";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Copyable } from "@/ui/Copyable.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { deliverAgain, renew } from "../feedActions";
import { addressOf, type Feed, type InboundEvent, mappingOf, secretOf } from "../feeds";
import { MappingForm } from "./MappingForm.client";

type Props = {
  slug: string;
  feed: Feed;
  list: InboundEvent[];
  failed: number;
  /** How many visits came by it. */
  visits: number;
  zone: string;
  now: number;
  hasMore: boolean;
};

/** A webhook: where to deliver and how to sign, what was delivered, and what is where in a delivery. */
export function WebhookFeed({ slug, feed, list, failed, visits, zone, now, hasMore }: Props) {
  const mapping = mappingOf(feed);
  const sample = list[0]?.body ?? null;
  const names = [...new Set([...list.map(({ body }) => valueAt(body, mapping.type)), ...Object.keys(mapping.types)])]
    .filter(Boolean)
    .slice(0, 20);
  return (
    <>
      <AddressAndSecret slug={slug} feed={feed} />
      <p className="text-second mt-3">
        Sign deliveries following the Standard Webhooks specification. We reject anything over five minutes old; the
        same event counts once.
      </p>
      <div className="mt-8 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-title text-[19px] font-semibold">Deliveries</h2>
        {failed > 0 ? (
          <ConfirmButton action={deliverAgain.bind(null, slug, feed.id, null)}>Retry all {failed} failed</ConfirmButton>
        ) : null}
      </div>
      {list.length === 0 ? (
        <p className="text-second mt-2">
          {visits > 0
            ? "We no longer have any deliveries on file. The visits they brought stay."
            : "No deliveries yet. Send an event to the address above and it’ll show up here within a second."}
        </p>
      ) : (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {list.map((delivery) => (
            <Delivery key={delivery.id} slug={slug} feed={feed} delivery={delivery} zone={zone} now={now} />
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
        <summary className="font-title text-[19px] font-semibold">Where things are in a delivery</summary>
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

function AddressAndSecret({ slug, feed }: { slug: string; feed: Feed }) {
  return (
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
            sure="Make a new secret? Deliveries signed with the old one will be rejected straight away."
          >
            Make a new secret
          </ConfirmButton>
        </dd>
      </div>
    </dl>
  );
}

function Delivery({
  slug,
  feed,
  delivery,
  zone,
  now,
}: {
  slug: string;
  feed: Feed;
  delivery: InboundEvent;
  zone: string;
  now: number;
}) {
  const mapping = mappingOf(feed);
  return (
    <li className="py-2.5">
      <details>
        <summary className="flex flex-wrap gap-x-4">
          <span className="text-second w-[150px]">{sayMoment(zone, delivery.at, now)}</span>
          <code className="text-[13px]">{valueAt(delivery.body, mapping.type) || "no name"}</code>
          <span
            className={
              delivery.state === "failed" ? "text-vermilion-deep" : delivery.state === "done" ? "" : "text-second"
            }
          >
            {delivery.result
              ? eventSentence(delivery.result, zone, now)
              : delivery.state === "waiting"
                ? "Waiting to be read."
                : ""}
          </span>
        </summary>
        <p className="text-second mt-1 text-[14px]">
          {eventTypeOf(valueAt(delivery.body, mapping.type), mapping) ?? "unknown event"} · {delivery.eventId}
          {delivery.personId ? (
            <>
              {" "}
              ·{" "}
              <Link href={`/c/${slug}/people/${delivery.personId}`} className="underline">
                see the person
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
  );
}
