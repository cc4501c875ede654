import { createHash } from "node:crypto";
import type { ReactElement } from "react";
import { z } from "zod";
import { cleanText } from "@/core/words/clean";
import { askByToken } from "@/features/asks";
import { optOutByLink, optOutOf } from "@/features/messaging";
import { readBounded } from "@/platform/hooks";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { SCRIPT } from "@/ui/CustomerPage";
import { AnswerPage, LostPage, OptOutPage } from "./page";
import { followSite, leaveWords, rate, viewAnswer } from "./service";

/**
 * The customer's addresses as plain HTTP: `/a/<token>[.<step>]` with `/rate`, `/words` and `/site/<listing>` below it,
 * and `/u/<token>`. A GET changes nothing that concerns the customer; every POST answers with a redirect, so that a
 * reload sends nothing twice.
 */

const HASH = createHash("sha256").update(SCRIPT).digest("base64");
const HEADERS = {
  "content-type": "text/html; charset=utf-8",
  "cache-control": "no-store",
  "referrer-policy": "no-referrer",
  "x-content-type-options": "nosniff",
  "content-security-policy": `default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src 'self'; script-src 'sha256-${HASH}'; frame-ancestors 'none'; base-uri 'none'`,
};

async function html(page: ReactElement, status = 200): Promise<Response> {
  const { renderToStaticMarkup } = await import("react-dom/server");
  return new Response(`<!doctype html>${renderToStaticMarkup(page)}`, { status, headers: HEADERS });
}

function goTo(location: string): Response {
  return new Response(null, { status: 303, headers: { location, "cache-control": "no-store" } });
}

const LIMIT_PER_MINUTE = 60;

async function readForm(request: Request): Promise<URLSearchParams | null> {
  const text = await readBounded(request, 64 * 1024);
  if (text === null) return null;
  // Cleaned once it is decoded: what is made of two halves would come through before.
  return new URLSearchParams(
    [...new URLSearchParams(text)].map(([name, value]) => [cleanText(name), cleanText(value)]),
  );
}

const stepInput = z
  .string()
  .regex(/^([0-9]|1[01])$/)
  .transform(Number);
const ratingInput = z.coerce.number().int().min(1).max(5);
const wordsInput = z
  .string()
  .trim()
  .min(1, "Write a few words first, or close this page.")
  .max(5000, "Please keep it under 5,000 characters.");

/** Answers everything under `/a/`. `path` is what follows it. */
export async function handleAnswerRequest(request: Request, path: string[]): Promise<Response> {
  const [token, stepText] = (path[0] ?? "").slice(0, 60).split(".");
  const refused = await refuse(request, token, "a");
  if (refused) return refused;

  if (request.method === "GET" || request.method === "HEAD") {
    if (path.length > 1) return goTo(`/a/${token}`);
    const step = stepInput.safeParse(stepText);
    const query = new URL(request.url).searchParams;
    return page(token, {
      opened: request.method === "GET" && step.success ? step.data : null,
      preselect: ratingInput.safeParse(query.get("r") ?? undefined).data ?? null,
      changing: query.get("change") === "1",
    });
  }
  if (request.method !== "POST")
    return new Response("Method not allowed", { status: 405, headers: { allow: "GET, HEAD, POST" } });
  const form = await readForm(request);
  if (!form) return page(token, { wrong: "That was too long to send. Please shorten it." }, 413);
  if (path[1] === "rate") {
    const rating = ratingInput.safeParse(form.get("rating") ?? undefined);
    if (!rating.success) return page(token, { wrong: "Please tap one of the answers.", changing: true }, 422);
    const view = await viewAnswer(token);
    // Of two answers only two can be given.
    if (view?.context.plan.rules.question === "two" && rating.data !== 1 && rating.data !== 5)
      return page(token, { wrong: "Please tap one of the answers.", changing: true }, 422);
    return (await rate(token, rating.data)) ? goTo(`/a/${token}`) : lost();
  }
  if (path[1] === "words") {
    const words = wordsInput.safeParse(form.get("words") ?? "");
    if (!words.success)
      return page(token, { wrong: words.error.issues[0].message, typed: form.get("words") ?? "" }, 422);
    return (await leaveWords(token, words.data)) ? goTo(`/a/${token}`) : lost();
  }
  if (path[1] === "site" && z.uuid().safeParse(path[2]).success) {
    const address = await followSite(token, path[2]);
    return address ? goTo(address) : lost();
  }
  return lost();
}

/** The answer to a link that leads nowhere, or that is asked for too often; null for one to be answered. */
async function refuse(request: Request, token: string, kind: "a" | "u"): Promise<Response | null> {
  if (!(await isWelcomeClient(request.headers))) return html(<LostPage />, 429);
  if (!isToken(token) || (await askByToken(token)) === null)
    return html(<LostPage />, (await mayGuessAgain(request.headers)) ? 404 : 429);
  return (await isWelcome(`${kind} ${token}`, LIMIT_PER_MINUTE, 60)) ? null : html(<LostPage />, 429);
}

type Shown = { opened?: number | null; wrong?: string; typed?: string; preselect?: number | null; changing?: boolean };

async function page(token: string, shown: Shown, status = 200): Promise<Response> {
  const view = await viewAnswer(token, shown.opened ?? null);
  if (!view) return lost();
  return html(
    <AnswerPage
      view={view}
      preselect={shown.preselect ?? null}
      wrong={shown.wrong ?? null}
      typed={shown.typed ?? ""}
      changing={shown.changing ?? false}
    />,
    status,
  );
}

function lost(): Promise<Response> {
  return html(<LostPage />, 404);
}

/** Answers `/u/<token>`: a page to confirm on, and the one click of RFC 8058. */
export async function handleOptOutRequest(request: Request, token: string): Promise<Response> {
  const refused = await refuse(request, token, "u");
  if (refused) return refused;
  const found = await optOutOf(token);
  if (!found) return html(<LostPage />, 404);
  if (request.method === "POST") {
    await optOutByLink(token);
    return html(<OptOutPage {...found} token={token} done />);
  }
  return html(<OptOutPage {...found} token={token} />);
}
