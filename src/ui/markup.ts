import type { ReactElement } from "react";

/** Loaded with the first page: the framework takes no import of it at the head of a file. */
let renderer: Promise<typeof import("react-dom/server")> | undefined;

/** A whole page as plain HTML, which needs no script to be read. */
export async function markupOf(page: ReactElement): Promise<string> {
  renderer ??= import("react-dom/server");
  // As HTML writes it, and as every other attribute is written; no text contains such a quote.
  return `<!doctype html>${(await renderer).renderToStaticMarkup(page).replaceAll(' formAction="', ' formaction="')}`;
}
