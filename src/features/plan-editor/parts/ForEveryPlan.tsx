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
          Anyone who’s been asked or has left a review rests from every plan for{" "}
          <RestSentence {...who} days={client.restDays} />.
        </Row>
        <Row name="Consent">
          Messages go to <ConsentSentence {...who} needed={client.needsConsent} />.
        </Row>
        <Row name="Gap">
          Between any two messages to the same person, leave at least{" "}
          <GapSentence {...who} minutes={client.gapMinutes} />.
        </Row>
        <Row name="Pace">
          In any hour, send <CeilingSentence {...who} texts={client.textsAnHour} emails={client.emailsAnHour} />.
        </Row>
        <Row name="Allowance">
          In a month:{" "}
          <AllowanceSentence
            {...who}
            texts={client.textsAMonth}
            emails={client.emailsAMonth}
            leavesOut={client.leavesOutWhenUsedUp}
          />
          . A text part costs{" "}
          <PriceSentence {...who} price={client.partPrice} mediaPrice={client.mediaPrice} currency={client.currency} />.
        </Row>
        <Row name="Texts go out">
          <HoursSentence {...hoursOf(setting, "text")} {...who} />
          {client.keepsHolidays ? ", except public holidays" : ""}; never before 8:00 or after 21:00 in the person’s own
          time.
        </Row>
        <Row name="Emails go out">
          <HoursSentence {...hoursOf(setting, "email")} {...who} />
          {client.keepsHolidays ? ", except public holidays" : ""}.
        </Row>
      </dl>
    </section>
  );
}
