"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { putAside } from "../actions";

/** Sets a review aside, or takes it up again. */
export function AsideButton({ slug, reviewId, isAside }: { slug: string; reviewId: string; isAside: boolean }) {
  return (
    <ActionForm action={putAside.bind(null, slug, reviewId)} className="contents">
      {({ pending }) => (
        <button
          type="submit"
          name="aside"
          value={isAside ? "no" : "yes"}
          className="button-quiet"
          disabled={pending}
          data-key="e"
        >
          {isAside ? "Move back to waiting" : "Set aside"}
        </button>
      )}
    </ActionForm>
  );
}
