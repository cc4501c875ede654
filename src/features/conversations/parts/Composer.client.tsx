"use client";

import { useEffect, useId, useRef, useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import type { ActionResult } from "@/ui/result";
import { type SavedWords, SavedWordsMenu } from "@/ui/SavedWordsMenu.client";
import { signed } from "@/ui/signed";

type Props = {
  /** Sends it: as an answer in the conversation, or to the concern that is open. */
  action: (before: ActionResult, form: FormData) => Promise<ActionResult>;
  channels: { channel: "text" | "email"; to: string }[];
  /** Which way they wrote last. */
  channel: "text" | "email";
  name: string;
  signature: string | null;
  saved: SavedWords[];
  /** Counts that saved words were used. */
  onSaved: (id: string) => Promise<void>;
  /** When the page was read: milliseconds since the epoch. */
  seenAt: number;
};

/** Where an answer is written: at the foot of the screen on a phone. Ctrl Enter sends it. */
export function Composer({ action, channels, channel: first, name, signature, saved, onSaved, seenAt }: Props) {
  const [requestKey, setRequestKey] = useState(() => crypto.randomUUID());
  const [chosen, setChosen] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  // On a phone the latest letter stands above the field, not at the end of a long way down.
  useEffect(() => {
    if (matchMedia("(max-width: 899px)").matches)
      document.querySelector("[data-latest]")?.scrollIntoView({ block: "end" });
  }, []);
  const initial = channels.find(({ channel }) => channel === first)?.channel ?? channels[0]?.channel;
  if (!initial)
    return (
      <p className="bg-ochre-tint text-ochre-deep rounded-[9px] px-4 py-3">
        We have no working address for {name}. Ring them, or fix their details.
      </p>
    );
  return (
    <ActionForm
      key={requestKey}
      action={action}
      onDone={() => {
        if (chosen) void onSaved(chosen);
        setChosen(null);
        setRequestKey(crypto.randomUUID());
      }}
    >
      {({ pending, error }) => (
        <>
          <input type="hidden" name="requestKey" value={requestKey} />
          <input type="hidden" name="seenAt" value={seenAt} />
          <label className="label max-wide:sr-only" htmlFor={id}>
            Write to {name}
          </label>
          <textarea
            id={id}
            ref={field}
            name="words"
            rows={2}
            placeholder={`Write to ${name}`}
            className="field wide:min-h-[104px]"
            defaultValue={signed(signature)}
            onKeyDown={(event) => {
              if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
              event.preventDefault();
              event.currentTarget.form?.requestSubmit();
            }}
          />
          {error("words")}
          <div className="mt-2 flex flex-wrap items-center justify-between gap-x-3 gap-y-1.5">
            {channels.length === 1 ? (
              <span className="text-second text-[14px]">
                <input type="hidden" name="channel" value={initial} />
                {initial} to {channels[0].to}
              </span>
            ) : (
              <fieldset className="flex flex-wrap gap-x-5 text-[14px]">
                <legend className="sr-only">By</legend>
                {channels.map((one) => (
                  <label key={one.channel} className="flex min-h-[28px] items-center gap-2">
                    <input type="radio" name="channel" value={one.channel} defaultChecked={one.channel === initial} />
                    {one.channel} to {one.to}
                  </label>
                ))}
              </fieldset>
            )}
            <span className="flex flex-wrap gap-2">
              <SavedWordsMenu
                saved={saved}
                empty="No saved replies for conversations yet. Add some under Heard, Rules."
                onChoose={(words) => {
                  if (!field.current) return;
                  field.current.value = words.words;
                  setChosen(words.id);
                  field.current.focus();
                }}
              />
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Sending…" : "Send"}
              </button>
            </span>
          </div>
        </>
      )}
    </ActionForm>
  );
}
