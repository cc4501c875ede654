"use client";

import { useRouter } from "next/navigation";
import { useActionState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { confirmCode, endSecondStep, prepare, renewCodes } from "../actions";
import { PasswordNow } from "../OwnForms.client";

/** Adds the second step: the password, what the app reads, and a first code of it. */
export function AddSecondStep() {
  const router = useRouter();
  const [made, run, pending] = useActionState(prepare, null);
  if (!made || made.refused !== null)
    return (
      <form action={run} className="mt-6 max-w-[420px] space-y-4">
        <PasswordNow id="two-password" error={() => <Refused words={made?.refused ?? null} />} />
        <button type="submit" className="button-main" disabled={pending}>
          {pending ? "One moment…" : "Continue"}
        </button>
      </form>
    );
  return (
    <ol className="mt-6 space-y-7">
      <li>
        <b>1. Scan this with your app.</b>
        {/* Drawn by our own server from a key that it made. */}
        <div
          role="img"
          aria-label="QR code for your app"
          className="mt-2 size-[190px] bg-white [&_svg]:size-full"
          dangerouslySetInnerHTML={{ __html: made.picture }}
        />
        <p className="mt-2">
          Or type this key: <code className="[overflow-wrap:anywhere]">{made.key}</code>
        </p>
      </li>
      <li>
        <b>2. Save these recovery codes.</b>
        <p>Each one signs you in once if you lose your phone. We won’t show them again.</p>
        <CodeList codes={made.recoveryCodes} />
      </li>
      <li>
        <b>3. Enter the code your app shows now.</b>
        <ActionForm action={confirmCode} className="mt-2 max-w-[420px] space-y-4" onDone={() => router.refresh()}>
          {({ pending: confirming, error }) => (
            <>
              <Field
                id="first-code"
                label="Code"
                name="code"
                inputMode="numeric"
                autoComplete="one-time-code"
                maxLength={10}
                className="tracking-[0.15em]"
                error={error}
              />
              <button type="submit" className="button-main" disabled={confirming}>
                {confirming ? "One moment…" : "Turn on two-step sign-in"}
              </button>
            </>
          )}
        </ActionForm>
      </li>
    </ol>
  );
}

function Refused({ words }: { words: string | null }) {
  return words ? (
    <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
      {words}
    </p>
  ) : null;
}

function CodeList({ codes }: { codes: string[] }) {
  return (
    <ul aria-label="Recovery codes" className="sheet mt-2 grid max-w-[420px] grid-cols-2 gap-x-6 gap-y-1 p-4">
      {codes.map((code) => (
        <li key={code}>
          <code>{code}</code>
        </li>
      ))}
    </ul>
  );
}

/** Other codes to fall back on, in place of those before. */
export function RenewCodes() {
  const [made, run, pending] = useActionState(renewCodes, null);
  if (made?.refused === null)
    return (
      <>
        <p role="status">Save these. Your old codes no longer work.</p>
        <CodeList codes={made.codes} />
      </>
    );
  return (
    <form action={run} className="max-w-[420px] space-y-4">
      <PasswordNow id="codes-password" error={() => <Refused words={made?.refused ?? null} />} />
      <button type="submit" className="button" disabled={pending}>
        {pending ? "One moment…" : "Make new codes"}
      </button>
    </form>
  );
}

/** Back to the password alone. */
export function EndSecondStep() {
  const router = useRouter();
  return (
    <ActionForm action={endSecondStep} className="max-w-[420px] space-y-4" onDone={() => router.refresh()}>
      {({ pending, error }) => (
        <>
          <PasswordNow id="end-password" error={error} />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : "Turn off two-step sign-in"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
