"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { copyClient } from "../actions";

/** Another client like this one: what every client has of its own is asked for. */
export function CopyClient({ slug, client }: { slug: string; client: { id: string; name: string } }) {
  return (
    <ActionForm action={copyClient.bind(null, slug, client.id)} className="max-w-[420px] space-y-3">
      {({ pending, error }) => (
        <>
          <Field id="copy-name" label="Name of the new client" name="name" autoComplete="off" error={error} />
          <Field
            id="copy-number"
            label="Text sender number"
            name="textNumber"
            inputMode="tel"
            autoComplete="off"
            error={error}
          />
          <Field
            id="copy-email"
            label="Sender email"
            name="senderEmail"
            inputMode="email"
            autoComplete="off"
            error={error}
          />
          <Field
            id="copy-address"
            label="Postal address"
            name="postalAddress"
            says="Shown at the bottom of its emails, and copied to its branches."
            autoComplete="off"
            error={error}
          />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : `Copy ${client.name}`}
          </button>
        </>
      )}
    </ActionForm>
  );
}
