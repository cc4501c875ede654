import type { IncomingMessage, ServerResponse } from "node:http";
import { getRequestListener } from "@hono/node-server";
import { handleAnswerRequest, handleOptOutRequest } from "@/features/answers";
import { handleStandingLink } from "@/features/standing-links";
import { handleSampleRequest, isSampleToken } from "@/features/words";
import { describeError, log } from "@/platform/log";

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

type Found = { answer: Pages["answer"]; path: string[] };

/** Who answers a request, where it is for a customer's page. The address is one that can be decoded. */
function pageAt(method: string | undefined, url: string | undefined): Found | null {
  const [kind, ...path] = (url ?? "").split("?", 1)[0].slice(1).split("/");
  const pages = Object.hasOwn(PAGES, kind) ? PAGES[kind] : null;
  if (!pages || !METHODS.has(method ?? "") || !path[0] || path.length > pages.most) return null;
  return { answer: pages.answer, path: path.map(decodeURIComponent) };
}

/** Answers a request for a customer's page; false for any other, which is left to the framework. */
export function serveCustomerPage(request: IncomingMessage, response: ServerResponse): boolean {
  const found = pageAt(request.method, request.url);
  if (!found) return false;
  void getRequestListener((asked) => found.answer(asked, found.path), {
    overrideGlobalObjects: false,
    errorHandler: (error) => {
      log.error(describeError(error), "customer page failed");
      return new Response("Something went wrong here. Please try again in a minute.", { status: 500 });
    },
  })(request, response);
  return true;
}
