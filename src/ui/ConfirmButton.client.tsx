"use client";

import { useTransition } from "react";
import { toast } from "sonner";
import { lost } from "./lost.client";
import type { ActionResult } from "./result";

type Action = () => Promise<Exclude<ActionResult, null>>;

/** A button that does one thing at once and says what came of it; with `sure`, after asking. */
export function ConfirmButton({
  action,
  children,
  className = "button",
  sure,
  undo,
}: {
  action: Action;
  children: React.ReactNode;
  className?: string;
  sure?: string;
  undo?: (result: Exclude<ActionResult, null>) => Action | null;
}) {
  const [pending, start] = useTransition();
  const run = (what: Action, mayUndo: boolean) =>
    start(async () => {
      const result: Exclude<ActionResult, null> = await what().catch(
        lost({ ok: false, message: "The connection dropped and nothing was changed. Try again." }),
      );
      const back = mayUndo && result.ok ? undo?.(result) : null;
      toast(
        result.message ?? "Saved.",
        back ? { action: { label: "Undo", onClick: () => run(back, false) }, duration: 10_000 } : undefined,
      );
    });
  return (
    <button
      type="button"
      className={className}
      disabled={pending}
      onClick={() => (!sure || confirm(sure)) && run(action, true)}
    >
      {pending ? "One moment…" : children}
    </button>
  );
}
