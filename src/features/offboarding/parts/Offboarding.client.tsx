"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { acceptOffer, archive, deleteForGood, endOffer, offer, unarchive } from "../actions";

type Props = { slug: string; client: { id: string; name: string } };

/** Archives a client. */
export function Archive({ slug, client }: Props) {
  return (
    <ConfirmButton
      action={archive.bind(null, slug, client.id)}
      sure={`Archive ${client.name}? Asks under way stop, and its own staff lose access straight away.`}
    >
      Archive it
    </ConfirmButton>
  );
}

/** Takes a client back from the archive. */
export function TakeBack({ slug, client }: Props) {
  return <ConfirmButton action={unarchive.bind(null, slug, client.id)}>Restore it</ConfirmButton>;
}

/** Deletes a client for good, once its name was typed. */
export function DeleteForGood({ slug, client }: Props) {
  return (
    <ActionForm action={deleteForGood.bind(null, slug, client.id)} className="max-w-[420px] space-y-3">
      {({ pending, error }) => (
        <>
          <Field
            id="delete-name"
            label={`Type its name to confirm: ${client.name}`}
            name="name"
            autoComplete="off"
            error={error}
          />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : "Delete permanently"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** Offers a client to another agency. */
export function Offer({ slug, client }: Props) {
  const [round, setRound] = useState(0);
  return (
    <ActionForm
      key={round}
      action={offer.bind(null, slug, client.id)}
      className="max-w-[420px] space-y-3"
      onDone={() => setRound(round + 1)}
    >
      {({ pending, error }) => (
        <>
          <Field
            id="offer-to"
            label="The other agency"
            name="to"
            autoComplete="off"
            placeholder="their-agency"
            says="The last part of their web address: …/agency/their-agency."
            error={error}
          />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : "Send offer"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** Takes an offer back, or says no to one. */
export function EndOffer({ slug, id, name, isOwn }: { slug: string; id: string; name: string; isOwn: boolean }) {
  return (
    <ConfirmButton className="button-quiet" action={endOffer.bind(null, slug, id)}>
      {isOwn ? "Withdraw the offer" : "Decline"}
      <span className="sr-only">: {name}</span>
    </ConfirmButton>
  );
}

/** Takes a client that is offered. */
export function AcceptOffer({ slug, id, name }: { slug: string; id: string; name: string }) {
  return (
    <ConfirmButton
      className="button"
      action={acceptOffer.bind(null, slug, id)}
      sure={`Take over ${name}? You’ll look after it from then on.`}
    >
      Take over<span className="sr-only">: {name}</span>
    </ConfirmButton>
  );
}
