"use client";

import { type ReactNode, startTransition, useActionState, useEffect, useRef } from "react";
import { toast } from "sonner";
import { keepWords } from "./keptWords.client";
import type { ActionResult } from "./result";

type Props = {
  action: (before: ActionResult, form: FormData) => Promise<ActionResult>;
  children: (state: { result: ActionResult; pending: boolean; error: (field: string) => ReactNode }) => ReactNode;
  className?: string;
  onDone?: () => void;
};

/** What is written in the fields of a form, and where it is. */
type Writing = { words: string; path: string };

/**
 * A form around a server action: says what was wrong beside the field, keeps what was typed (also where the page is read
 * anew without the form), and cannot be sent twice at once.
 */
export function ActionForm({ action, children, className, onDone }: Props) {
  const writing = useRef<Writing | null>(null);
  const refused = useRef<string | null>(null);
  useEffect(
    () => () => {
      const { words, path } = writing.current ?? { words: "", path: "" };
      if (words && path === location.pathname) keepWords(words, refused.current);
      writing.current = null;
    },
    [],
  );
  // Told from the action itself: what it changes may take this very form off the page before an effect could run.
  const [result, submit, pending] = useActionState(async (before: ActionResult, form: FormData) => {
    const after = await action(before, form);
    refused.current = after && !after.ok ? after.message : null;
    if (after?.ok) {
      writing.current = null;
      if (after.message) toast(after.message);
      onDone?.();
    }
    return after;
  }, null);
  const error = (field: string) => {
    const text = result && !result.ok ? result.fields?.[field] : undefined;
    return text ? (
      <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
        {text}
      </p>
    ) : null;
  };
  return (
    <form
      className={className}
      onInput={(event) => {
        const fields = [...event.currentTarget.querySelectorAll("textarea")];
        const words = fields.map(({ value }) => value.trim()).filter(Boolean);
        writing.current = { words: words.join("\n\n"), path: location.pathname };
      }}
      // Not the action itself: React would empty the fields after a refusal.
      onSubmit={(event) => {
        event.preventDefault();
        const submitter = (event.nativeEvent as SubmitEvent).submitter;
        const data = new FormData(event.currentTarget, submitter);
        if (!pending) startTransition(() => submit(data));
      }}
    >
      {children({ result, pending, error })}
      {result && !result.ok && !Object.keys(result.fields ?? {}).length ? (
        <p role="alert" className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
          {result.message}
        </p>
      ) : null}
    </form>
  );
}
