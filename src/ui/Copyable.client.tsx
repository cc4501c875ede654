"use client";

import { useState } from "react";
import { toast } from "sonner";

/** Something to be copied: shown at once, or after asking for it. */
export function Copyable({ text, label, hidden = false }: { text: string; label: string; hidden?: boolean }) {
  const [shown, setShown] = useState(!hidden);
  return (
    <span className="flex flex-wrap items-center gap-2">
      <code className="border-rule bg-sheet rounded-[7px] border px-2 py-1 text-[13px] [overflow-wrap:anywhere]">
        {shown ? text : "•".repeat(24)}
      </code>
      {shown ? null : (
        <button type="button" className="button-quiet" onClick={() => setShown(true)}>
          Show
        </button>
      )}
      <button
        type="button"
        className="button-quiet"
        onClick={() =>
          navigator.clipboard.writeText(text).then(
            () => toast(`${label} copied.`),
            () => setShown(true),
          )
        }
      >
        Copy<span className="sr-only"> {label}</span>
      </button>
    </span>
  );
}
