"use client";

import { type ReactNode, startTransition, useActionState } from "react";
import { toast } from "sonner";
import type { ActionResult } from "./result";

type Props = {
  action: (before: ActionResult, form: FormData) => Promise<ActionResult>;
  children: (state: { result: ActionResult; pending: boolean; error: (field: string) => ReactNode }) => ReactNode;
  className?: string;
  onDone?: () => void;
};

/**
 * A form around a server action: says what was wrong beside the field, keeps what was typed, and cannot be sent twice
 * at once.
 */
export function ActionForm({ action, children, className, onDone }: Props) {
  // Told from the action itself: what it changes may take this very form off the page before an effect could run.
  const [result, submit, pending] = useActionState(async (before: ActionResult, form: FormData) => {
    const after = await action(before, form);
    if (after?.ok) {
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
