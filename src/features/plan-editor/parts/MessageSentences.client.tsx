"use client";
import { CONDITIONS, type PlanStep, type Wording } from "@/core/plans/planRules";
import { sayCondition, sayStepChannel } from "@/core/plans/sayRules";
import { clockTime, describeDelay } from "@/core/time/delay";
import { ActionForm } from "@/ui/ActionForm.client";
import { Sentence } from "@/ui/Sentence.client";
import { changePlan } from "../actions";
import { Hidden, NumberField, SelectField } from "./fields";
import { actionOf, type PlanRef } from "./planRef";

/** When, how and to whom one message goes. */
export function StepSentence({ plan, step, index }: { plan: PlanRef; step: PlanStep; index: number }) {
  return (
    <Sentence
      words={`${describeDelay(step.delay)}`}
      label={`When “${step.name}” goes out`}
      id="step"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="step" step={index} />
          <div>
            <label className="label" htmlFor="name">
              Name of the message
            </label>
            <input id="name" name="name" className="field" defaultValue={step.name} maxLength={40} />
            {error("name")}
          </div>
          <div className="flex gap-2">
            <NumberField name="amount" label="After" value={step.delay.amount} error={error("amount")} />
            <SelectField
              name="unit"
              label="Unit"
              value={step.delay.unit}
              choices={["minutes", "hours", "days", "weeks"].map((unit) => [unit, unit] as const)}
            />
          </div>
          <div>
            <label className="label" htmlFor="at">
              At a set time of day
            </label>
            <input
              id="at"
              name="at"
              className="field"
              defaultValue={step.delay.at === null || step.delay.at === undefined ? "" : clockTime(step.delay.at)}
            />
            <p className="text-second mt-1 text-[13px]">
              For days and weeks. Leave blank to keep the same time of day.
            </p>
            {error("at")}
          </div>
          <SelectField
            name="channel"
            label="Send"
            value={step.channel}
            choices={(["text", "email", "both", "preferred"] as const).map(
              (channel) => [channel, sayStepChannel(channel)] as const,
            )}
          />
          <SelectField
            name="from"
            label="Emails are from"
            value={step.from}
            choices={[
              ["business", "the business"],
              ["team member", "the team member, followed by the business’s name"],
            ]}
          />
          <SelectField
            name="onlyIf"
            label="Goes to"
            value={step.onlyIf}
            choices={CONDITIONS.map((condition) => [condition, sayCondition(condition)] as const)}
          />
          {error("onlyIf")}
        </div>
      )}
    </Sentence>
  );
}

/** The words of one message, for both channels. */
export function WordsSentence({
  plan,
  step,
  index,
  wording,
  words,
  placeholders,
}: {
  plan: PlanRef;
  step: PlanStep;
  index: number;
  wording: Wording;
  words: string;
  placeholders: string[];
}) {
  return (
    <Sentence
      words={words}
      label={`The words of “${step.name}”${step.others.length > 0 ? `, wording ${wording.key.toUpperCase()}` : ""}`}
      action={actionOf(plan)}
      wide
      id={`words-${wording.key}`}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="words" step={index} wording={wording.key} />
          <p className="text-second text-[13px]">
            Placeholders go in braces, with what to say if we don’t know:{" "}
            {placeholders.map((name) => `{${name}}`).join(" ")}, for example {"{first name|there}"}.
          </p>
          <div>
            <label className="label" htmlFor="text">
              Text
            </label>
            <textarea id="text" name="text" rows={4} className="field" defaultValue={wording.text} />
            {error("text")}
          </div>
          <div>
            <label className="label" htmlFor="subject">
              Email subject
            </label>
            <input id="subject" name="subject" className="field" defaultValue={wording.subject} />
            {error("subject")}
          </div>
          <div>
            <label className="label" htmlFor="email">
              Email
            </label>
            <textarea id="email" name="email" rows={9} className="field" defaultValue={wording.email} />
            {error("email")}
          </div>
        </div>
      )}
    </Sentence>
  );
}

/** A action on a message that needs no form: one more, one less, earlier, later, another wording. */
export function StepButton({
  plan,
  part,
  fields,
  children,
  sure,
  disabled = false,
}: {
  plan: PlanRef;
  part: string;
  fields?: Record<string, string | number>;
  children: React.ReactNode;
  sure?: string;
  disabled?: boolean;
}) {
  if (!plan.mayChange) return null;
  return (
    <ActionForm action={changePlan.bind(null, plan.slug, plan.planId, plan.revision)} className="inline">
      {({ pending }) => (
        <>
          <Hidden part={part} />
          {Object.entries(fields ?? {}).map(([name, value]) => (
            <input key={name} type="hidden" name={name} value={value} />
          ))}
          <button
            type="submit"
            className="button-quiet"
            disabled={pending || disabled}
            onClick={(event) => sure && !confirm(sure) && event.preventDefault()}
          >
            {children}
          </button>
        </>
      )}
    </ActionForm>
  );
}
