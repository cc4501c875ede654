import { sayRule } from "@/core/calendar/rules";
import type { Setting } from "@/features/clients";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Copyable } from "@/ui/Copyable.client";
import { fetchNow, renew } from "../feedActions";
import { addressOf, type Feed } from "../feeds";
import { ImportCalendar } from "./FeedForms.client";
import { RulesForm } from "./RulesForm.client";

/** A drop-off page: its link. */
export function DropOffFeed({ slug, feed, setting }: { slug: string; feed: Feed; setting: Setting }) {
  const branch = setting.branches.find(({ id }) => id === feed.branchId);
  return (
    <div className="mt-5 space-y-4">
      <p className="lead">
        Bookmark it on the front desk’s phone. There’s no sign-in; it can only add people, and never shows who’s already
        here.
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
        sure="Make a new link? The old one stops working straight away."
      >
        Make a new link
      </ConfirmButton>
    </div>
  );
}

/** A calendar: which of its events are visits. */
export function CalendarFeed({
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
      {feed.url ? <ConfirmButton action={fetchNow.bind(null, slug, feed.id)}>Check now</ConfirmButton> : null}
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
        We find the customer from an attendee, or from a line like “Phone: 07700 900123” in the description. An event
        that moves stays the same visit; one that’s deleted counts as cancelled.
      </p>
    </div>
  );
}
