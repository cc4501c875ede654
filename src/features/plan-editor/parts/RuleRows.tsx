import { sayPrice } from "@/core/money";
import { sayCount, sayFigure } from "@/core/time/say";
import { hoursOf } from "@/features/clients";
import { Row } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { PlanView } from "../planView";
import {
  FirstSentence,
  FreshSentence,
  HouseholdsSentence,
  PortionsSentence,
  RepeatSentence,
  TagsSentence,
} from "./AskedSentences.client";
import { HoursSentence } from "./ClientSentences.client";
import { DoorsSentence, SitesSentence } from "./DoorSentences.client";
import { PictureSentence } from "./PictureSentence.client";
import { actionOf } from "./planRef";
import { QuestionSentence } from "./QuestionSentence.client";

/** Every rule of a plan that is not about one message, each as a sentence whose underlined parts change it. */
export function RuleRows({ view }: { view: PlanView }) {
  const { ref, rules, setting, names } = view;
  return (
    <dl className="divide-rule border-rule mt-6 divide-y border-y">
      <Row name="Who is asked">
        Everyone it starts for, <TagsSentence plan={ref} rules={rules} choices={names.tags} />
        {setting.services.some(({ neverAsk }) => neverAsk) ? (
          <>
            ; never about{" "}
            <Link href={`/c/${ref.slug}/set-up/services`} className="words-link">
              {setting.services
                .filter(({ neverAsk }) => neverAsk)
                .map(({ name }) => name.toLowerCase())
                .join(" or ")}
            </Link>
          </>
        ) : null}
        .
      </Row>
      <Row name="Households">
        If several people in a household visit on the same day, send{" "}
        <HouseholdsSentence plan={ref} value={rules.households} />
        {"; "}for a minor, messages go to the guardian.
      </Row>
      <Row name="How often">
        Ask each person <RepeatSentence plan={ref} repeat={rules.repeat} />; asks by hand count too
        {setting.client.restDays > 0
          ? `, and no plan asks within ${sayFigure(setting.client.restDays, "day")} of another`
          : ""}
        .
      </Row>
      <Row name="Too late">
        A message that couldn’t go out within <FreshSentence plan={ref} days={rules.freshDays} /> of when it was due
        isn’t sent.
      </Row>
      {rules.begins.kind === "list" ? (
        <Row name="Asking a list">
          Asks <PortionsSentence plan={ref} portions={rules.portions} />
          {rules.portions
            ? `; pauses itself if more than ${rules.portions.mostBounced}% bounce or ${rules.portions.mostOptedOut}% opt out`
            : ""}
          .
        </Row>
      ) : null}
      <Row name="Priority">
        When there’s a queue, its messages go out <FirstSentence plan={ref} goesFirst={rules.goesFirst} />.
      </Row>
      <Row name="When texts go out">
        <HoursSentence {...hoursOf(setting, "text")} slug={ref.slug} mayChange={ref.mayChange} />
        {setting.client.keepsHolidays ? ", not on public holidays" : ""}; never before 8:00 or after 21:00 in the
        person’s own time.
      </Row>
      <Row name="When emails go out">
        <HoursSentence {...hoursOf(setting, "email")} slug={ref.slug} mayChange={ref.mayChange} />
        {setting.client.keepsHolidays ? ", not on public holidays" : ""}. These hours apply to every plan.
      </Row>
      <Row name="What the page asks">
        <QuestionSentence action={actionOf(ref)} rules={rules} />
      </Row>
      <Row name="A picture">
        Goes in <PictureSentence plan={ref} rules={rules} />
        <PictureCost view={view} />.{" "}
        <Link href={`${view.base}/picture`} className="words-link">
          What it shows
        </Link>
      </Row>
      <Row name="Doors">
        <DoorsSentence action={actionOf(ref)} doors={rules.doors} />.
        {rules.doors.mode === "private only" ? ` ${rules.doors.acknowledgedBy} takes responsibility for it.` : ""}
      </Row>
      <Row name="Review sites">
        <SitesSentence
          plan={ref}
          sites={rules.sites}
          known={[...new Set(setting.listings.map(({ site }) => site))]}
          accounts={Object.fromEntries(setting.listings.map(({ site, accountDomains }) => [site, accountDomains]))}
        />
      </Row>
    </dl>
  );
}

/** What the texts with a picture cost a month, at the pace of the last one. */
function PictureCost({ view }: { view: PlanView }) {
  const { rules, setting, monthly } = view;
  const { mediaPrice, currency } = setting.client;
  const steps = rules.picture?.texts ?? [];
  if (steps.length === 0) return null;
  const texts = steps.reduce((sum, key) => sum + (monthly[key]?.texts ?? 0), 0);
  const plain = steps.reduce((sum, key) => sum + (monthly[key]?.parts ?? 0), 0) * setting.client.partPrice;
  return (
    <>
      : {sayCount(texts, "text")} a month at the current rate, costing <b>{sayPrice(texts * mediaPrice, currency)}</b>{" "}
      instead of {sayPrice(plain, currency)}
    </>
  );
}
