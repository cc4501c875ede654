"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { NewPasswordField } from "@/ui/NewPasswordField";
import { join } from "./actions";

/** Name and password of somebody new; only the button for whoever is signed in. */
export function JoinForm({ token, name, isNew }: { token: string; name: string; isNew: boolean }) {
  return (
    <ActionForm action={join.bind(null, token)} className="space-y-4">
      {({ pending, error }) => (
        <>
          {isNew ? (
            <>
              <div>
                <label className="label" htmlFor="join-name">
                  Your name
                </label>
                <input id="join-name" name="name" className="field" defaultValue={name} autoComplete="name" />
                {error("name")}
              </div>
              <NewPasswordField id="join-password" label="Choose a password" error={error} />
            </>
          ) : null}
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "One moment…" : "Join"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
