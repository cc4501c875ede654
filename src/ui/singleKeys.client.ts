"use client";

/** Keys that do something by themselves, without Ctrl: they can be switched off (WCAG 2.2, 2.1.4). */

const OFF = "estima:single-keys";

/** Whether single keys do nothing in this browser. */
export function areSingleKeysOff(): boolean {
  try {
    return localStorage.getItem(OFF) === "off";
  } catch {
    return false;
  }
}

/** Switches single keys off or on in this browser; false where it keeps nothing. */
export function switchSingleKeys(isOff: boolean): boolean {
  try {
    if (isOff) localStorage.setItem(OFF, "off");
    else localStorage.removeItem(OFF);
    return true;
  } catch {
    return false;
  }
}

/** Where keys are typed, and are words. */
const TYPED = "input, textarea, select, [contenteditable], [role=dialog], [role=menu]";

/** Calls `handle` with each single key outside fields and dialogs. Gives what ends that. */
export function onSingleKey(handle: (event: KeyboardEvent) => void): () => void {
  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || areSingleKeysOff()) return;
    if ((event.target as HTMLElement).closest(TYPED)) return;
    handle(event);
  };
  addEventListener("keydown", onKey);
  return () => removeEventListener("keydown", onKey);
}
