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
            label="Texts come from"
            name="textNumber"
            inputMode="tel"
            autoComplete="off"
            error={error}
          />
          <Field
            id="copy-email"
            label="Emails come from"
            name="senderEmail"
            inputMode="email"
            autoComplete="off"
            error={error}
          />
          <Field
            id="copy-address"
            label="Postal address"
            name="postalAddress"
            says="At the foot of its emails; its branches begin with it."
            autoComplete="off"
            error={error}
          />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment ..." : `Make one like ${client.name}`}
          </button>
        </>
      )}
    </ActionForm>
  );
}
