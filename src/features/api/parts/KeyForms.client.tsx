"use client";

import { startTransition, useActionState, useState } from "react";
import { Copyable } from "@/ui/Copyable.client";
import { Dialog } from "@/ui/Dialog.client";
import { createKey } from "../actions";

/** Makes a key and shows it, this once. */
export function MakeKey({ slug, scopes }: { slug: string; scopes: readonly string[] }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button-main" onClick={() => setOpen(true)}>
        Create a key
      </button>
      <Dialog open={open} onOpenChange={setOpen} title="A new key">
        {open ? <KeyForm slug={slug} scopes={scopes} onEnd={() => setOpen(false)} /> : null}
      </Dialog>
    </>
  );
}

function KeyForm({ slug, scopes, onEnd }: { slug: string; scopes: readonly string[]; onEnd: () => void }) {
  const [result, submit, pending] = useActionState(
    async (before: unknown, form: FormData) => createKey(slug, before, form),
    null,
  );
  if (result?.ok) {
    return (
      <div className="space-y-4">
        <p>Copy it now. We won’t show it again; we only store a hash of it.</p>
        <Copyable text={result.key} label="Key" />
        <button type="button" className="button" onClick={onEnd}>
          I’ve copied it
        </button>
      </div>
    );
  }
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        const data = new FormData(event.currentTarget);
        if (!pending) startTransition(() => submit(data));
      }}
    >
      <div>
        <label className="label" htmlFor="key-name">
          What’s it for?
        </label>
        <input id="key-name" name="name" className="field" autoComplete="off" maxLength={80} />
      </div>
      <fieldset>
        <legend className="label">What it can do</legend>
        <div className="grid gap-x-6 sm:grid-cols-2">
          {scopes.map((scope) => (
            <label key={scope} className="flex min-h-[30px] items-center gap-2">
              <input type="checkbox" name="scope" value={scope} className="size-[17px]" />{" "}
              <code className="text-[14px]">{scope}</code>
            </label>
          ))}
        </div>
      </fieldset>
      {result && !result.ok ? (
        <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[8px] px-3 py-2">
          {result.message}
        </p>
      ) : null}
      <button type="submit" className="button-main" disabled={pending}>
        {pending ? "Making…" : "Create key"}
      </button>
    </form>
  );
}
