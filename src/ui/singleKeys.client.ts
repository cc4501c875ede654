"use client";

import { commandOf, type OwnKeys, readOwnKeys } from "@/core/web/singleKeys";

/**
 * Keys that do something by themselves, without Ctrl: in each browser they can be switched off, or be others (WCAG 2.2,
 * 2.1.4).
 */

const OFF = "estima:single-keys";
const OWN = "estima:own-keys";

const kept = (name: string): string | null => {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
};

/** Keeps something in this browser, or takes it away; false where it keeps nothing. */
function keep(name: string, value: string | null): boolean {
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, value);
    return true;
  } catch {
    return false;
  }
}

/** Whether single keys do nothing in this browser. */
export const areSingleKeysOff = (): boolean => kept(OFF) === "off";

/** Switches single keys off or on in this browser; false where it keeps nothing. */
export const switchSingleKeys = (isOff: boolean): boolean => keep(OFF, isOff ? "off" : null);

/** The keys that somebody has chosen in this browser in place of the usual ones. */
export const ownKeys = (): OwnKeys => readOwnKeys(kept(OWN));

/** Keeps the keys that somebody chose; false where this browser keeps nothing. */
export const keepOwnKeys = (keys: OwnKeys): boolean =>
  keep(OWN, Object.keys(keys).length > 0 ? JSON.stringify(keys) : null);

/** Where keys are typed, and are words. */
const TYPED = "input, textarea, select, [contenteditable], [role=dialog], [role=menu]";

/**
 * Calls `handle` with each single key outside fields and dialogs, as the command that it stands for: "j" is "j" whatever
 * somebody chose in its place. Gives what ends that.
 */
export function onSingleKey(handle: (command: string, event: KeyboardEvent) => void): () => void {
  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || areSingleKeysOff()) return;
    if ((event.target as HTMLElement).closest(TYPED)) return;
    const command = commandOf(event.key, ownKeys());
    if (command !== null) handle(command, event);
  };
  addEventListener("keydown", onKey);
  return () => removeEventListener("keydown", onKey);
}
