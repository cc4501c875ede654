import { createHash } from "node:crypto";
import { sql } from "drizzle-orm";
import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { Refused } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, type Scope, type Tx, withClient } from "@/platform/database";
import { readBounded, readJson } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { isWelcome } from "@/platform/publicLimit";
import { readKey } from "./keys";
import { type Operation, Problem } from "./operation";
import { readablePage } from "./page";
import { dispatch, findOperation, openApiDocument, answer as reply } from "./router";

/**
 * The API under `/api/v1`. A key says which client; its scopes say what it may do. Every call is one transaction. A
 * POST with an Idempotency-Key is carried out once: its repetition gets the same answer.
 */

const MOST_BYTES = 256 * 1024;
const CALLS_A_MINUTE = 600;

const TITLES: Record<number, string> = {
  400: "Bad request",
  401: "No valid key",
  403: "Not allowed",
  404: "Not found",
  405: "Method not allowed",
  409: "Conflict",
  413: "Too large",
  415: "Not JSON",
  422: "Wrong input",
  429: "Too many calls",
  500: "Fault",
};

function problemResponse(
  status: number,
  detail: string,
  errors?: { pointer: string; detail: string }[],
  headers: Record<string, string> = {},
): Response {
  return new Response(
    JSON.stringify({
      type: "about:blank",
      title: TITLES[status] ?? "Problem",
      status,
      detail,
      ...(errors ? { errors } : {}),
    }),
    {
      status,
      headers: { "content-type": "application/problem+json", "cache-control": "no-store", ...headers },
    },
  );
}

/** Answers everything under `/api/v1`; `path` is what follows. */
export async function handleApi(request: Request, path: string[]): Promise<Response> {
  try {
    return await answer(request, path);
  } catch (error) {
    if (error instanceof Problem) return problemResponse(error.status, error.message, error.errors);
    if (error instanceof Refused) return problemResponse(409, error.message);
    log.error({ ...describeError(error), method: request.method }, "API call failed");
    return problemResponse(500, "Something went wrong here, and nothing was changed. Try again in a moment.");
  }
}

async function answer(request: Request, path: string[]): Promise<Response> {
  if (path.join("/") === "openapi.json" && request.method === "GET") return reply(200, openApiDocument());
  if (path.length === 0 && request.method === "GET") return readablePage();
  const address = `/${path.join("/")}`;
  const found = findOperation(request.method, address);
  if ("allowed" in found) {
    if (found.allowed.length === 0)
      throw new Problem(404, "There is nothing at this address. See /api/v1 for a list of what exists.");
    return problemResponse(405, `This address only accepts ${found.allowed.join(" and ")}.`, undefined, {
      allow: found.allowed.join(", "),
    });
  }
  const { operation, params } = found;
  const now = await clockNow();
  const key = await readKey(/^Bearer (\S+)$/.exec(request.headers.get("authorization") ?? "")?.[1] ?? "", now);
  if (!key)
    return problemResponse(401, "Send a valid key: Authorization: Bearer estima_...", undefined, {
      "www-authenticate": "Bearer",
    });
  if (!key.scopes.includes(operation.scope))
    throw new Problem(403, `This key isn’t allowed to do that. It needs the scope ${operation.scope}.`);
  if (!(await isWelcome(`api ${key.keyId}`, CALLS_A_MINUTE, 60)))
    return problemResponse(429, `More than ${CALLS_A_MINUTE} calls in a minute. Wait a moment.`, undefined, {
      "retry-after": "60",
    });
  for (const value of Object.values(params))
    if (!z.uuid().safeParse(value).success) throw new Problem(404, "Nothing has this identifier.");

  const text = await readBody(operation, request);
  const idempotency = request.method === "POST" ? request.headers.get("idempotency-key") : null;
  if (idempotency !== null && !/^[\x21-\x7e]{1,200}$/.test(idempotency))
    throw new Problem(400, "The Idempotency-Key must be 1 to 200 printable characters.");

  const run = async (tx: Tx, scope: Scope) =>
    dispatch(checkedRequest(request, address, text), { tx, scope, setting: await loadSetting(tx), now });
  return withClient(key.scope, async (tx) => {
    if (idempotency === null) return run(tx, key.scope);
    // The row is written first: a second call with this key waits for the first, and then finds what it answered.
    const call = createHash("sha256")
      .update(`${request.method} ${path.join("/")}\n${text}`)
      .digest("hex");
    const at = new Date(now).toISOString();
    await tx.execute(
      sql`delete from api_repeats where client_id = ${key.scope.clientId} and key_id = ${key.keyId} and key = ${idempotency} and at < ${at}::timestamptz - interval '1 day'`,
    );
    const fresh = await rowsIn(
      tx,
      sql`insert into api_repeats (client_id, key_id, key, call, status, body, at) values (${key.scope.clientId}, ${key.keyId}, ${idempotency}, ${call}, 0, 'null', ${at}) on conflict do nothing returning 1 as one`,
    );
    if (fresh.length === 0) {
      const [known] = await rowsIn<{ call: string; status: number; body: unknown }>(
        tx,
        sql`select call, status, body from api_repeats where key_id = ${key.keyId} and key = ${idempotency}`,
      );
      if (known.call !== call)
        throw new Problem(422, "This Idempotency-Key was used for another call. Use a new one for each.");
      return reply(known.status, known.body, { "idempotency-replayed": "true" });
    }
    const answered = await run(tx, key.scope);
    const result = answered.status === 204 ? "null" : await answered.clone().text();
    await tx.execute(
      sql`update api_repeats set status = ${answered.status}, body = ${result}::jsonb where key_id = ${key.keyId} and key = ${idempotency}`,
    );
    return answered;
  });
}

/** The body of a call as text, bounded, and JSON where the operation takes one; empty where it takes none. */
async function readBody(operation: Operation, request: Request): Promise<string> {
  if (request.method === "GET" || request.method === "DELETE") return "";
  const text = await readBounded(request, MOST_BYTES);
  if (text === null) throw new Problem(413, "The body is larger than 256 KB.");
  if (!operation.body) return text;
  if (!/^application\/(?:[\w.+-]+\+)?json\b/i.test(request.headers.get("content-type") ?? ""))
    throw new Problem(415, "Send the body as JSON, with content-type: application/json.");
  try {
    return JSON.stringify(readJson(text));
  } catch {
    throw new Problem(400, "The body is not JSON.");
  }
}

/** The request as the router gets it: its address below the API, and a body that was read and cleaned. */
function checkedRequest(request: Request, address: string, text: string): Request {
  const search = new URL(request.url).searchParams;
  const clean = new URLSearchParams([...search].map(([name, value]) => [name, value.replaceAll("\u0000", "")]));
  const hasBody = text !== "";
  return new Request(`http://api${address}${clean.size > 0 ? `?${clean}` : ""}`, {
    method: request.method,
    ...(hasBody ? { body: text, headers: { "content-type": "application/json" } } : {}),
  });
}
