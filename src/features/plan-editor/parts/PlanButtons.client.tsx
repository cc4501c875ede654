"use client";

import { type ReactNode, useState } from "react";
import type { Difference } from "@/core/plans/differences";
import type { PlanRules } from "@/core/plans/planRules";
import { clockTime, type Delay } from "@/core/time/delay";
import { ActionForm } from "@/ui/ActionForm.client";
import { PlanRuler, type RulerCalendar } from "@/ui/ruler/PlanRuler.client";
import { changePlan, dropChanges, lookAgain, newPlan, putChangesInForce, switchPlan } from "../actions";
import type { PlanRef } from "./planRef";

/** The plan's ruler, whose moved messages are kept as changes of the plan. */
export function MovablePlan({
  plan,
  ...ruler
}: {
  plan: PlanRef;
  rules: PlanRules;
  calendar: RulerCalendar;
  anchorAt: number;
  anchorName: string;
  gapMinutes: number;
  current: number;
  hrefs: string[];
}) {
  const save = async (step: number, delay: Delay) => {
    const form = new FormData();
    form.set("part", "delay");
    form.set("step", String(step));
    form.set("amount", String(delay.amount));
    form.set("unit", delay.unit);
    if (delay.at !== null && delay.at !== undefined) form.set("at", clockTime(delay.at));
    const result = await changePlan(plan.slug, plan.planId, plan.revision, null, form);
    return result?.ok ? null : (result?.message ?? "It wasn’t saved.");
  };
  return <PlanRuler {...ruler} save={plan.mayChange ? save : null} />;
}

type State = "draft" | "running" | "paused" | "archived";

const NEXT: Record<State, { state: "running" | "paused" | "archived"; says: string; main?: boolean }[]> = {
  draft: [{ state: "running", says: "Start plan", main: true }],
  running: [{ state: "paused", says: "Pause" }],
  paused: [{ state: "running", says: "Resume", main: true }],
  archived: [{ state: "running", says: "Run again" }],
};

/** Runs, pauses, resumes, archives, or makes another like it. */
export function PlanButtons({ slug, planId, state }: { slug: string; planId: string; state: State }) {
  return (
    <>
      <ActionForm action={switchPlan.bind(null, slug, planId)} className="contents">
        {({ pending }) =>
          NEXT[state].map((next) => (
            <button
              key={next.state}
              type="submit"
              name="state"
              value={next.state}
              className={next.main ? "button-main" : "button"}
              disabled={pending}
            >
              {next.says}
            </button>
          ))
        }
      </ActionForm>
      <ActionForm action={newPlan.bind(null, slug)} className="contents">
        {({ pending }) => (
          <>
            <input type="hidden" name="from" value={planId} />
            <button type="submit" className="button" disabled={pending}>
              {" "}
              Copy plan{" "}
            </button>
          </>
        )}
      </ActionForm>
      {state === "archived" ? null : (
        <ActionForm action={switchPlan.bind(null, slug, planId)} className="contents">
          {({ pending }) => (
            <button
              type="submit"
              name="state"
              value="archived"
              className="button"
              disabled={pending}
              onClick={(event) =>
                !confirm("Archive this plan? It won’t start any new asks; those under way will finish.") &&
                event.preventDefault()
              }
            >
              Archive
            </button>
          )}
        </ActionForm>
      )}
    </>
  );
}

/** Follows the review links again. */
export function LookAgain({ slug, className = "button-quiet -ml-2" }: { slug: string; className?: string }) {
  return (
    <ActionForm action={lookAgain.bind(null, slug)}>
      {({ pending }) => (
        <button type="submit" className={className} disabled={pending}>
          {pending ? "Checking…" : "Check the review links"}
        </button>
      )}
    </ActionForm>
  );
}

export type ForceFacts = {
  differences: Difference[];
  by: string | null;
  underWay: number;
  moved: number;
  ends: number;
  begins: number;
  same: number;
  leaving: number;
  examples: { name: string; href: string; before: string; after: string }[];
  rehearsal: string;
};

