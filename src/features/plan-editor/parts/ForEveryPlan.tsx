import { hoursOf, type Setting } from "@/features/clients";
import { Row } from "@/ui/Page";
import {
  AllowanceSentence,
  CeilingSentence,
  ConsentSentence,
  GapSentence,
  HoursSentence,
  PriceSentence,
  RestSentence,
} from "./ClientSentences.client";

/** The client's rules that hold for every plan, each as a sentence whose underlined parts change it. */
export function ForEveryPlan({ setting, slug, mayChange }: { setting: Setting; slug: string; mayChange: boolean }) {
  const { client } = setting;
  const who = { slug, mayChange };
  return (
    <section className="mt-8" aria-label="For every plan">
      <h2 className="text-[19px] font-semibold">For every plan</h2>
      <dl className="divide-rule border-rule mt-2 divide-y border-y">
        <Row name="Rest">
          Whoever was asked or wrote a review rests from every plan for <RestSentence {...who} days={client.restDays} />
          .
        </Row>
        <Row name="Consent">
          Messages go to <ConsentSentence {...who} needed={client.needsConsent} />.
        </Row>
        <Row name="Distance">
          Between any two messages to one person lie at least <GapSentence {...who} minutes={client.gapMinutes} />.
        </Row>
        <Row name="Pace">
          Within an hour leave <CeilingSentence {...who} texts={client.textsAnHour} emails={client.emailsAnHour} />.
        </Row>
        <Row name="Allowance">
          In a month:{" "}
          <AllowanceSentence
            {...who}
            texts={client.textsAMonth}
            emails={client.emailsAMonth}
            leavesOut={client.leavesOutWhenUsedUp}
          />
          . A part of a text counts as{" "}
          <PriceSentence {...who} price={client.partPrice} mediaPrice={client.mediaPrice} currency={client.currency} />.
        </Row>
        <Row name="Texts leave">
          <HoursSentence {...hoursOf(setting, "text")} {...who} />
          {client.keepsHolidays ? ", not on public holidays" : ""}; never before 8:00 or after 21:00 where the person
          is.
        </Row>
        <Row name="Emails leave">
          <HoursSentence {...hoursOf(setting, "email")} {...who} />
          {client.keepsHolidays ? ", not on public holidays" : ""}.
        </Row>
      </dl>
    </section>
  );
}
