"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { Dialog } from "@/ui/Dialog.client";
import { addPerson, editPerson } from "../actions";

type Details = { name: string; email: string; phone: string; note: string; doNotAsk: string };

/** A button that opens the form to add a person, or with `person` to change one. */
export function PersonForm({ slug, person }: { slug: string; person?: Details & { id: string } }) {
  const [open, setOpen] = useState(false);
  const action = person ? editPerson.bind(null, slug, person.id) : addPerson.bind(null, slug);
  const field = (name: keyof Details, label: string, error: (field: string) => React.ReactNode, hint?: string) => (
    <div>
      <label className="label" htmlFor={`person-${name}`}>
        {label}
      </label>
      {name === "note" ? (
        <textarea id={`person-${name}`} name={name} rows={3} className="field" defaultValue={person?.[name]} />
      ) : (
        <input id={`person-${name}`} name={name} className="field" defaultValue={person?.[name]} autoComplete="off" />
      )}
      {hint ? <p className="text-second mt-1 text-[13px]">{hint}</p> : null}
      {error(name)}
    </div>
  );
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        {person ? "Change details" : "Add a person"}
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={person ? `Details of ${person.name}` : "Add a person"}>
        <ActionForm action={action} className="space-y-4" onDone={() => setOpen(false)}>
          {({ pending, error }) => (
            <>
              {field("name", "Name", error)}
              <div className="grid gap-4 sm:grid-cols-2">
                {field("phone", "Mobile", error)}
                {field("email", "Email", error)}
              </div>
              {field("note", "Note", error)}
              {person ? field("doNotAsk", "Never ask, because", error, "Leave empty to let plans ask.") : null}
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Keeping ..." : "Keep"}
              </button>
            </>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}
