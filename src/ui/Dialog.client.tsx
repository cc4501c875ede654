"use client";

import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A dialog that fills the screen of a phone and stands in the middle of anything larger. */
export function Dialog({
  open,
  onOpenChange,
  title,
  lead,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  lead?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(34_26_44/0.45)]" />
        <Radix.Content
          aria-describedby={undefined}
          className="bg-sheet text-ink border-rule fixed inset-0 z-50 overflow-y-auto p-5 sm:inset-auto sm:top-[5vh] sm:left-1/2 sm:max-h-[90vh] sm:w-[min(720px,94vw)] sm:-translate-x-1/2 sm:rounded-[14px] sm:border sm:p-7"
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="font-title text-[23px] leading-tight font-semibold">{title}</Radix.Title>
              {lead ? <p className="text-second mt-1">{lead}</p> : null}
            </div>
            <Radix.Close
              aria-label="Close"
              className="text-second hover:text-ink -mt-1 -mr-2 grid size-11 place-items-center rounded-full"
            >
              <X size={20} />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
