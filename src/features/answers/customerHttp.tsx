import { createHash } from "node:crypto";
import type { ReactElement } from "react";
import { cleanText } from "@/core/words/clean";
import { type AnyLanguage, languageOf } from "@/core/words/languages";
import { readBounded } from "@/platform/hooks";
import { HtmlResponse } from "@/platform/htmlResponse";
import { SCRIPT } from "@/ui/CustomerPage";
import { markupOf } from "@/ui/markup";

/** What all of the customer's pages are served with: plain HTML, which runs our one script and nothing else. */

const HASH = createHash("sha256").update(SCRIPT).digest("base64");
const HEADERS = {
  "content-type": "text/html; charset=utf-8",
  "cache-control": "no-store",
  "referrer-policy": "no-referrer",
  "x-content-type-options": "nosniff",
  "content-security-policy": `default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src 'self'; connect-src 'self'; script-src 'sha256-${HASH}'; frame-ancestors 'none'; base-uri 'none'`,
};

/** A page as a response. */
export async function customerHtml(
  page: ReactElement,
  status = 200,
  headers: Record<string, string> = {},
): Promise<HtmlResponse> {
  return new HtmlResponse(await markupOf(page), { ...HEADERS, ...headers }, status);
}

/** Leads on, so that a reload sends nothing twice. */
export function goTo(location: string, cookie?: string): Response {
  return new Response(null, {
    status: 303,
    headers: { location, "cache-control": "no-store", ...(cookie ? { "set-cookie": cookie } : {}) },
  });
}

/** The fields of a form, cleaned once they are decoded; null for one that is too long. At most 64 KB. */
export async function readForm(request: Request): Promise<URLSearchParams | null> {
  const text = await readBounded(request, 64 * 1024);
  if (text === null) return null;
  // What is made of two halves would come through before.
  return cleaned([...new URLSearchParams(text)]);
}

/** Fields of a form without what no text contains. */
export const cleaned = (fields: readonly [name: string, value: string][]): URLSearchParams =>
  new URLSearchParams(fields.map(([name, value]) => [cleanText(name), cleanText(value)]));

/** The language that was chosen on the page: in its address, or in the form it sent. */
export function languageIn(request: Pick<Request, "url">, form?: URLSearchParams | null): AnyLanguage | null {
  return languageOf(form?.get("lang")) ?? languageOf(new URL(request.url).searchParams.get("lang"));
}

/** An address with the language that was chosen, if one was. */
export const inLanguage = (address: string, language: AnyLanguage | null): string =>
  language ? `${address}?lang=${language}` : address;
