"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { openPhone } from "./actions";

/** Signs this phone in. */
export function OpenPhone({ token }: { token: string }) {
  return (
    <ActionForm action={openPhone.bind(null, token)}>
      {({ pending }) => (
        <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
          {pending ? "One moment…" : "Use this phone"}
        </button>
      )}
    </ActionForm>
  );
}
