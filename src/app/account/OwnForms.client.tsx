"use client";

import { useState } from "react";
import type { Profile } from "@/features/accounts";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { NewPasswordField } from "@/ui/NewPasswordField";
import { changeAddress, changePassword, chooseCode, confirmOwnAddress, endOne, saveOwn } from "./actions";

/** What somebody says of themselves. */
export function ProfileForm({ profile }: { profile: Profile }) {
  return (
    <ActionForm action={saveOwn} className="max-w-[420px] space-y-4">
      {({ pending, error }) => (
        <>
          <Field id="own-name" label="Name" name="name" defaultValue={profile.name} autoComplete="name" error={error} />
          <Field
            id="own-reply-name"
            label="Your signature"
            name="replyName"
            defaultValue={profile.replyName ?? ""}
            says="The name under your messages to customers. Leave blank for none."
            error={error}
          />
          <Field
            id="own-phone"
            label="Phone"
            name="phone"
            inputMode="tel"
            defaultValue={profile.phone ?? ""}
            placeholder="+44 7700 900123"
            autoComplete="tel"
            says="For urgent notifications by text as well as email. Leave blank for email only."
            error={error}
          />
          <button type="submit" className="button-main" disabled={pending}>
            {pending ? "Saving…" : "Save"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** What proves that it is its owner who changes an account. */
function CurrentPassword({ id, error }: { id: string; error: Parameters<typeof Field>[0]["error"] }) {
  return (
    <Field
      id={id}
      label="Your password"
      name="password"
      type="password"
      autoComplete="current-password"
      error={error}
    />
  );
}

/** New email address to sign in with. */
export function AddressForm() {
  const [round, setRound] = useState(0);
  return (
    <ActionForm
      key={round}
      action={changeAddress}
      className="max-w-[420px] space-y-4"
      onDone={() => setRound(round + 1)}
    >
      {({ pending, error }) => (
        <>
          <Field
            id="own-email"
            label="New email address"
            name="email"
            inputMode="email"
            autoComplete="off"
            error={error}
          />
          <CurrentPassword id="own-email-password" error={error} />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : "Send a confirmation link"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** Another password. */
export function NewPasswordForm() {
  const [round, setRound] = useState(0);
  return (
    <ActionForm
      key={round}
      action={changePassword}
      className="max-w-[420px] space-y-4"
      onDone={() => setRound(round + 1)}
    >
      {({ pending, error }) => (
        <>
          <PasswordNow id="own-password" error={error} />
          <NewPasswordField id="own-new-password" name="newPassword" label="New password" error={error} />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "Saving…" : "Save new password"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** The password that somebody has now. */
export function PasswordNow({ id, error }: { id: string; error: (field: string) => React.ReactNode }) {
  return (
    <Field
      id={id}
      label="Current password"
      name="password"
      type="password"
      autoComplete="current-password"
      error={error}
    />
  );
}

/** Signs one device out. */
export function EndSession({ id, device, isThis }: { id: string; device: string; isThis: boolean }) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={endOne.bind(null, id)}
      sure={isThis ? "Sign this device out?" : undefined}
    >
      Sign out<span className="sr-only">: {device}</span>
    </ConfirmButton>
  );
}

/** Makes the address that a link was mailed to one's own. */
export function ConfirmAddress({ token }: { token: string }) {
  return (
    <ActionForm action={confirmOwnAddress.bind(null, token)}>
      {({ pending }) => (
        <button type="submit" className="button-main" disabled={pending}>
          {pending ? "One moment…" : "Use this address from now on"}
        </button>
      )}
    </ActionForm>
  );
}

/** The four digits by which somebody says who they are on a shared phone. */
export function DeskCodeForm({ has }: { has: boolean }) {
  const [round, setRound] = useState(0);
  return (
    <ActionForm key={round} action={chooseCode} className="max-w-[420px] space-y-3" onDone={() => setRound(round + 1)}>
      {({ pending, error }) => (
        <>
          <p className="text-second">
            {has ? "You’ve set a PIN." : "You haven’t set a PIN."} On a phone your team shares, it shows who you are.
          </p>
          <Field
            id="own-code"
            label="PIN (four digits)"
            name="code"
            type="password"
            inputMode="numeric"
            maxLength={4}
            autoComplete="off"
            className="max-w-[140px] tracking-[0.4em]"
            error={error}
          />
          <CurrentPassword id="own-code-password" error={error} />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "Saving…" : "Save"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
