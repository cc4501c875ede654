import type { z } from "zod";
import { cleanText } from "@/core/words/clean";
/** What an action tells the form that called it. */
export type ActionResult = { ok: true; message?: string } | { ok: false; message: string; fields?: Record<string, string> } | null;

/** Wrong input in words: one line for the form, one for each field. */
export function refusal(error: z.ZodError): Exclude<ActionResult, null> {
  const fields: Record<string, string> = {};
  for (const issue of error.issues) fields[issue.path.join(".")] ??= issue.message;
  return { ok: false, message: error.issues[0]?.message ?? "Something in the form is not right.", fields };
}

/** One field of a form as text; empty when it is missing. */
export function formText(form: FormData, name: string): string {
  return cleanText(String(form.get(name) ?? ""));
}
