"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { forgot } from "./actions";

/** The address that somebody signs in with; after it, what to do next. */
export function ForgotForm() {
  const [isSent, setSent] = useState(false);
  if (isSent)
    return (
      <p role="status">
        If there’s an account with this address, we’ve sent it a link. It works once, for half an hour.
      </p>
    );
  return (
    <ActionForm action={forgot} className="space-y-4" onDone={() => setSent(true)}>
      {({ pending, error }) => (
        <>
          <Field id="forgot-email" label="Email" name="email" inputMode="email" autoComplete="username" error={error} />
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "One moment…" : "Send me a link"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
