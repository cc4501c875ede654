"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { beginHere } from "./actions";

const FIELDS = [
  ["token", "Set-up code", "text", "off", "The server prints it when it starts, after “Begin at”."],
  ["agency", "Your agency, or your business", "text", "organization", ""],
  ["name", "Your name", "text", "name", ""],
  ["email", "Your email address", "email", "username", "You’ll sign in with this."],
  ["password", "Password", "password", "new-password", "At least ten characters."],
] as const;

/** The first account: by whoever can read what the server printed. */
export function BeginForm() {
  return (
    <ActionForm action={beginHere} className="space-y-4">
      {({ pending, error }) => (
        <>
          {FIELDS.map(([name, label, type, autoComplete, says]) => (
            <Field
              key={name}
              id={`begin-${name}`}
              name={name}
              label={label}
              type={type === "email" ? "text" : type}
              inputMode={type === "email" ? "email" : undefined}
              autoComplete={autoComplete}
              says={says}
              error={error}
            />
          ))}
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "One moment…" : "Begin"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
