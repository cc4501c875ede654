"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { choose } from "./actions";

/** The new password of whoever has the link. */
export function PasswordForm({ token }: { token: string }) {
  return (
    <ActionForm action={choose.bind(null, token)} className="space-y-4">
      {({ pending, error }) => (
        <>
          <div>
            <label className="label" htmlFor="new-password">
              New password
            </label>
            <input
              id="new-password"
              name="password"
              type="password"
              autoComplete="new-password"
              className="field"
              aria-describedby="new-password-says"
            />
            <p id="new-password-says" className="text-second mt-1 text-[14px]">
              At least 10 characters.
            </p>
            {error("password")}
          </div>
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "One moment ..." : "Save the new password"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
