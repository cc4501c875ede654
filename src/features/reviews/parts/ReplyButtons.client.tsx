"use client";

import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { drop, takeDown } from "../actions";

/** Lets a reply go that waits for its time or for approval. */
export function DropReply({ slug, reviewId, children }: { slug: string; reviewId: string; children: string }) {
  return <ConfirmButton action={async () => (await drop(slug, reviewId)) ?? { ok: true }}>{children}</ConfirmButton>;
}

/** Takes a reply down from its site. */
export function TakeDown({ slug, reviewId, site }: { slug: string; reviewId: string; site: string }) {
  return (
    <ConfirmButton
      className="button-quiet"
      sure={`Take this reply down from ${site}? The review will be waiting for a reply again.`}
      action={async () => (await takeDown(slug, reviewId)) ?? { ok: true }}
    >
      Take it down
    </ConfirmButton>
  );
}
