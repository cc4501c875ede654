import { createHash } from "node:crypto";
import { sql } from "drizzle-orm";
import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { Refused } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, type Scope, withClient } from "@/platform/database";
import { readBounded, readJson } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { isWelcome } from "@/platform/publicLimit";
import { readKey } from "./keys";
import { openApiDocument } from "./openapi";
import { OPERATIONS, type Operation, Problem } from "./operations";
import { readablePage } from "./page";

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

const json = (status: number, body: unknown, headers: Record<string, string> = {}) =>
  status === 204
    ? new Response(null, { status, headers })
    : new Response(JSON.stringify(body), {
        status,
        headers: { "content-type": "application/json", "cache-control": "no-store", ...headers },
      });

/** Which operation a path means; 405 when only the method is wrong. */
function find(
  method: string,
  path: string[],
): { operation: Operation; params: Record<string, string> } | { allowed: string[] } {
  const allowed: string[] = [];
  for (const operation of OPERATIONS) {
    const parts = operation.path.slice(1).split("/");
    if (parts.length !== path.length) continue;
    if (!parts.every((part, index) => part.startsWith("{") || part === path[index])) continue;
    const params = Object.fromEntries(
      parts.flatMap((part, index) => (part.startsWith("{") ? [[part.slice(1, -1), path[index]]] : [])),
    );
    if (operation.method === method) return { operation, params };
    allowed.push(operation.method);
  }
  return { allowed };
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
  if (path.join("/") === "openapi.json" && request.method === "GET") return json(200, openApiDocument());
  if (path.length === 0 && request.method === "GET") return readablePage();
  const found = find(request.method, path);
  if ("allowed" in found) {
    if (found.allowed.length === 0)
      throw new Problem(404, "There is nothing at this address. See /api/v1 for what there is.");
    return problemResponse(405, `Only ${found.allowed.join(" and ")} can be done here.`, undefined, {
      allow: found.allowed.join(", "),
    });
  }
  const { operation, params } = found;
  const now = await clockNow();
  const key = await readKey(/^Bearer (\S+)$/.exec(request.headers.get("authorization") ?? "")?.[1] ?? "", now);
  if (!key)
    return problemResponse(401, "Send a key that is valid here: Authorization: Bearer estima_...", undefined, {
      "www-authenticate": "Bearer",
    });
  if (!key.scopes.includes(operation.scope))
    throw new Problem(403, `This key may not do that. It needs the scope ${operation.scope}.`);
  if (!(await isWelcome(`api ${key.keyId}`, CALLS_A_MINUTE, 60)))
    return problemResponse(429, `More than ${CALLS_A_MINUTE} calls in a minute. Wait a little.`, undefined, {
      "retry-after": "60",
    });
  for (const value of Object.values(params))
    if (!z.uuid().safeParse(value).success) throw new Problem(404, "There is nothing with this identifier.");

  const query = readQuery(operation, new URL(request.url).searchParams);
  const { text, body } = await readBody(operation, request);
  const idempotency = request.method === "POST" ? request.headers.get("idempotency-key") : null;
  if (idempotency !== null && !/^[\x21-\x7e]{1,200}$/.test(idempotency))
    throw new Problem(400, "The Idempotency-Key must be 1 to 200 printable characters.");

  const run = async (tx: Parameters<Parameters<typeof withClient>[1]>[0], scope: Scope) =>
    operation.run({ tx, scope, setting: await loadSetting(tx), now, who: "a program", path: params, query, body });
  return withClient(key.scope, async (tx) => {
    if (idempotency === null) {
      const { status = operation.gives?.status ?? 200, body: result } = await run(tx, key.scope);
      return json(status, result);
    }
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
      return json(known.status, known.body, { "idempotency-replayed": "true" });
    }
    const { status = operation.gives?.status ?? 200, body: result } = await run(tx, key.scope);
    await tx.execute(
      sql`update api_repeats set status = ${status}, body = ${JSON.stringify(result)}::jsonb where key_id = ${key.keyId} and key = ${idempotency}`,
    );
    return json(status, result);
  });
}

function wrongInput(error: z.ZodError, where: "query" | "body"): Problem {
  const errors = error.issues.map((issue) => ({
    pointer: where === "body" ? `#/${issue.path.join("/")}` : `?${issue.path.join(".")}`,
    detail: issue.message,
  }));
  return new Problem(
    422,
    `${where === "body" ? "The body" : "The query"} is not right: ${errors[0]?.pointer} ${errors[0]?.detail}`,
    errors,
  );
}

function readQuery(operation: Operation, search: URLSearchParams): Record<string, unknown> {
  const given = Object.fromEntries([...search].map(([name, value]) => [name, value.replaceAll("\u0000", "")]));
  const schema = (operation.query ?? z.object({})).strict();
  const read = schema.safeParse(given);
  if (!read.success) throw wrongInput(read.error, "query");
  return read.data;
}

async function readBody(operation: Operation, request: Request): Promise<{ text: string; body: unknown }> {
  if (request.method === "GET" || request.method === "DELETE") return { text: "", body: null };
  const text = await readBounded(request, MOST_BYTES);
  if (text === null) throw new Problem(413, "The body is larger than 256 KB.");
  if (!operation.body) return { text, body: null };
  if (!/^application\/(?:[\w.+-]+\+)?json\b/i.test(request.headers.get("content-type") ?? ""))
    throw new Problem(415, "Send the body as JSON, with content-type: application/json.");
  let given: unknown;
  try {
    given = readJson(text);
  } catch {
    throw new Problem(400, "The body is not JSON.");
  }
  const read = operation.body.safeParse(given);
  if (!read.success) throw wrongInput(read.error, "body");
  return { text, body: read.data };
}
