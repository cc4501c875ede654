"use client";

import { Popover } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";
import { ActionForm } from "./ActionForm.client";
import type { ActionResult } from "./result";

type Action = (before: ActionResult, form: FormData) => Promise<ActionResult>;

/** The underlined part of a sentence: opens a small form, keeps on its button, and closes. */
export function Sentence({
  words,
  label,
  action,
  wide = false,
  id,
  children,
}: {
  words: ReactNode;
  label: string;
  action: Action | null;
  wide?: boolean;
  /** An address that ends in `#id` opens it. */
  id?: string;
  children: (error: (field: string) => ReactNode) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const look = () => {
      if (id && location.hash === `#${id}`) setOpen(true);
    };
    look();
    addEventListener("hashchange", look);
    return () => removeEventListener("hashchange", look);
  }, [id]);
  if (!action) return <b>{words}</b>;
  return (
    <Popover.Root
      open={open}
      onOpenChange={(wanted) => {
        setOpen(wanted);
        // The same address may open it again.
        if (!wanted && id && location.hash === `#${id}`)
          history.replaceState(history.state, "", location.pathname + location.search);
      }}
    >
      <Popover.Trigger id={id} className="words-link rounded-[3px] text-left" aria-label={`${label}: change`}>
        {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          // It closes when the server has answered: whoever is somewhere else by then stays there,
          // since a focus that moves back would close what they opened meanwhile.
          onCloseAutoFocus={(event) => {
            if (document.activeElement !== document.body) event.preventDefault();
          }}
          className={`border-edge bg-sheet text-ink z-40 max-h-[var(--radix-popover-content-available-height)] overflow-y-auto rounded-[12px] border p-5 ${wide ? "w-[min(560px,94vw)]" : "w-[min(340px,94vw)]"}`}
        >
          <p className="font-title mb-3 text-[16px] font-semibold">{label}</p>
          <ActionForm action={action} onDone={() => setOpen(false)}>
            {({ pending, error }) => (
              <>
                {children(error)}
                <div className="mt-4 flex gap-2">
                  <button type="submit" className="button-main" disabled={pending}>
                    {pending ? "Saving…" : "Save"}
                  </button>
                  <Popover.Close className="button" type="button">
                    Cancel
                  </Popover.Close>
                </div>
              </>
            )}
          </ActionForm>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
