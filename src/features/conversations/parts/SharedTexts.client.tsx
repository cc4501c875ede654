"use client";

import { sayPhone } from "@/core/contacts/phone";
import { ActionForm } from "@/ui/ActionForm.client";
import type { ActionResult } from "@/ui/result";

type Props = {
  list: {
    id: string;
    sender: string;
    body: string;
    came: string;
    choices: { id: string; name: string }[];
    /** Brings it to the client that its form names. */
    bring: (before: ActionResult, form: FormData) => Promise<ActionResult>;
  }[];
};

/** Texts to a number that several clients share, of which nobody knows whom they are for. */
export function SharedTexts({ list }: Props) {
  return (
    <ul className="divide-rule border-rule mt-2 divide-y border-y">
      {list.map(({ id, sender, body, came, choices, bring }) => (
        <li key={id} className="py-3">
          <p className="text-second text-[14px]">
            {sayPhone(sender)} · {came}
          </p>
          <p className="said [overflow-wrap:anywhere]">“{body}”</p>
          <ActionForm action={bring} className="mt-2 flex flex-wrap gap-2">
            {({ pending }) =>
              choices.map((client) => (
                <button
                  key={client.id}
                  type="submit"
                  name="clientId"
                  value={client.id}
                  className="button"
                  disabled={pending}
                >
                  It’s for {client.name}
                </button>
              ))
            }
          </ActionForm>
        </li>
      ))}
    </ul>
  );
}
