"use client";

import { Popover } from "radix-ui";
import { useEffect, useId, useRef, useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import type { ActionResult } from "@/ui/result";
import { signed } from "@/ui/signed";

export type SavedWords = { id: string; purpose: string; words: string; uses: number; of: "agency" | "client" | "own" };

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
        No address reaches {name} now. Ring them, or put their details right.
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
                    <input
                      type="radio"
                      name="channel"
                      value={one.channel}
                      defaultChecked={one.channel === initial}
                      className="accent-mulberry"
                    />
                    {one.channel} to {one.to}
                  </label>
                ))}
              </fieldset>
            )}
            <span className="flex flex-wrap gap-2">
              <SavedMenu
                saved={saved}
                onChoose={(words) => {
                  if (!field.current) return;
                  field.current.value = words.words;
                  setChosen(words.id);
                  field.current.focus();
                }}
              />
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Sending ..." : "Send"}
              </button>
            </span>
          </div>
        </>
      )}
    </ActionForm>
  );
}

/** Saved words to choose from, found by typing. */
function SavedMenu({ saved, onChoose }: { saved: SavedWords[]; onChoose: (words: SavedWords) => void }) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const id = useId();
  const wanted = typed.trim().toLowerCase();
  const shown = saved.filter(({ purpose, words }) => `${purpose} ${words}`.toLowerCase().includes(wanted));
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="button" type="button">
        Saved replies
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          className="border-edge bg-sheet text-ink z-40 max-h-[min(380px,var(--radix-popover-content-available-height))] w-[min(440px,94vw)] overflow-y-auto rounded-[12px] border p-4"
        >
          <label className="label" htmlFor={id}>
            Find a saved reply
          </label>
          <input id={id} className="field" value={typed} onChange={(event) => setTyped(event.target.value)} />
          {saved.length === 0 ? (
            <p className="text-second mt-3">
              Nothing is saved for conversations yet. Replies are saved under Heard, Rules.
            </p>
          ) : null}
          <ul className="mt-2">
            {shown.map((words) => (
              <li key={words.id} className="border-rule border-t first:border-t-0">
                <button
                  type="button"
                  className="hover:bg-mulberry-tint focus-visible:bg-mulberry-tint w-full rounded-[7px] px-2 py-2.5 text-left"
                  onClick={() => {
                    onChoose(words);
                    setOpen(false);
                  }}
                >
                  <span className="flex flex-wrap justify-between gap-x-3">
                    <b>{words.purpose}</b>
                    <span className="text-second text-[14px]">
                      {words.of === "own" ? "your own · " : words.of === "agency" ? "the agency’s · " : ""}
                      {words.uses === 0 ? "not used yet" : `used ${words.uses === 1 ? "once" : `${words.uses} times`}`}
                    </span>
                  </span>
                  <span className="line-clamp-3 whitespace-pre-wrap">{words.words}</span>
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
