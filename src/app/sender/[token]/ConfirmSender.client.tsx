"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { confirm } from "./actions";

/** Says yes to emails that go out from one's address. */
export function ConfirmSender({ token }: { token: string }) {
  return (
    <ActionForm action={confirm.bind(null, token)}>
      {({ pending }) => (
        <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
          {pending ? "One moment …" : "Yes, this is right"}
        </button>
      )}
    </ActionForm>
  );
}
