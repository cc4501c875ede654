"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { NewPasswordField } from "@/ui/NewPasswordField";
import { choose } from "./actions";

/** The new password of whoever has the link. */
export function PasswordForm({ token }: { token: string }) {
  return (
    <ActionForm action={choose.bind(null, token)} className="space-y-4">
      {({ pending, error }) => (
        <>
          <NewPasswordField id="new-password" label="New password" error={error} />
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "One moment…" : "Save new password"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
