import { createRoute, OpenAPIHono, type RouteConfig, z } from "@hono/zod-openapi";
import type { Setting } from "@/features/clients";
import type { Scope, Tx } from "@/platform/database";
import { environment } from "@/platform/environment";
import { problemModel } from "./models";
import { type Operation, Problem } from "./operation";
import { OPERATIONS } from "./operations";

/**
 * Routing, validation and the OpenAPI 3.1 document of the API, all made from the list of operations. Whoever calls is
 * known before a route is asked: `http.ts` hands over the call's transaction with the request.
 */

/** What a route gets beside the request. */
export type CallContext = { tx: Tx; scope: Scope; setting: Setting; now: number };
type Env = { Bindings: CallContext };

const repeatKey = z.string().max(200).optional().describe("A call with the same key is carried out only once");
const METHODS = ["GET", "POST", "PATCH", "DELETE"] as const;

const app = new OpenAPIHono<Env>({
  defaultHook: (result) => {
    if (!result.success) throw wrongInput(result.error, result.target);
  },
});
app.onError((error) => {
  throw error;
});
for (const operation of OPERATIONS)
  app.openapi(routeOf(operation), async (c) => {
    const valid = (target: "query" | "json") => (c.req.valid as (of: string) => unknown)(target);
    const { status = operation.gives?.status ?? 200, body } = await operation.run({
      ...c.env,
      who: "a program",
      path: c.req.param(),
      query: valid("query") as Record<string, unknown>,
      body: operation.body ? valid("json") : null,
    });
    return answer(status, body) as never;
  });
app.openAPIRegistry.registerComponent("securitySchemes", "key", {
  type: "http",
  scheme: "bearer",
  description: "A key created under Set-up.",
});

/** An answer that nobody keeps. */
export function answer(status: number, body: unknown, headers: Record<string, string> = {}): Response {
  const all = { "content-type": "application/json", "cache-control": "no-store", ...headers };
  return status === 204
    ? new Response(null, { status, headers })
    : new Response(JSON.stringify(body), { status, headers: all });
}

/** Carries out a call that may be made. Throws `Problem` for wrong input. */
export async function dispatch(request: Request, context: CallContext): Promise<Response> {
  return app.fetch(request, context);
}

/** Which operation an address means for a method, and for which methods it means one. */
export function findOperation(
  method: string,
  path: string,
): { operation: Operation; params: Record<string, string> } | { allowed: string[] } {
  const allowed: string[] = [];
  for (const each of METHODS) {
    const [handlers] = app.router.match(each, path);
    const [route] = handlers.flatMap(([[, { path: pattern }]]) =>
      OPERATIONS.filter((operation) => operation.method === each && honoPath(operation.path) === pattern),
    );
    if (!route) continue;
    if (each === method) return { operation: route, params: paramsOf(route.path, path) };
    allowed.push(each);
  }
  return { allowed };
}

const honoPath = (path: string) => path.replaceAll(/\{(\w+)\}/g, ":$1");

function paramsOf(pattern: string, path: string): Record<string, string> {
  const given = path.split("/");
  return Object.fromEntries(
    pattern.split("/").flatMap((part, n) => (part.startsWith("{") ? [[part.slice(1, -1), given[n]]] : [])),
  );
}

let document: Record<string, unknown> | undefined;

/** The API's own description; the same object every time. */
export function openApiDocument(): Record<string, unknown> {
  document ??= app.getOpenAPI31Document({
    openapi: "3.1.0",
    info: {
      title: "Estima",
      version: "1",
      description: "People, visits, asks, messages, answers and feeds of one client. A key says which client.",
    },
    servers: [{ url: `${environment().APP_URL}/api/v1` }],
    security: [{ key: [] }],
  }) as unknown as Record<string, unknown>;
  return document;
}

/** Where wrong input stands: a JSON pointer into the body, or the name of a parameter of the query. */
function wrongInput(error: z.ZodError, target: string): Problem {
  const isBody = target === "json";
  const errors = error.issues.map((issue) => ({
    pointer: isBody ? `#/${issue.path.join("/")}` : `?${issue.path.join(".")}`,
    detail: issue.message,
  }));
  return new Problem(
    422,
    `${isBody ? "The body" : "The query"} is not right: ${errors[0]?.pointer} ${errors[0]?.detail}`,
    errors,
  );
}

function routeOf(operation: Operation): RouteConfig {
  const { gives } = operation;
  const inPath = [...operation.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name, z.uuid()] as const);
  const problem = (description: string) => ({
    description,
    content: { "application/problem+json": { schema: problemModel } },
  });
  const model =
    gives &&
    (gives.many
      ? z.object({
          items: z.array(gives.model),
          next: z.string().nullable().describe("Give this as `after` for the next page"),
        })
      : gives.model);
  const success = (description: string) =>
    model ? { description, content: { "application/json": { schema: model } } } : { description };
  const isPost = operation.method === "POST";
  return createRoute({
    method: operation.method.toLowerCase() as "get",
    path: operation.path,
    operationId: operation.id,
    summary: operation.summary,
    description: `Needs the scope \`${operation.scope}\`.`,
    "x-scope": operation.scope,
    request: {
      ...(inPath.length > 0 ? { params: z.object(Object.fromEntries(inPath)) } : {}),
      query: (operation.query ?? z.object({})).strict(),
      ...(isPost ? { headers: z.object({ "Idempotency-Key": repeatKey }) } : {}),
      ...(operation.body
        ? { body: { required: true, content: { "application/json": { schema: operation.body } } } }
        : {}),
    },
    responses: {
      [gives ? (gives.status ?? 200) : 204]: success("Done"),
      ...(gives?.status === 201 ? { 200: success("It already existed") } : {}),
      401: problem("No valid key"),
      403: problem("The key lacks the scope"),
      ...(inPath.length > 0 ? { 404: problem("Not found") } : {}),
      ...(isPost ? { 409: problem("Conflicts with existing data") } : {}),
      422: problem("Wrong input"),
      429: problem("Too many calls"),
    },
  } as RouteConfig);
}
