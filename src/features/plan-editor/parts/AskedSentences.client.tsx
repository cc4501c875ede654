"use client";

import { useState } from "react";
import type { PlanRules } from "@/core/plans/planRules";
import { sayRepeat } from "@/core/plans/sayRules";
import { sayFigure } from "@/core/time/say";
import { Sentence } from "@/ui/Sentence.client";
import { Hidden, NumberField, Radios, Ticks } from "./fields";
import { actionOf, type PlanRef } from "./planRef";

/** How often one person is asked. */
export function RepeatSentence({ plan, repeat }: { plan: PlanRef; repeat: PlanRules["repeat"] }) {
  return (
    <Sentence words={sayRepeat(repeat)} label="How often a person is asked" id="often" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="repeat" />
          <Radios
            name="kind"
            legend="A person is asked"
            value={repeat.kind}
            choices={[
              ["once", "once only"],
              ["rest", "at most every so many days"],
              ["every visit", "after every visit"],
            ]}
          />
          <NumberField
            name="days"
            label="Days to rest"
            value={repeat.kind === "rest" ? repeat.days : 180}
            error={error("days")}
            hint="Counted from the day they were last asked, by this plan or by hand, or wrote a review."
          />
        </div>
      )}
    </Sentence>
  );
}

/** How late is too late. */
export function FreshSentence({ plan, days }: { plan: PlanRef; days: number }) {
  return (
    <Sentence
      words={days === 1 ? "1 day" : `${days} days`}
      label="How late is too late"
      id="fresh"
      action={actionOf(plan)}
    >
      {(error) => (
        <>
          <Hidden part="fresh" />
          <NumberField
            name="freshDays"
            label="Days"
            value={days}
            error={error("freshDays")}
            hint="After an outage or a pause, what is older ends as too late."
          />
        </>
      )}
    </Sentence>
  );
}

/** The tags that leave a person out, and those a person must have. */
export function TagsSentence({ plan, rules, choices }: { plan: PlanRef; rules: PlanRules; choices: string[] }) {
  const all = [...new Set([...choices, ...rules.excludeTags, ...rules.onlyTags])].map((name) => ({ id: name, name }));
  const never = rules.excludeTags.length > 0 ? `never tagged ${rules.excludeTags.join(", ")}` : "whatever the tags";
  return (
    <Sentence
      words={rules.onlyTags.length > 0 ? `only tagged ${rules.onlyTags.join(" or ")}, ${never}` : never}
      label="Tags"
      id="who"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="tags" />
          {all.length === 0 ? <p>There are no tags yet. Make them under Set-up.</p> : null}
          <Ticks name="excludeTags" legend="Leave out whoever is tagged" choices={all} chosen={rules.excludeTags} />
          <Ticks
            name="onlyTags"
            legend="Ask only people or visits tagged"
            choices={all}
            chosen={rules.onlyTags}
            all="None ticked: everybody."
          />
          {error("excludeTags")}
        </div>
      )}
    </Sentence>
  );
}

export const HOUSEHOLD_WORDS: Record<PlanRules["households"], string> = {
  together: "one ask that names everybody of the household",
  "one only": "an ask for the first of the household, and none for the others",
  each: "an ask for each person",
};

/** What becomes of several visits of a household on one day. */
export function HouseholdsSentence({ plan, value }: { plan: PlanRef; value: PlanRules["households"] }) {
  return (
    <Sentence words={HOUSEHOLD_WORDS[value]} label="Households" action={actionOf(plan)}>
      {() => (
        <>
          <Hidden part="households" />
          <Radios
            name="households"
            legend="Several visits of one household on a day give"
            value={value}
            choices={Object.entries(HOUSEHOLD_WORDS)}
          />
        </>
      )}
    </Sentence>
  );
}

/** Whose messages leave first where a ceiling binds. */
export function FirstSentence({ plan, goesFirst }: { plan: PlanRef; goesFirst: boolean }) {
  return (
    <Sentence
      words={goesFirst ? "before those of other plans" : "in their turn"}
      label="Which messages leave first"
      action={actionOf(plan)}
    >
      {() => (
        <>
          <Hidden part="first" />
          <Radios
            name="goesFirst"
            legend="Where not all may leave at once, its messages leave"
            value={goesFirst ? "yes" : "no"}
            choices={[
              ["yes", "before those of other plans"],
              ["no", "in their turn"],
            ]}
          />
        </>
      )}
    </Sentence>
  );
}

/** How an old list is asked: in daily portions. */
export function PortionsSentence({ plan, portions }: { plan: PlanRef; portions: PlanRules["portions"] }) {
  const [on, setOn] = useState(portions !== null);
  return (
    <Sentence
      words={
        portions
          ? `${sayFigure(portions.perDay, "person", "people")} a day, newest visits first`
          : "everybody at once, spread over the send hours"
      }
      label="How a list is asked"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="portions" />
          <Radios
            name="portions"
            legend="A list is asked"
            value={on ? "yes" : "no"}
            onChange={(value) => setOn(value === "yes")}
            choices={[
              ["no", "at once, spread over the send hours"],
              ["yes", "in daily portions, newest visits first"],
            ]}
          />
          {on ? (
            <>
              <NumberField name="perDay" label="People a day" value={portions?.perDay ?? 40} error={error("perDay")} />
              <div className="flex gap-2">
                <NumberField
                  name="mostBounced"
                  label="Stops above, % back"
                  value={portions?.mostBounced ?? 5}
                  error={error("mostBounced")}
                />
                <NumberField
                  name="mostOptedOut"
                  label="or % opted out"
                  value={portions?.mostOptedOut ?? 3}
                  error={error("mostOptedOut")}
                />
              </div>
              <p className="text-second text-[13px]">
                Looked at from the twentieth message on. It pauses by itself, says so on Today, and tells whoever may
                change it by email.
              </p>
            </>
          ) : null}
        </div>
      )}
    </Sentence>
  );
}
