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
        Everyone it begins for, <TagsSentence plan={ref} rules={rules} choices={names.tags} />
        {setting.services.some(({ neverAsk }) => neverAsk) ? (
          <>
            ; never about{" "}
            <Link href={`/c/${ref.slug}/set-up`} className="words-link">
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
        Several visits of one household on one day give <HouseholdsSentence plan={ref} value={rules.households} />
        {"; "}for a minor the guardian is written to.
      </Row>
      <Row name="How often">
        A person is asked <RepeatSentence plan={ref} repeat={rules.repeat} />; being asked by hand counts
        {setting.client.restDays > 0
          ? `, and no plan asks within ${sayFigure(setting.client.restDays, "day")} of another`
          : ""}
        .
      </Row>
      <Row name="While it is fresh">
        A message that could not leave within <FreshSentence plan={ref} days={rules.freshDays} /> of its time is not
        sent any more.
      </Row>
      {rules.begins.kind === "list" ? (
        <Row name="Its list">
          Asks <PortionsSentence plan={ref} portions={rules.portions} />
          {rules.portions
            ? `; stops by itself above ${rules.portions.mostBounced} % back or ${rules.portions.mostOptedOut} % opted out`
            : ""}
          .
        </Row>
      ) : null}
      <Row name="Its turn">
        Where not everything may leave at once, its messages leave{" "}
        <FirstSentence plan={ref} goesFirst={rules.goesFirst} />.
      </Row>
      <Row name="When texts leave">
        <HoursSentence {...hoursOf(setting, "text")} slug={ref.slug} mayChange={ref.mayChange} />
        {setting.client.keepsHolidays ? ", not on public holidays" : ""}; and never before 8:00 or after 21:00 where the
        person is.
      </Row>
      <Row name="When emails leave">
        <HoursSentence {...hoursOf(setting, "email")} slug={ref.slug} mayChange={ref.mayChange} />
        {setting.client.keepsHolidays ? ", not on public holidays" : ""}. The hours hold for every plan.
      </Row>
      <Row name="What the page asks">
        <QuestionSentence action={actionOf(ref)} rules={rules} />
      </Row>
      <Row name="A picture">
        Stands on <PictureSentence plan={ref} rules={rules} />
        <PictureCost view={view} />.{" "}
        <Link href={`${view.base}/picture`} className="words-link">
          What it shows
        </Link>
      </Row>
      <Row name="What opens">
        <DoorsSentence action={actionOf(ref)} doors={rules.doors} />.
        {rules.doors.mode === "private only" ? ` ${rules.doors.acknowledgedBy} answers for it.` : ""}
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
      : {sayCount(texts, "text")} a month at today’s pace, which is <b>{sayPrice(texts * mediaPrice, currency)}</b> in
      place of {sayPrice(plain, currency)}
    </>
  );
}
