"use client";

import { type ReactNode, useState } from "react";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { ActionForm } from "@/ui/ActionForm.client";
import { ChooseField, zoneChoices } from "@/ui/Choose.client";
import { Dialog } from "@/ui/Dialog.client";
import { addPerson, editPerson } from "../personActions";

type Details = {
  name: string;
  email: string;
  phone: string;
  note: string;
  doNotAsk: string;
  externalId: string;
  language: string;
  birthDate: string;
  postalAddress: string;
  consent: string;
  prefers: string;
  zone: string;
  guardianName: string;
  guardianReach: string;
  tags: string[];
};

const LANGUAGE_CHOICES = [["", "same as the business"], ...LANGUAGES.map((each) => [each, LANGUAGE_NAMES[each]])];

/** A button that opens the form to add a person, or with `person` to change one. `tags` are those to pick from. */
export function PersonForm({
  slug,
  person,
  tags,
}: {
  slug: string;
  person?: Details & { id: string };
  tags: string[];
}) {
  const [open, setOpen] = useState(false);
  const action = person ? editPerson.bind(null, slug, person.id) : addPerson.bind(null, slug);
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        {person ? "Edit details" : "Add a person"}
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={person ? `${person.name}’s details` : "Add a person"}>
        <ActionForm action={action} className="space-y-4" onDone={() => setOpen(false)}>
          {({ pending, error }) => {
            const field = (name: Exclude<keyof Details, "tags">, label: string, hint?: string) => (
              <Field name={name} label={label} hint={hint} value={person?.[name]} error={error(name)} />
            );
            return (
              <>
                {person ? <input type="hidden" name="was" value={JSON.stringify(person)} /> : null}
                {field("name", "Name")}
                <div className="grid gap-4 sm:grid-cols-2">
                  {field("phone", "Mobile")}
                  {field("email", "Email")}
                </div>
                {field("note", "Note")}
                {tags.length > 0 ? (
                  <fieldset>
                    <legend className="label">Tags</legend>
                    <div className="flex flex-wrap gap-x-5 gap-y-1">
                      {tags.map((tag) => (
                        <label key={tag} className="inline-flex min-h-[28px] items-center gap-2">
                          <input
                            type="checkbox"
                            name="tags"
                            value={tag}
                            defaultChecked={person?.tags.includes(tag)}
                            className="size-[17px]"
                          />{" "}
                          {tag}
                        </label>
                      ))}
                    </div>
                  </fieldset>
                ) : null}
                {person ? field("doNotAsk", "Never ask, because", "Leave blank to let plans ask.") : null}
                <details>
                  <summary className="text-second">
                    Language, preferred channel, time zone, birth date and guardian, address, consent, number
                  </summary>
                  <div className="mt-3 grid gap-4 sm:grid-cols-2">
                    <Select
                      name="language"
                      label="Language"
                      value={person?.language ?? ""}
                      choices={LANGUAGE_CHOICES}
                    />
                    <Select
                      name="consent"
                      label="Agreed to messages"
                      value={person?.consent ?? ""}
                      choices={[
                        ["", "not known"],
                        ["yes", "yes"],
                        ["no", "no"],
                      ]}
                    />
                    <Select
                      name="prefers"
                      label="Prefers"
                      value={person?.prefers ?? ""}
                      choices={[
                        ["", "not known"],
                        ["text", "texts"],
                        ["email", "emails"],
                      ]}
                    />
                    {field("birthDate", "Birth date", "Like 2010-05-31. For a minor, messages go to the guardian.")}
                    <ChooseField
                      id="person-zone"
                      name="zone"
                      label="Time zone"
                      says="Texts only go out between 8:00 and 21:00 there."
                      search="Search time zones"
                      choices={[{ value: "", words: "by their phone number, or the branch" }, ...zoneChoices()]}
                      defaultValue={person?.zone ?? ""}
                      error={() => error("zone")}
                    />
                    {field("externalId", "Customer number")}
                    {field("guardianName", "Guardian’s name")}
                    {field("guardianReach", "Guardian’s mobile or email")}
                  </div>
                  <div className="mt-4">{field("postalAddress", "Postal address")}</div>
                </details>
                <button type="submit" className="button-main" disabled={pending}>
                  {pending ? "Saving…" : "Save"}
                </button>
              </>
            );
          }}
        </ActionForm>
      </Dialog>
    </>
  );
}

function Field({
  name,
  label,
  hint,
  value,
  error,
}: {
  name: string;
  label: string;
  hint?: string;
  value?: string;
  error: ReactNode;
}) {
  return (
    <div>
      <label className="label" htmlFor={`person-${name}`}>
        {label}
      </label>
      {name === "note" ? (
        <textarea id={`person-${name}`} name={name} rows={3} className="field" defaultValue={value} />
      ) : (
        <input id={`person-${name}`} name={name} className="field" defaultValue={value} autoComplete="off" />
      )}
      {hint ? <p className="text-second mt-1 text-[13px]">{hint}</p> : null}
      {error}
    </div>
  );
}

function Select({ name, label, value, choices }: { name: string; label: string; value: string; choices: string[][] }) {
  return (
    <div>
      <label className="label" htmlFor={`person-${name}`}>
        {label}
      </label>
      <select id={`person-${name}`} name={name} className="field" defaultValue={value}>
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
