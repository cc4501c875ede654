import { readFileSync } from "node:fs";
import type { IncomingMessage, ServerResponse } from "node:http";
import { join } from "node:path";

/**
 * Forms and actions that are posted to pages. The framework answers a broken one, or one from another site, with a fault
 * and a line in the log, which a stranger could repeat at will. Here the one from another site is refused before the
 * framework sees it, and a fault before any action of ours began is what it is: a request that cannot be read.
 */

/** How many were refused since the process started; nothing of each is logged. */
export const refusedPosts = { fromElsewhere: 0, unreadable: 0 };

/**
 * The addresses that take posts themselves, of the built application: everything else under its addresses is a page.
 *
 * @param folder the folder of the build
 */
export function routePatterns(folder: string): RegExp[] {
  const manifest = JSON.parse(readFileSync(join(folder, "app-path-routes-manifest.json"), "utf8")) as Record<
    string,
    string
  >;
  return Object.entries(manifest)
    .filter(([file]) => file.endsWith("/route"))
    .map(([, path]) => patternOf(path));
}

/** "/c/[client]/people/[...rest]" as what matches its addresses. */
export function patternOf(path: string): RegExp {
  const parts = path
    .split("/")
    .filter(Boolean)
    .map((part) => {
      if (/^\[\[\.\.\..+\]\]$/.test(part)) return "(?:/.*)?";
      if (/^\[\.\.\..+\]$/.test(part)) return "/.+";
      return /^\[.+\]$/.test(part) ? "/[^/]+" : `/${part.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}`;
    });
  return new RegExp(`^${parts.join("")}/?$`);
}

/** Whether the framework would read a request as an action or a form of a page. */
export function isFormPost({ method, url = "", headers }: IncomingMessage, routes: readonly RegExp[]): boolean {
  if (method !== "POST") return false;
  if (headers["next-action"] !== undefined) return true;
  if (!/^\s*(?:multipart\/form-data|application\/x-www-form-urlencoded)/i.test(headers["content-type"] ?? ""))
    return false;
  const [path] = url.split("?", 1);
  return !routes.some((route) => route.test(path));
}

/** Whether a page of another site posted this: browsers say from where. */
export function isFromElsewhere({ headers }: IncomingMessage, appHost: string): boolean {
  const { origin, host } = headers;
  if (origin === undefined) return false;
  try {
    const from = new URL(origin).host;
    return from !== host && from !== appHost;
  } catch {
    return true;
  }
}

function answer(response: ServerResponse, status: number, detail: string): void {
  response.writeHead(status, { "content-type": "application/problem+json", "cache-control": "no-store" });
  response.end(JSON.stringify({ type: "about:blank", status, detail }));
}

/** Refuses a post of another site's page. */
export function refuseElsewhere(request: IncomingMessage, response: ServerResponse): void {
  refusedPosts.fromElsewhere += 1;
  // What it sends is not read.
  request.resume();
  answer(response, 403, "Forms can only be sent from our own pages.");
}

/**
 * Answers 400 where the framework would answer with a fault before an action of ours began. `hasBegun` says whether one
 * has; from then on faults are ours, and stay what they are.
 */
export function guardPost(response: ServerResponse, hasBegun: () => boolean): void {
  const { writeHead, write, end } = response;
  let isTaken = false;
  response.writeHead = ((status: number, ...rest: unknown[]) => {
    if (status < 500 || hasBegun() || isTaken)
      return (writeHead as (...all: unknown[]) => ServerResponse).call(response, status, ...rest);
    isTaken = true;
    refusedPosts.unreadable += 1;
    for (const name of response.getHeaderNames()) response.removeHeader(name);
    const body = JSON.stringify({
      type: "about:blank",
      status: 400,
      detail: "We can’t read this form. Reload the page.",
    });
    (writeHead as (...all: unknown[]) => ServerResponse).call(response, 400, {
      "content-type": "application/problem+json",
      "cache-control": "no-store",
      "content-length": Buffer.byteLength(body),
    });
    (end as (...all: unknown[]) => ServerResponse).call(response, body);
    return response;
  }) as typeof writeHead;
  // What the framework says of the fault goes nowhere.
  response.write = ((...all: Parameters<typeof write>) => {
    if (!response.headersSent) response.writeHead(response.statusCode);
    return isTaken ? true : write.apply(response, all);
  }) as typeof write;
  response.end = ((...all: Parameters<typeof end>) => {
    if (!response.headersSent) response.writeHead(response.statusCode);
    return isTaken ? response : end.apply(response, all);
  }) as typeof end;
}
