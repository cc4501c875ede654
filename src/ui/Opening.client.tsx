"use client";

import { type ReactNode, useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";

/**
 * Something to open whose inside is made when it is first opened, and then stays as it was left. For long lists, where
 * most of what could be opened never is.
 */
export function Opening({
  label,
  isOpen = false,
  isBare = false,
  className,
  children,
}: {
  label: string;
  isOpen?: boolean;
  /** Without its button: it is open, however it was left, and stays so. */
  isBare?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const [isMade, setMade] = useState(isOpen);
  const box = useRef<HTMLDetailsElement>(null);
  // Folded before its button went, nobody could open it again.
  useEffect(() => {
    if (isBare && box.current) box.current.open = true;
  }, [isBare]);
  return (
    <details
      ref={box}
      className={className}
      open={isOpen}
      onToggle={(event) => event.currentTarget.open && setMade(true)}
    >
      {/* At once: whoever opens it by a key puts the cursor inside. */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a summary is a button */}
      <summary className={isBare ? "hidden" : "button"} onClick={() => flushSync(() => setMade(true))}>
        {label}
      </summary>
      {isMade ? children : null}
    </details>
  );
}
