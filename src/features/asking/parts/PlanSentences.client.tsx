"use client";

import { useState } from "react";
import type { DoorsMode, PlanRules, PlanStep } from "@/core/plans/planRules";
import { clockTime, describeDelay } from "@/core/time/delay";
import type { WeekHours } from "@/core/time/sendHours";
import { ActionForm } from "@/ui/ActionForm.client";
import { Sentence } from "@/ui/Sentence.client";
import { changeHours, changePlan, switchPlan } from "../actions";

type PlanRef = { slug: string; planId: string; version: number; mayChange: boolean };

const actionOf = ({ slug, planId, version, mayChange }: PlanRef) => (mayChange ? changePlan.bind(null, slug, planId, version) : null);

function Hidden({ part, step }: { part: string; step?: number }) {
  return (
    <>
      <input type="hidden" name="part" value={part} />
      {step === undefined ? null : <input type="hidden" name="step" value={step} />}
    </>
  );
}

/** "Goes out 2 hours after the visit ends, ...": when and how one message leaves. */
export function DelaySentence({ plan, step, index }: { plan: PlanRef; step: PlanStep; index: number }) {
  return (
    <Sentence words={describeDelay(step.delay)} label={`When “${step.name}” goes out`} action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="delay" step={index} />
          <div className="flex gap-2">
            <div className="flex-1">
              <label className="label" htmlFor="amount">
                After
              </label>
              <input id="amount" name="amount" inputMode="numeric" className="field" defaultValue={step.delay.amount} />
            </div>
            <div className="flex-1">
              <label className="label" htmlFor="unit">
                Unit
              </label>
              <select id="unit" name="unit" className="field" defaultValue={step.delay.unit}>
                <option>minutes</option>
                <option>hours</option>
                <option>days</option>
                <option>weeks</option>
              </select>
            </div>
          </div>
          {error("amount")}
          <div>
            <label className="label" htmlFor="at">
              At a set time of day
            </label>
            <input id="at" name="at" className="field" defaultValue={step.delay.at === null || step.delay.at === undefined ? "" : clockTime(step.delay.at)} />
            <p className="text-second mt-1 text-[13px]">For days and weeks. Left empty: the same time as before.</p>
            {error("at")}
          </div>
          <div>
            <label className="label" htmlFor="channel">
              By
            </label>
            <select id="channel" name="channel" className="field" defaultValue={step.channel}>
              <option>text</option>
              <option>email</option>
            </select>
          </div>
        </div>
      )}
    </Sentence>
  );
}

/** The words of one message, for both channels. */
export function WordsSentence({ plan, step, index, placeholders }: { plan: PlanRef; step: PlanStep; index: number; placeholders: string[] }) {
  return (
    <Sentence words="Change the words" label={`The words of “${step.name}”`} action={actionOf(plan)} wide>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="words" step={index} />
          <p className="text-second text-[13px]">
            In braces, with what to say when it is not known: {placeholders.map((name) => `{${name}}`).join(" ")}, for example {"{first name|there}"}.
          </p>
          <div>
            <label className="label" htmlFor="text">
              As a text
            </label>
            <textarea id="text" name="text" rows={4} className="field" defaultValue={step.text} />
            {error("text")}
          </div>
          <div>
            <label className="label" htmlFor="subject">
              Subject of the email
            </label>
            <input id="subject" name="subject" className="field" defaultValue={step.subject} />
            {error("subject")}
          </div>
          <div>
            <label className="label" htmlFor="email">
              As an email
            </label>
            <textarea id="email" name="email" rows={9} className="field" defaultValue={step.email} />
            {error("email")}
          </div>
        </div>
      )}
    </Sentence>
  );
}

/** A whole number of days in a sentence. */
export function DaysSentence({
  plan,
  part,
  name,
  value,
  words,
  label,
  hint,
}: {
  plan: PlanRef;
  part: "rest" | "fresh";
  name: string;
  value: number;
  words: string;
  label: string;
  hint: string;
}) {
  return (
    <Sentence words={words} label={label} action={actionOf(plan)}>
      {(error) => (
        <>
          <Hidden part={part} />
          <label className="label" htmlFor={name}>
            Days
          </label>
          <input id={name} name={name} inputMode="numeric" className="field" defaultValue={value} />
          <p className="text-second mt-1 text-[13px]">{hint}</p>
          {error(name)}
        </>
      )}
    </Sentence>
  );
}

/** The tags that leave a person out: picked from the client's. */
export function TagsSentence({ plan, tags, choices }: { plan: PlanRef; tags: string[]; choices: string[] }) {
  const all = [...new Set([...choices, ...tags])];
  return (
    <Sentence words={tags.length > 0 ? tags.join(", ") : "any tag"} label="Tags that leave people out" action={actionOf(plan)}>
      {(error) => (
        <>
          <Hidden part="tags" />
          {all.length === 0 ? <p>There are no tags yet. Make them under Set-up.</p> : null}
          {all.map((tag) => (
            <label key={tag} className="flex min-h-[30px] items-center gap-2">
              <input type="checkbox" name="excludeTags" value={tag} defaultChecked={tags.includes(tag)} className="accent-mulberry size-[17px]" /> {tag}
            </label>
          ))}
          {error("excludeTags")}
        </>
      )}
    </Sentence>
  );
}

