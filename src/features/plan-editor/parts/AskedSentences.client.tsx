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
    <Sentence words={sayRepeat(repeat)} label="How often to ask someone" id="often" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="repeat" />
          <Radios
            name="kind"
            legend="Ask someone"
            value={repeat.kind}
            choices={[
              ["once", "once only"],
              ["rest", "at most once every few days"],
              ["every visit", "after every visit"],
            ]}
          />
          <NumberField
            name="days"
            label="Days of rest"
            value={repeat.kind === "rest" ? repeat.days : 180}
            error={error("days")}
            hint="Counted from when they were last asked, by this plan or by hand, or left a review."
          />
        </div>
      )}
    </Sentence>
  );
}

/** When a message is too late. */
export function FreshSentence({ plan, days }: { plan: PlanRef; days: number }) {
  return (
    <Sentence
      words={days === 1 ? "1 day" : `${days} days`}
      label="When it’s too late"
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
            hint="After an outage or a pause, messages older than this aren’t sent."
          />
        </>
      )}
    </Sentence>
  );
}

/** The tags that leave a person out, and those a person must have. */
export function TagsSentence({ plan, rules, choices }: { plan: PlanRef; rules: PlanRules; choices: string[] }) {
  const all = [...new Set([...choices, ...rules.excludeTags, ...rules.onlyTags])].map((name) => ({ id: name, name }));
  const never =
    rules.excludeTags.length > 0 ? `except anyone tagged ${rules.excludeTags.join(", ")}` : "whatever their tags";
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
          {all.length === 0 ? <p>No tags yet. Create some under Set-up.</p> : null}
          <Ticks name="excludeTags" legend="Leave out anyone tagged" choices={all} chosen={rules.excludeTags} />
          <Ticks
            name="onlyTags"
            legend="Ask only people or visits tagged"
            choices={all}
            chosen={rules.onlyTags}
            all="Tick none for everyone."
          />
          {error("excludeTags")}
        </div>
      )}
    </Sentence>
  );
}

export const HOUSEHOLD_WORDS: Record<PlanRules["households"], string> = {
  together: "one ask that names everyone",
  "one only": "an ask to the first person only",
  each: "an ask to each person",
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
            legend="If several people in a household visit on the same day, send"
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
      words={goesFirst ? "ahead of other plans" : "in turn with other plans"}
      label="Priority"
      action={actionOf(plan)}
    >
      {() => (
        <>
          <Hidden part="first" />
          <Radios
            name="goesFirst"
            legend="When there’s a queue, this plan’s messages go out"
            value={goesFirst ? "yes" : "no"}
            choices={[
              ["yes", "ahead of other plans"],
              ["no", "in turn with other plans"],
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
          : "everyone in one go, spread over the send hours"
      }
      label="How a list is asked"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="portions" />
          <Radios
            name="portions"
            legend="People on a list are asked"
            value={on ? "yes" : "no"}
            onChange={(value) => setOn(value === "yes")}
            choices={[
              ["no", "in one go, spread over the send hours"],
              ["yes", "in daily batches, newest visits first"],
            ]}
          />
          {on ? (
            <>
              <NumberField name="perDay" label="People a day" value={portions?.perDay ?? 40} error={error("perDay")} />
              <div className="flex gap-2">
                <NumberField
                  name="mostBounced"
                  label="Pause if more than this % bounce"
                  value={portions?.mostBounced ?? 5}
                  error={error("mostBounced")}
                />
                <NumberField
                  name="mostOptedOut"
                  label="or more than this % opt out"
                  value={portions?.mostOptedOut ?? 3}
                  error={error("mostOptedOut")}
                />
              </div>
              <p className="text-second text-[13px]">
                Checked from the 20th message on. The plan pauses itself, it shows up on Today, and we email everyone
                who can change it.
              </p>
            </>
          ) : null}
        </div>
      )}
    </Sentence>
  );
}
