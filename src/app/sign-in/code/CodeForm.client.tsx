"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { giveCode } from "../actions";

/** A code of the app, or one to fall back on. */
export function CodeForm() {
  return (
    <ActionForm action={giveCode} className="space-y-4">
      {({ pending, error }) => (
        <>
          <Field
            id="code"
            label="Code"
            name="code"
            autoComplete="one-time-code"
            maxLength={40}
            autoFocus
            className="tracking-[0.15em]"
            error={error}
          />
          <label className="flex min-h-[32px] items-center gap-2">
            <input type="checkbox" name="trust" value="yes" className="size-[17px] shrink-0" />
            Don’t ask for a code on this device for 30 days
          </label>
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "Signing in…" : "Sign in"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
