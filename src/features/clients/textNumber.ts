import type { NumberCheck } from "@/platform/texts";

/** Why texts cannot be sent from a number, in words; null where they can. */
export function numberRefusal(check: NumberCheck): string | null {
  if (check === "yes") return null;
  return check === "no"
    ? "Our sending service can’t send from this number. Choose one of the numbers it has for you."
    : "We couldn’t check this number with our sending service. Try again in a moment.";
}
