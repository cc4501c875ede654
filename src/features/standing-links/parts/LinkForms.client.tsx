"use client";

import { useState } from "react";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { addStandingLink, endStandingLink } from "../actions";

type Named = { id: string; name: string };

/** Makes a standing link. */
export function NewLink({ slug, branches, team }: { slug: string; branches: Named[]; team: Named[] }) {
  const [round, setRound] = useState(0);
  return (
    <ActionForm
      key={round}
      action={addStandingLink.bind(null, slug)}
      className="space-y-3"
      onDone={() => setRound(round + 1)}
    >
      {({ pending, error }) => (
        <>
          <Field
            id="link-name"
            name="name"
            label="Where it’s used"
            placeholder="Counter"
            autoComplete="off"
            error={error}
          />
          <Choice id="link-branch" name="branchId" label="Branch" choices={branches} any={null} />
          <Choice id="link-member" name="teamMemberId" label="About" choices={team} any="the visit in general" />
          {error("branchId")}
          <button type="submit" className="button-main" disabled={pending}>
            {pending ? "One moment…" : "Create link"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

function Choice({
  id,
  name,
  label,
  choices,
  any,
}: {
  id: string;
  name: string;
  label: string;
  choices: Named[];
  any: string | null;
}) {
  if (choices.length === 1 && any === null) return <input type="hidden" name={name} value={choices[0].id} />;
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <select id={id} name={name} className="field">
        {any === null ? null : <option value="">{any}</option>}
        {choices.map((choice) => (
          <option key={choice.id} value={choice.id}>
            {any === null ? choice.name : `${choice.name}’s work`}
          </option>
        ))}
      </select>
    </div>
  );
}

const FORMATS = [
  ["a4", "A poster, A4"],
  ["a6", "A table card, A6"],
  ["cards", "Ten cards on a sheet"],
] as const;

/** A link on paper: how large, in which language and words. It opens as a PDF. */
export function PrintLink({ address, name, language }: { address: string; name: string; language: string }) {
  return (
    <details className="basis-full">
      <summary className="button-quiet inline-block cursor-pointer">
        Print it<span className="sr-only">: {name}</span>
      </summary>
      <form action={address} target="_blank" className="mt-2 grid max-w-[520px] gap-3 sm:grid-cols-2" rel="noopener">
        <label className="block">
          <span className="label">Size</span>
          <select name="format" className="field">
            {FORMATS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="block">
          <span className="label">Language</span>
          <select name="language" className="field" defaultValue={language}>
            {LANGUAGES.map((each) => (
              <option key={each} value={each}>
                {LANGUAGE_NAMES[each]}
              </option>
            ))}
          </select>
        </label>
        <label className="block sm:col-span-2">
          <span className="label">Heading</span>
          <input name="title" className="field" maxLength={90} placeholder="How was it?" />
        </label>
        <label className="block sm:col-span-2">
          <span className="label">Text below the code</span>
          <input
            name="says"
            className="field"
            maxLength={160}
            placeholder="Point your phone’s camera here. It only takes one tap."
          />
        </label>
        <button type="submit" className="button justify-self-start">
          Open the PDF
        </button>
      </form>
    </details>
  );
}

/** Ends a link. */
export function EndLink({ slug, id, name }: { slug: string; id: string; name: string }) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={endStandingLink.bind(null, slug, id)}
      sure={`End the link ${name}? Printed codes will stop working.`}
    >
      End it<span className="sr-only">: {name}</span>
    </ConfirmButton>
  );
}
