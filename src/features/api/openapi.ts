import { z } from "zod";
import { environment } from "@/platform/environment";
import { problemModel } from "./models";
import { OPERATIONS, type Operation } from "./operations";

/** The API's own description (OpenAPI 3.1), made from the same Zod schemas that check each call. */

type Json = Record<string, unknown>;

let documentCache: Json | undefined;

/** The document; the same object every time. */
export function openApiDocument(): Json {
  documentCache ??= build();
  return documentCache;
}

function build(): Json {
  const schemas: Json = {};
  const place = (schema: z.ZodType, io: "input" | "output"): Json => {
    const {
      $schema: _,
      $defs,
      ...rest
    } = z.toJSONSchema(schema, { io, unrepresentable: "any" }) as Json & { $defs?: Json };
    for (const [name, def] of Object.entries($defs ?? {})) schemas[name] = clean(def);
    const name = schema.meta()?.id;
    if (!name) return clean(rest) as Json;
    if (!rest.$ref) schemas[name] = clean(rest);
    return { $ref: `#/components/schemas/${name}` };
  };
  const paths: Record<string, Json> = {};
  for (const operation of OPERATIONS) {
    paths[operation.path] ??= {};
    paths[operation.path][operation.method.toLowerCase()] = describeOperation(operation, place);
  }
  place(problemModel, "output");
  return {
    openapi: "3.1.0",
    info: {
      title: "Estima",
      version: "1",
      description: "People, visits, asks, messages, answers and feeds of one client. A key says which client.",
    },
    servers: [{ url: `${environment().APP_URL}/api/v1` }],
    security: [{ key: [] }],
    paths,
    components: {
      schemas,
      securitySchemes: { key: { type: "http", scheme: "bearer", description: "A key made under Set-up." } },
    },
  };
}

/** References of JSON Schema to those of this document. */
function clean(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(clean);
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(
    Object.entries(value).flatMap(([name, inner]) =>
      name === "id" && typeof inner === "string"
        ? []
        : [[name, name === "$ref" ? String(inner).replace("#/$defs/", "#/components/schemas/") : clean(inner)]],
    ),
  );
}

function describeOperation(operation: Operation, place: (schema: z.ZodType, io: "input" | "output") => Json): Json {
  const { gives } = operation;
  const inPath = [...operation.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: "path",
    required: true,
    schema: { type: "string", format: "uuid" },
  }));
  const query = Object.entries(operation.query?.shape ?? {}).map(([name, schema]) => {
    const {
      $schema: _,
      description,
      ...shape
    } = z.toJSONSchema(schema as z.ZodType, { io: "input", unrepresentable: "any" }) as Json;
    return { name, in: "query", required: false, ...(description ? { description } : {}), schema: shape };
  });
  const problem = (description: string) => ({
    description,
    content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
  });
  const item = gives ? place(gives.model, "output") : null;
  const success = gives?.many
    ? {
        type: "object",
        required: ["items", "next"],
        properties: {
          items: { type: "array", items: item },
          next: { type: ["string", "null"], description: "Give this as `after` for the next page" },
        },
      }
    : item;
  return {
    operationId: operation.id,
    summary: operation.summary,
    description: `Needs the scope \`${operation.scope}\`.`,
    "x-scope": operation.scope,
    parameters: [
      ...inPath,
      ...query,
      ...(operation.method === "POST"
        ? [
            {
              name: "Idempotency-Key",
              in: "header",
              required: false,
              description: "The same key carries a call out once",
              schema: { type: "string", maxLength: 200 },
            },
          ]
        : []),
    ],
    ...(operation.body
      ? { requestBody: { required: true, content: { "application/json": { schema: place(operation.body, "input") } } } }
      : {}),
    responses: {
      [String(gives ? (gives.status ?? 200) : 204)]: success
        ? { description: "Done", content: { "application/json": { schema: success } } }
        : { description: "Done" },
      ...(gives?.status === 201
        ? { "200": { description: "It was here already", content: { "application/json": { schema: success } } } }
        : {}),
      "401": problem("No valid key"),
      "403": problem("The key lacks the scope"),
      ...(inPath.length > 0 ? { "404": problem("Not there") } : {}),
      ...(operation.method === "POST" ? { "409": problem("It stands against what is here") } : {}),
      ...(operation.body || query.length > 0 ? { "422": problem("Wrong input") } : {}),
      "429": problem("Too many calls"),
    },
  };
}
