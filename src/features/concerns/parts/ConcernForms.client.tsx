"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import type { ActionResult } from "@/ui/result";
import { signed } from "@/ui/signed";
import { answer, close, noteForTeam, reopen, take } from "../actions";

/** One button that takes or reopens a concern. */
export function OneClick({ slug, id, action }: { slug: string; id: string; action: "take" | "reopen" }) {
  return (
    <ActionForm action={(action === "take" ? take : reopen).bind(null, slug, id)}>
      {({ pending }) => (
        <button type="submit" className={action === "take" ? "button-main" : "button"} disabled={pending}>
          {action === "take" ? "I’ll handle it" : "Reopen"}
        </button>
      )}
    </ActionForm>
  );
}

type LetterProps = {
  action: (before: ActionResult | null, form: FormData) => Promise<ActionResult>;
  /** What the form is for; a page may have several. */
  id: string;
  channels: { channel: "text" | "email"; to: string }[];
  name: string;
  signature?: string | null;
  /** When the page was read: what is written meanwhile is told before anything is sent. Milliseconds. */
  seenAt: number;
};

/** The answer to a customer's concern, by text or email. */
export const AnswerForm = ({ slug, ...it }: Omit<LetterProps, "action"> & { slug: string }) => (
  <LetterForm action={answer.bind(null, slug, it.id)} {...it} />
);

/** What one of the team writes to a customer, by text or email. */
export function LetterForm({ action, id, channels, name, signature, seenAt }: LetterProps) {
  const [requestKey, setRequestKey] = useState(() => crypto.randomUUID());
  const [channel, setChannel] = useState(channels[0]?.channel ?? "text");
  if (channels.length === 0)
    return (
      <p className="bg-ochre-tint text-ochre-deep rounded-[9px] px-4 py-3">
        We have no working address for {name}. Fix their details, or ring them.
      </p>
    );
  return (
    <ActionForm key={requestKey} action={action} onDone={() => setRequestKey(crypto.randomUUID())}>
      {({ pending, error }) => (
        <>
          <input type="hidden" name="requestKey" value={requestKey} />
          <input type="hidden" name="seenAt" value={seenAt} />
          <label className="label" htmlFor={`words-${id}`}>
            Write to {name}
          </label>
          <textarea id={`words-${id}`} name="words" rows={4} className="field" defaultValue={signed(signature)} />
          {error("words")}
          <div className="mt-2.5 flex flex-wrap items-center justify-between gap-3">
            <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
              <legend className="sr-only">By</legend>
              {channels.map((one) => (
                <label key={one.channel} className="flex min-h-[32px] items-center gap-2">
                  <input
                    type="radio"
                    name="channel"
                    value={one.channel}
                    checked={channel === one.channel}
                    onChange={() => setChannel(one.channel)}
                  />
                  {one.channel} to {one.to}
                </label>
              ))}
            </fieldset>
            <button type="submit" className="button-main" disabled={pending}>
              {pending ? "Sending…" : "Send"}
            </button>
          </div>
        </>
      )}
    </ActionForm>
  );
}

/** Closes a concern with one of `outcomes`: each its code and its words. */
export function CloseForm({
  slug,
  id,
  outcomes,
}: {
  slug: string;
  id: string;
  outcomes: readonly (readonly [string, string])[];
}) {
  return (
    <ActionForm action={close.bind(null, slug, id)} className="grid gap-3 sm:grid-cols-[220px_1fr_auto] sm:items-end">
      {({ pending, error }) => (
        <>
          <div>
            <label className="label" htmlFor="outcome">
              Outcome
            </label>
            <select id="outcome" name="outcome" className="field" defaultValue="">
              <option value="">choose</option>
              {outcomes.map(([outcome, words]) => (
                <option key={outcome} value={outcome}>
                  {words}
                </option>
              ))}
            </select>
            {error("outcome")}
          </div>
          <div>
            <label className="label" htmlFor="outcome-note">
              Note for the team
            </label>
            <input id="outcome-note" name="note" className="field" autoComplete="off" />
            {error("note")}
          </div>
          <button type="submit" className="button" disabled={pending}>
            Close concern
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** A note that only the team sees. */
export function TeamNoteForm({ slug, id }: { slug: string; id: string }) {
  const [turn, setTurn] = useState(0);
  return (
    <ActionForm key={turn} action={noteForTeam.bind(null, slug, id)} onDone={() => setTurn(turn + 1)} className="mt-2">
      {({ pending, error }) => (
        <>
          <label className="sr-only" htmlFor="team-note">
            Team note
          </label>
          <textarea id="team-note" name="words" rows={2} className="field" placeholder="Team note" />
          {error("words")}
          <button type="submit" className="button mt-2" disabled={pending}>
            {pending ? "Adding…" : "Add note"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
