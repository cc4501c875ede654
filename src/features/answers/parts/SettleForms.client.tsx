"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { settle } from "../actions";

/** Decides about an answer that looks automated: a person wrote it, or nobody did. */
export function SettleForms({ slug, id }: { slug: string; id: string }) {
  return (
    <div className="-ml-2 mt-2 flex flex-wrap">
      <ActionForm action={settle.bind(null, slug, id, true)}>
        {({ pending }) => (
          <button type="submit" className="button-quiet" disabled={pending}>
            A person wrote this
          </button>
        )}
      </ActionForm>
      <ActionForm action={settle.bind(null, slug, id, false)}>
        {({ pending }) => (
          <button type="submit" className="button-quiet" disabled={pending}>
            Remove it from this list
          </button>
        )}
      </ActionForm>
    </div>
  );
}
