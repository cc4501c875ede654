"use client";

import { useActionState, useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Copyable } from "@/ui/Copyable.client";
import { Field } from "@/ui/Field";
import { endPhone, makePhone, sayWho } from "../actions";

type Named = { id: string; name: string };

/** Adds a shared phone; after it, the link to open on it. */
export function PhoneForm({ slug, branches, days }: { slug: string; branches: Named[]; days: readonly number[] }) {
  const [made, run, pending] = useActionState(makePhone.bind(null, slug), null);
  if (made?.ok && "link" in made)
    return (
      <div role="status" className="space-y-2">
        <p>Open this on the phone within 15 minutes. It works once.</p>
        <Copyable text={made.link} label="The link" />
      </div>
    );
  const fields = made && !made.ok ? (made.fields ?? {}) : {};
  const error = (field: string) =>
    fields[field] ? (
      <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
        {fields[field]}
      </p>
    ) : null;
  return (
    <form action={run} className="space-y-3">
      <Field id="phone-name" label="Name" name="name" placeholder="Front desk" maxLength={40} error={error} />
      {branches.length > 1 ? (
        <div>
          <label className="label" htmlFor="phone-branch">
            At
          </label>
          <select id="phone-branch" name="branchId" className="field">
            <option value="">every branch</option>
            {branches.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
      ) : (
        <input type="hidden" name="branchId" value="" />
      )}
      <div>
        <label className="label" htmlFor="phone-days">
          Stays signed in for
        </label>
        <select id="phone-days" name="days" className="field" defaultValue={90}>
          {days.map((each) => (
            <option key={each} value={each}>
              {each} days
            </option>
          ))}
        </select>
        {error("days")}
      </div>
      {made && !made.ok && Object.keys(fields).length === 0 ? (
        <p role="alert" className="text-vermilion-deep text-[14px]">
          {made.message}
        </p>
      ) : null}
      <button type="submit" className="button-main" disabled={pending}>
        {pending ? "One moment…" : "Add the phone"}
      </button>
    </form>
  );
}

/** Takes a phone's access away. */
export function EndPhone({ slug, id, name }: { slug: string; id: string; name: string }) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={endPhone.bind(null, slug, id)}
      sure={`Sign ${name} out? It stops working straight away.`}
    >
      Sign out<span className="sr-only"> {name}</span>
    </ConfirmButton>
  );
}

/** Says on a shared phone who one is. */
export function WhoForm({ slug, people }: { slug: string; people: Named[] }) {
  const [who, setWho] = useState<string | null>(null);
  if (people.length === 0)
    return (
      <p className="text-second">
        Nobody has set a PIN yet. You can set yours under “Your account”, on your own device.
      </p>
    );
  return (
    <ActionForm action={sayWho.bind(null, slug)} className="space-y-4">
      {({ pending, error }) => (
        <>
          <fieldset>
            <legend className="label">I’m</legend>
            <div className="flex flex-wrap gap-2">
              {people.map(({ id, name }) => (
                <label
                  key={id}
                  className="chip has-[:checked]:bg-ink has-[:checked]:text-paper min-h-[44px] cursor-pointer px-4"
                >
                  <input
                    type="radio"
                    name="who"
                    value={id}
                    className="sr-only"
                    checked={who === id}
                    onChange={() => setWho(id)}
                  />
                  {name}
                </label>
              ))}
            </div>
          </fieldset>
          {who ? (
            <Field
              id="desk-code"
              label="My PIN"
              name="code"
              type="password"
              inputMode="numeric"
              autoComplete="off"
              maxLength={4}
              className="max-w-[140px] text-center text-[22px] tracking-[0.4em]"
              error={error}
            />
          ) : null}
          <button type="submit" className="button min-h-[44px]" disabled={pending || !who}>
            {pending ? "One moment…" : "Continue"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
