"use client";

import { useTransition } from "react";
import type { ConnectorId } from "@/core/reviews/sites";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { leaveConnecting, signIn, stopReadingPage } from "../actions";

/** Leads to the site, to sign in there; `again` is the sign-in that has ended. */
export function SignInButton({
  slug,
  site,
  again,
  main = false,
  children,
}: {
  slug: string;
  site: ConnectorId;
  again: string | null;
  main?: boolean;
  children: React.ReactNode;
}) {
  const [pending, start] = useTransition();
  return (
    <button
      type="button"
      className={main ? "button-main" : "button"}
      disabled={pending}
      onClick={() => start(() => signIn(slug, site, again))}
    >
      {pending ? "One moment…" : children}
    </button>
  );
}

/** Has a page read no more. */
export function StopReading({
  slug,
  listingId,
  site,
  unposted,
}: {
  slug: string;
  listingId: string;
  site: string;
  /** How many replies are planned there, or wait for approval. */
  unposted: number;
}) {
  const dropped =
    unposted === 0
      ? ""
      : unposted === 1
        ? " One reply that’s ready won’t be posted."
        : ` ${unposted} replies that are ready won’t be posted.`;
  return (
    <ConfirmButton
      className="button-quiet"
      sure={`Disconnect this page on ${site}? Reviews we’ve collected stay; new ones won’t come in. Plans that offer ${site} still offer it; leave it out of them if you don’t want that.${dropped}`}
      action={async () => (await stopReadingPage(slug, listingId)) ?? { ok: true }}
    >
      Disconnect
    </ConfirmButton>
  );
}

/** Gives up a connecting that was begun. */
export function LeaveConnecting({ slug, site }: { slug: string; site: ConnectorId }) {
  const [pending, start] = useTransition();
  return (
    <button
      type="button"
      className="button-quiet"
      disabled={pending}
      onClick={() => start(() => leaveConnecting(slug, site))}
    >
      Cancel connecting
    </button>
  );
}
