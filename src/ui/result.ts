import type { z } from "zod";
import { cleanText } from "@/core/words/clean";

/** What an action tells the form that called it. */
export type ActionResult =
  | { ok: true; message?: string }
  | { ok: false; message: string; fields?: Record<string, string> }
  | null;

/** Wrong input in words: one line for the form, one for each field. */
export function refusal(error: z.ZodError): Exclude<ActionResult, null> {
  const fields: Record<string, string> = {};
  for (const issue of error.issues) fields[issue.path.join(".")] ??= issue.message;
  return { ok: false, message: error.issues[0]?.message ?? "Something in the form needs fixing.", fields };
}

/** One field of a form as text; empty when it is missing, is a file, or what came is no form at all. */
export function formText(form: FormData | undefined, name: string): string {
  const value = form instanceof FormData ? form.get(name) : null;
  return typeof value === "string" ? cleanText(value) : "";
}

/** All values of a field of a form, as texts. */
export function formTexts(form: FormData | undefined, name: string): string[] {
  return form instanceof FormData
    ? form.getAll(name).flatMap((value) => (typeof value === "string" ? [cleanText(value)] : []))
    : [];
}
