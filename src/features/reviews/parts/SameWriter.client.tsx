"use client";

import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { sayWhoWrote } from "../actions";

/** Says that a review is a person's, or that it is not. */
export function SameWriter({
  slug,
  reviewId,
  personId,
  children,
}: {
  slug: string;
  reviewId: string;
  personId: string | null;
  children: string;
}) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={async () => (await sayWhoWrote(slug, reviewId, personId)) ?? { ok: true }}
    >
      {children}
    </ConfirmButton>
  );
}
