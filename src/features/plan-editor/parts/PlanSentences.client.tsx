"use client";

import { useState } from "react";
import type { PlanRules } from "@/core/plans/planRules";
import { KIND_WORDS, sayBegins } from "@/core/plans/sayRules";
import { Sentence } from "@/ui/Sentence.client";
import { namePlan } from "../actions";
import { type Choice, Hidden, NumberField, Radios, Ticks } from "./fields";
import { actionOf, type PlanRef } from "./planRef";

/** The plan's name, as it is changed. */
export function NameSentence({ plan, name }: { plan: PlanRef; name: string }) {
  return (
    <Sentence
      words="Rename"
      label="The plan’s name"
      action={plan.mayChange ? namePlan.bind(null, plan.slug, plan.planId) : null}
    >
      {(error) => (
        <>
          <label className="label" htmlFor="plan-name">
            Name
          </label>
          <input id="plan-name" name="name" className="field" defaultValue={name} maxLength={60} />
          {error("name")}
        </>
      )}
    </Sentence>
  );
}

type Names = { services: Choice[]; branches: Choice[]; tags: string[] };

/** What a plan begins with. */
export function BeginsSentence({ plan, begins, names }: { plan: PlanRef; begins: PlanRules["begins"]; names: Names }) {
  const [kind, setKind] = useState<PlanRules["begins"]["kind"]>(begins.kind);
  const chosen = (which: "services" | "branches") =>
    which in begins ? (begins as { services: string[]; branches: string[] })[which] : [];
  const nameOf = (id: string) =>
    [...names.services, ...names.branches].find((one) => one.id === id)?.name ?? "something that’s been removed";
  return (
    <Sentence words={sayBegins(begins, nameOf)} label="When it starts" id="begins" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="begins" />
          <div>
            <label className="label" htmlFor="kind">
              It starts when
            </label>
            <select
              id="kind"
              name="kind"
              className="field"
              value={kind}
              onChange={(event) => setKind(event.target.value as typeof kind)}
            >
              <option value="visit">a visit ends</option>
              <option value="invoice">an invoice is paid</option>
              <option value="tag">someone gets a tag</option>
              <option value="customer">someone has been a customer for a certain time</option>
              <option value="put right">a concern is closed as put right</option>
              <option value="list">a list comes in</option>
              <option value="by hand">someone asks by hand</option>
            </select>
            {error("kind")}
          </div>
          {kind === "visit" || kind === "invoice" || kind === "list" ? (
            <>
              {kind === "visit" ? (
                <Ticks
                  name="kinds"
                  legend="Of these kinds"
                  choices={Object.entries(KIND_WORDS).map(([id, name]) => ({ id, name }))}
                  chosen={begins.kind === "visit" ? begins.kinds : []}
                  all="Tick none for every kind."
                />
              ) : null}
              <Ticks
                name="services"
                legend="For these services"
                choices={names.services}
                chosen={chosen("services")}
                all="Tick none for every service."
              />
              {names.branches.length > 1 ? (
                <Ticks
                  name="branches"
                  legend="At these branches"
                  choices={names.branches}
                  chosen={chosen("branches")}
                  all="Tick none for every branch."
                />
              ) : null}
            </>
          ) : null}
          {kind === "tag" ? (
            <div>
              <label className="label" htmlFor="tag">
                Tag
              </label>
              <select id="tag" name="tag" className="field" defaultValue={begins.kind === "tag" ? begins.tag : ""}>
                {names.tags.map((tag) => (
                  <option key={tag}>{tag}</option>
                ))}
              </select>
              <p className="text-second mt-1 text-[13px]">
                They’re asked about their last visit. Time counts from when they got the tag.
              </p>
              {error("tag")}
            </div>
          ) : null}
          {kind === "customer" ? (
            <NumberField
              name="days"
              label="Days since their first visit"
              value={begins.kind === "customer" ? begins.days : 365}
              error={error("days")}
              hint="People who’ve been customers for longer than that when the plan starts aren’t asked."
            />
          ) : null}
        </div>
      )}
    </Sentence>
  );
}

/** Ask straight away, or ask how it went first. */
export function StyleSentence({ plan, rules }: { plan: PlanRef; rules: PlanRules }) {
  const first = rules.style === "how it went first";
  return (
    <Sentence
      words={first ? "first asks how it went" : "asks straight away"}
      label="How it asks"
      action={actionOf(plan)}
    >
      {() => (
        <div className="space-y-3">
          <Hidden part="style" />
          <Radios
            name="style"
            legend="It asks"
            value={rules.style}
            choices={[
              ["straight away", "Straight away", "Rating, words and review sites on one page."],
              [
                "how it went first",
                "How it went first",
                "Thanks everyone, passes unhappy customers to you straight away, and asks happy ones for a review a few days later.",
              ],
            ]}
          />
        </div>
      )}
    </Sentence>
  );
}
