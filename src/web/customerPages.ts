import type { IncomingMessage, ServerResponse } from "node:http";
import { getRequestListener } from "@hono/node-server";
import { RESPONSE_ALREADY_SENT } from "@hono/node-server/utils/response";
import { handleAnswerRequest, handleOptOutRequest, lookAtAnswer } from "@/features/answers";
import { handleStandingLink } from "@/features/standing-links";
import { handleSampleRequest, isSampleToken } from "@/features/words";
import { HtmlResponse } from "@/platform/htmlResponse";
import { describeError, log } from "@/platform/log";
import type { Asked } from "@/platform/visitor";

/**
 * The customer's pages, answered by the web server itself. They are plain HTML and ask nothing of the framework, which
 * takes longer to find their handler than they take to be made. Where no such server stands (while developing), the
 * routes of `src/app` call the same handlers.
 */

type Pages = {
  /** How many parts of a path may follow. */
  most: number;
  answer: (request: Request, path: string[]) => Promise<Response>;
};

/** By the first part of the path; each is given what follows it. */
const PAGES: Record<string, Pages> = {
  a: {
    most: 3,
    answer: (request, path) =>
      isSampleToken(path[0]) ? handleSampleRequest(request, path) : handleAnswerRequest(request, path),
  },
  s: { most: 3, answer: handleStandingLink },
  u: { most: 1, answer: (request, [token]) => handleOptOutRequest(request, token) },
};

const METHODS = new Set(["GET", "HEAD", "POST"]);

type Found = { kind: string; path: string[]; answer: Pages["answer"] };

/** Who answers a request, where it is for a customer's page. The address is one that can be decoded. */
function pageAt(method: string | undefined, url: string | undefined): Found | null {
  const [kind, ...path] = (url ?? "").split("?", 1)[0].slice(1).split("/");
  const pages = Object.hasOwn(PAGES, kind) ? PAGES[kind] : null;
  if (!pages || !METHODS.has(method ?? "") || !path[0] || path.length > pages.most) return null;
  return { kind, path: path.map(decodeURIComponent), answer: pages.answer };
}

/** Answers a request for a customer's page; false for any other, which is left to the framework. */
export function serveCustomerPage(request: IncomingMessage, response: ServerResponse): boolean {
  const found = pageAt(request.method, request.url);
  if (!found) return false;
  const { kind, path } = found;
  // The page that a message leads to: nearly every request, and the one that somebody on a phone waits for.
  if (kind === "a" && path.length === 1 && request.method !== "POST" && !isSampleToken(path[0]))
    lookAtAnswer(askedBy(request), path[0]).then(
      (page) => send(page, response),
      (error) => send(failed(error), response),
    );
  else void listen(request, response);
  return true;
}

/** What a page that is looked at needs of a request, without the request that the framework would make of it. */
function askedBy({ method, url, headers }: IncomingMessage): Asked {
  return {
    method: method ?? "GET",
    url: `http://localhost${url}`,
    headers: {
      get: (name) => {
        const value = headers[name];
        return Array.isArray(value) ? value.join(", ") : (value ?? null);
      },
    },
  };
}

function send({ status, plainHeaders, html }: HtmlResponse, response: ServerResponse): void {
  response.writeHead(status, plainHeaders);
  response.end(html);
}

function failed(error: unknown): HtmlResponse {
  log.error(describeError(error), "customer page failed");
  const type = { "content-type": "text/plain; charset=utf-8" };
  return new HtmlResponse("Something went wrong here. Please try again in a minute.", type, 500);
}

const listen = getRequestListener(
  async (request, env) => {
    const { incoming, outgoing } = env as { incoming: IncomingMessage; outgoing: ServerResponse };
    const { answer, path } = pageAt(incoming.method, incoming.url) as Found;
    const answered = await answer(request, path);
    if (!(answered instanceof HtmlResponse)) return answered;
    send(answered, outgoing);
    return RESPONSE_ALREADY_SENT;
  },
  { overrideGlobalObjects: false, errorHandler: failed },
);
