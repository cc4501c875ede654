import type { NumberCheck } from "@/platform/texts";

/** Why texts cannot be sent from a number, in words; null where they can. */
export function numberRefusal(check: NumberCheck): string | null {
  if (check === "yes") return null;
  return check === "no"
    ? "The text gateway does not send from this number. Choose one of those that it has for you."
    : "The text gateway could not be asked about this number. Try again in a moment.";
}