const DOOR_WORDS: Record<DoorsMode, { name: string; says: string }> = {
  open: { name: "Open", says: "Every rating sees the review sites and the private form side by side." },
  "listen first": { name: "Listen first", says: "An unhappy rating sees the private form first; the sites stay below it." },
  "private only": { name: "Private only", says: "An unhappy rating sees only the private form." },
};

/** What the answer page opens, and from which rating on somebody counts as unhappy. */
export function DoorsSentence({ plan, doors }: { plan: PlanRef; doors: PlanRules["doors"] }) {
  const [mode, setMode] = useState<DoorsMode>(doors.mode);
  return (
    <Sentence words={`${DOOR_WORDS[doors.mode].name}, unhappy is ${doors.threshold} of 5 and below`} label="What the answer page opens" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="doors" />
          <fieldset className="space-y-2">
            <legend className="label">Doors</legend>
            {(Object.keys(DOOR_WORDS) as DoorsMode[]).map((value) => (
              <label key={value} className="flex gap-2.5">
                <input type="radio" name="mode" value={value} checked={mode === value} onChange={() => setMode(value)} className="accent-mulberry mt-1.5" />
                <span>
                  <b>{DOOR_WORDS[value].name}.</b> {DOOR_WORDS[value].says}
                </span>
              </label>
            ))}
          </fieldset>
          {mode === "private only" ? (
            <div className="bg-ochre-tint text-ochre-deep rounded-[9px] p-3 text-[14px]">
              <p className="mb-2">Many review sites and consumer rules forbid keeping unhappy customers from writing in public. Whoever uses this answers for it by name.</p>
              <label className="label" htmlFor="acknowledgedBy">
                Who answers for it
              </label>
              <input id="acknowledgedBy" name="acknowledgedBy" className="field" defaultValue={doors.acknowledgedBy ?? ""} />
              {error("acknowledgedBy")}
            </div>
          ) : null}
          <div>
            <label className="label" htmlFor="threshold">
              Unhappy is this rating and below
            </label>
            <select id="threshold" name="threshold" className="field" defaultValue={doors.threshold}>
              {[1, 2, 3, 4].map((rating) => (
                <option key={rating} value={rating}>
                  {rating} of 5
                </option>
              ))}
            </select>
            {error("threshold")}
          </div>
        </div>
      )}
    </Sentence>
  );
}

const DAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** When one channel may leave, day by day. */
export function HoursSentence({
  slug,
  channel,
  week,
  words,
  closedDates,
  keepsHolidays,
  mayChange,
}: {
  slug: string;
  channel: "text" | "email";
  week: WeekHours;
  words: string;
  closedDates: string[];
  keepsHolidays: boolean;
  mayChange: boolean;
}) {
  return (
    <Sentence words={words} label={`When ${channel === "text" ? "texts" : "emails"} may leave`} action={mayChange ? changeHours.bind(null, slug) : null}>
      {(error) => (
        <div className="space-y-1.5">
          <input type="hidden" name="channel" value={channel} />
          {DAY_NAMES.map((name, day) => (
            <div key={name}>
              <div className="grid grid-cols-[92px_1fr_1fr] items-center gap-2">
                <span>{name}</span>
                <input name={`open-${day}`} aria-label={`${name}, from`} className="field !py-1" defaultValue={week[day]?.[0] ? clockTime(week[day][0].open) : ""} />
                <input name={`close-${day}`} aria-label={`${name}, until`} className="field !py-1" defaultValue={week[day]?.[0] ? clockTime(week[day][0].close) : ""} />
              </div>
              {error(`day-${day}`)}
            </div>
          ))}
          <p className="text-second text-[13px]">A day left empty is a day on which nothing leaves.</p>
          <label className="flex items-center gap-2 pt-1">
            <input type="checkbox" name="keepsHolidays" defaultChecked={keepsHolidays} className="accent-mulberry size-4" />
            Nothing leaves on public holidays
          </label>
          <label className="label pt-1" htmlFor="closedDates">
            Other closed days
          </label>
          <input id="closedDates" name="closedDates" className="field" placeholder="2026-12-24, 2026-12-31" defaultValue={closedDates.join(", ")} />
          {error("closedDates")}
        </div>
      )}
    </Sentence>
  );
}

/** Pauses or resumes. */
export function PlanSwitch({ slug, planId, state }: { slug: string; planId: string; state: "running" | "paused" }) {
  return (
    <ActionForm action={switchPlan.bind(null, slug, planId)}>
      {({ pending }) => (
        <button type="submit" name="state" value={state === "running" ? "paused" : "running"} className={state === "running" ? "button" : "button-main"} disabled={pending}>
          {state === "running" ? "Pause" : "Resume"}
        </button>
      )}
    </ActionForm>
  );
}
