"use client";

import type { AskForm, AskPreview, Candidate } from "../actions";
import { useAskForm } from "./useAskForm.client";

type Choice = { id: string; name: string };

/** What can be asked about at this client. `aboutLabel` is what a visit may be about besides, such as "Pet". */
export type AskChoices = {
  slug: string;
  services: Choice[];
  branches: Choice[];
  team: Choice[];
  aboutLabel: string;
  /** At a shared phone: people are found only when enough of them was typed. */
  isShared: boolean;
};

type Ask = ReturnType<typeof useAskForm>;

/** What would be sent to one person, which can be changed, and the button that sends it. */
export function ComposeAsk({
  person,
  back,
  done,
  ...choices
}: AskChoices & { person: Candidate; back: () => void; done: () => void }) {
  const ask = useAskForm(choices, person, done);
  const { preview } = ask;
  return (
    <div>
      {ask.isNew ? <NewPerson ask={ask} /> : null}
      <WhichVisit ask={ask} choices={choices} />
      <div aria-live="polite">
        <WhatLeaves preview={preview} isComplete={ask.isComplete} />
      </div>
      <div className="mt-5 flex flex-wrap justify-between gap-3">
        <button type="button" className="button" onClick={back}>
          Choose someone else
        </button>
        <button
          type="button"
          className="button-main min-h-[44px] px-6"
          disabled={!preview?.ok || ask.isSending}
          onClick={ask.confirm}
        >
          {ask.isSending ? "Asking…" : preview?.ok && preview.advice.length ? "Ask anyway" : "Ask"}
        </button>
      </div>
    </div>
  );
}

function NewPerson({ ask }: { ask: Ask }) {
  return (
    <div className="mb-4 grid gap-3 sm:grid-cols-3">
      <AskField ask={ask} id="ask-name" name="name" label="Name" />
      <AskField ask={ask} id="ask-phone" name="phone" label="Mobile" inputMode="tel" />
      <AskField ask={ask} id="ask-email" name="email" label="Email" inputMode="email" />
    </div>
  );
}

const CHANNELS: Choice[] = [
  { id: "text", name: "text" },
  { id: "email", name: "email" },
];

function WhichVisit({ ask, choices }: { ask: Ask; choices: AskChoices }) {
  const { form, change, preview, isNew } = ask;
  const { services, branches, team, aboutLabel } = choices;
  return (
    <details className="mb-4" open={isNew}>
      <summary className="text-second text-[14px]">Visit and message</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <AskSelect
          id="ask-service"
          label="Service"
          value={form.serviceId}
          choices={services}
          onChange={(serviceId) => change({ serviceId })}
        />
        <AskSelect
          id="ask-branch"
          label="Branch"
          value={form.branchId}
          choices={branches}
          onChange={(branchId) => change({ branchId })}
        />
        <AskSelect
          id="ask-member"
          label="Team member"
          value={String(form.teamMemberId ?? "")}
          choices={team}
          onChange={(teamMemberId) => change({ teamMemberId })}
          none="nobody in particular"
        />
        <AskField ask={ask} id="ask-about" name="about" label={aboutLabel} />
        <AskSelect
          id="ask-channel"
          label="By"
          value={form.channel}
          choices={CHANNELS}
          onChange={(channel) => change({ channel: channel as "text" | "email" }, true)}
        />
        {preview?.ok && preview.plans.length > 1 ? (
          <AskSelect
            id="ask-plan"
            label="With the plan"
            value={form.planId || preview.planId}
            choices={preview.plans}
            onChange={(planId) => change({ planId }, true)}
          />
        ) : null}
      </div>
    </details>
  );
}

function WhatLeaves({ preview, isComplete }: { preview: AskPreview | null; isComplete: boolean }) {
  if (!preview)
    return (
      <p className="text-second bg-paper rounded-[10px] px-4 py-3">
        {isComplete ? "Working out what will be sent…" : "Enter a name and a mobile number or email address."}
      </p>
    );
  if (!preview.ok)
    return (
      <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[10px] px-4 py-3">
        {preview.fields && Object.keys(preview.fields).length > 0
          ? "Fix what’s marked above to send it."
          : preview.message}
      </p>
    );
  return (
    <div className="bg-paper border-rule rounded-[12px] border p-4">
      <p className="mb-2">
        <b>{preview.leaves === "now" ? "Goes out now" : `Goes out ${preview.leaves}`}</b> as{" "}
        {preview.channel === "text" ? "a text" : "an email"} to {preview.to}.
        <span className="text-second block text-[14px]">
          {preview.instead} {preview.why} {preview.afterwards}
        </span>
      </p>
      <div className="bg-sheet border-rule max-h-[240px] overflow-y-auto rounded-[10px] border px-4 py-3 whitespace-pre-wrap [overflow-wrap:anywhere]">
        {preview.subject ? <p className="mb-2 font-semibold">{preview.subject}</p> : null}
        {preview.body}
      </div>
      {preview.parts ? (
        <p className="text-second mt-2 text-[13px]">
          {preview.parts} {preview.parts === 1 ? "part" : "parts"}, {preview.body.length} characters
        </p>
      ) : null}
      {preview.advice.map((line) => (
        <p key={line} className="bg-ochre-tint text-ochre-deep mt-2 rounded-[8px] px-3 py-1.5 text-[14px]">
          {line}. You can ask anyway.
        </p>
      ))}
    </div>
  );
}

function AskField({
  ask,
  id,
  name,
  label,
  inputMode,
}: {
  ask: Ask;
  id: string;
  name: "name" | "phone" | "email" | "about";
  label: string;
  inputMode?: "tel" | "email";
}) {
  const wrong = ask.wrongIn(name);
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className="field"
        inputMode={inputMode}
        value={ask.form[name]}
        onChange={(event) => ask.change({ [name]: event.target.value } satisfies Partial<AskForm>)}
      />
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
          {wrong}
        </p>
      ) : null}
    </div>
  );
}

function AskSelect({
  id,
  label,
  value,
  choices,
  onChange,
  none,
}: {
  id: string;
  label: string;
  value: string;
  choices: Choice[];
  onChange: (value: string) => void;
  none?: string;
}) {
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <select id={id} className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        {none ? <option value="">{none}</option> : null}
        {choices.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </div>
  );
}
