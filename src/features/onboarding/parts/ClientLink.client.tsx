"use client";

import { useState, useTransition } from "react";
import { toast } from "sonner";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Copyable } from "@/ui/Copyable.client";
import { lost } from "@/ui/lost.client";
import { endClientLink, letClientFill, settleFilled } from "../actions";

/** Makes a link by which the client fills the blanks in, and shows it once. */
export function ClientLink({ slug, id, isOpen }: { slug: string; id: string; isOpen: boolean }) {
  const [link, setLink] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const make = () =>
    start(async () => {
      const made = await letClientFill(slug, id).catch(
        lost({ ok: false as const, message: "The connection dropped, so no link was made." }),
      );
      if (made.ok) setLink(made.link);
      else toast(made.message);
    });
  return (
    <div className="space-y-2">
      {link ? <Copyable text={link} label="The link" /> : null}
      <div className="flex flex-wrap gap-1">
        <button type="button" className="button" disabled={pending} onClick={make}>
          {isOpen || link ? "Make a new link" : "Make a link"}
        </button>
        {isOpen || link ? (
          <ConfirmButton
            className="button-quiet"
            action={async () => {
              const ended = await endClientLink(slug, id);
              if (ended.ok) setLink(null);
              return ended;
            }}
          >
            End the link
          </ConfirmButton>
        ) : null}
      </div>
    </div>
  );
}

/** Takes over what the client wrote, or lays it aside. */
export function SettleFilled({ slug, id }: { slug: string; id: string }) {
  return (
    <div className="flex flex-wrap gap-1">
      <ConfirmButton className="button" action={settleFilled.bind(null, slug, id, true)}>
        Use their answers
      </ConfirmButton>
      <ConfirmButton
        className="button-quiet"
        action={settleFilled.bind(null, slug, id, false)}
        sure="Ignore what the client wrote?"
      >
        Ignore them
      </ConfirmButton>
    </div>
  );
}
