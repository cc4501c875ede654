"use client";

import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { wantSummary } from "../actions";

/** Asks for the morning's mail, or ends it. */
export function SummaryButton({ slug, wants }: { slug: string; wants: boolean }) {
  return (
    <ConfirmButton className="button-quiet -ml-2" action={wantSummary.bind(null, slug, !wants)}>
      {wants ? "Stop the email" : "Email me every morning"}
    </ConfirmButton>
  );
}
