import { z } from "zod";

/** Keys that somebody has chosen in place of the usual ones: by the usual key of each command. */
export type OwnKeys = Readonly<Record<string, string>>;

/** The commands that a single key gives, by their usual keys. */
export const COMMANDS = ["a", "t", "p", "s", "h", "u", "b", "j", "k", "r", "d", "e", "/"] as const;

const isCommand = (key: string) => (COMMANDS as readonly string[]).includes(key);

/** One letter, figure or sign, and none of those that browsers and screen readers need. */
const isKeyChoice = (key: string): boolean => /^[\p{L}\p{N}\p{P}\p{S}]$/u.test(key) && key !== "?";

/**
 * The command that a pressed key stands for; the key itself where it is none of a command ("Enter", "?"), and null
 * where its command has another key now.
 */
export function commandOf(pressed: string, own: OwnKeys): string | null {
  const key = pressed.length === 1 ? pressed.toLowerCase() : pressed;
  const chosen = Object.keys(own).find((command) => own[command] === key);
  if (chosen) return chosen;
  return isCommand(key) && own[key] !== undefined ? null : key;
}

/** Chooses a key for a command. Null where it is no key, or another command's. The usual key takes the choice back. */
export function withKey(own: OwnKeys, command: string, typed: string): OwnKeys | null {
  const key = typed.toLowerCase();
  const { [command]: _, ...others } = own;
  if (key === command || key === "") return others;
  const isTaken = COMMANDS.some((other) => other !== command && (others[other] ?? other) === key);
  return isKeyChoice(key) && !isTaken ? { ...others, [command]: key } : null;
}

/** What a browser has kept of it; nothing where that cannot be read. */
export function readOwnKeys(kept: string | null): OwnKeys {
  if (!kept) return {};
  try {
    const read = z.record(z.string(), z.string()).parse(JSON.parse(kept));
    return Object.fromEntries(Object.entries(read).filter(([command, key]) => isCommand(command) && isKeyChoice(key)));
  } catch {
    return {};
  }
}