/** Changes that wait: what differs, what it would mean for asks under way, and the choice. */
export function PutInForce({ plan, facts }: { plan: PlanRef; facts: ForceFacts }) {
  return (
    <section
      aria-label="Changes not applied yet"
      className="border-ochre bg-ochre-tint/40 mt-5 rounded-[12px] border p-5"
    >
      <h2 className="text-[17px] font-semibold">
        {count(facts.differences.length, "change")} {facts.differences.length === 1 ? "isn’t" : "aren’t"} live yet
        {facts.by ? <span className="text-second font-sans text-[14px] font-normal"> · by {facts.by}</span> : null}
      </h2>
      <ul className="mt-2 space-y-1">
        {facts.differences.map((difference) => (
          <li key={difference.place} className="[overflow-wrap:anywhere]">
            <b>{difference.place}</b>: <span className="text-second line-through">{short(difference.before)}</span> →{" "}
            {short(difference.after)}
          </li>
        ))}
      </ul>
      {plan.mayChange ? (
        <>
          <ActionForm action={putChangesInForce.bind(null, plan.slug, plan.planId, plan.revision)} className="mt-4">
            {({ pending, error }) => (
              <>
                <ForWhom facts={facts} fault={error("for")} />
                <Examples examples={facts.examples} />
                <div className="mt-4 flex flex-wrap gap-2">
                  <button type="submit" className="button-main" disabled={pending}>
                    {pending ? "One moment…" : "Apply changes"}
                  </button>
                  <a href={facts.rehearsal} className="button">
                    Compare in a rehearsal
                  </a>
                </div>
              </>
            )}
          </ActionForm>
          <ActionForm action={dropChanges.bind(null, plan.slug, plan.planId)} className="mt-2">
            {({ pending }) => (
              <button type="submit" className="button-quiet -ml-2" disabled={pending}>
                Discard changes
              </button>
            )}
          </ActionForm>
        </>
      ) : null}
    </section>
  );
}

const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** For which asks the changes hold, and what becomes of those under way. */
function ForWhom({ facts, fault }: { facts: ForceFacts; fault: ReactNode }) {
  const [whom, setWhom] = useState("new asks");
  return (
    <fieldset className="space-y-1.5">
      <legend className="label">Apply them to</legend>
      <label className="flex gap-2.5">
        <input
          type="radio"
          name="for"
          value="new asks"
          checked={whom === "new asks"}
          onChange={() => setWhom("new asks")}
          className="mt-1.5"
        />
        <span>
          <b>new asks only</b>; {count(facts.underWay, "ask")} under way {facts.underWay === 1 ? "carries" : "carry"} on
          as before
        </span>
      </label>
      <label className="flex gap-2.5">
        <input
          type="radio"
          name="for"
          value="asks under way too"
          checked={whom === "asks under way too"}
          onChange={() => setWhom("asks under way too")}
          className="mt-1.5"
        />
        <span>
          <b>asks under way too</b>, for every message that hasn’t started going out
          {facts.underWay > 0 ? (
            <span className="text-second">
              :{" "}
              {[
                facts.moved ? `${facts.moved} would send a different next message` : "",
                facts.ends ? `${facts.ends} would end` : "",
                facts.begins ? `${facts.begins} would send one more message` : "",
                facts.same ? `nothing changes for ${facts.same}` : "",
                facts.leaving ? `${facts.leaving} are on their way out and stay as they are` : "",
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
          ) : null}
        </span>
      </label>
      {fault}
    </fieldset>
  );
}

function Examples({ examples }: { examples: ForceFacts["examples"] }) {
  if (examples.length === 0) return null;
  return (
    <details className="mt-2 text-[14px]">
      <summary className="text-second">For example</summary>
      <ul className="mt-1 space-y-0.5">
        {examples.map((example) => (
          <li key={example.href}>
            <a href={example.href} className="name-link">
              {example.name}
            </a>
            : {example.before} → {example.after}
          </li>
        ))}
      </ul>
    </details>
  );
}

function short(text: string): string {
  return text.length > 140 ? `${text.slice(0, 137)} …` : text;
}
