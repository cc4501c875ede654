"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { Dialog } from "@/ui/Dialog.client";
import { Field } from "@/ui/Field";
import { changeAgency } from "../actions";
import type { Agency } from "../agency";

const FIELDS = [
  ["name", "Name", "text", "Clients’ staff see it at the top of every page."],
  ["colour", "Colour", "color", "The background behind the name."],
  ["senderEmail", "Sender email", "email", "For invitations and summaries."],
  ["helpEmail", "Help address for clients’ staff", "email", "Leave blank for none."],
] as const;

/** What the agency is called, how it looks to its clients' people, and how its people sign in. */
export function AgencyForm({ slug, agency }: { slug: string; agency: Agency }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button-quiet" onClick={() => setOpen(true)}>
        Change<span className="sr-only"> the agency</span>
      </button>
      <Dialog open={open} onOpenChange={setOpen} title="The agency">
        <ActionForm action={changeAgency.bind(null, slug)} onDone={() => setOpen(false)}>
          {({ pending, error }) => (
            <div className="space-y-4">
              {FIELDS.map(([name, label, type, says]) => (
                <Field
                  key={name}
                  id={`agency-${name}`}
                  name={name}
                  label={label}
                  type={type === "color" ? "color" : "text"}
                  inputMode={type === "email" ? "email" : undefined}
                  defaultValue={agency[name]}
                  says={says}
                  error={error}
                />
              ))}
              <label className="flex min-h-[32px] items-center gap-2">
                <input
                  type="checkbox"
                  name="needsTwoSteps"
                  value="yes"
                  defaultChecked={agency.needsTwoSteps}
                  className="size-[17px] shrink-0"
                />
                Everyone must sign in with two steps
              </label>
              {error("needsTwoSteps")}
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Saving…" : "Save"}
              </button>
            </div>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}
