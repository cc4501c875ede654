import { environment } from "@/platform/environment";
import { STYLE } from "@/ui/CustomerPage";
import { markupOf } from "@/ui/markup";
import { OPERATIONS } from "./operations";
import { openApiDocument } from "./router";

/** The API's description for people, from the same document as for programs. */

type Schema = {
  type?: string | string[];
  properties?: Record<string, Schema>;
  required?: string[];
  description?: string;
  enum?: unknown[];
  $ref?: string;
  items?: Schema;
  anyOf?: Schema[];
  format?: string;
};

function typeWords(schema: Schema): string {
  if (schema.$ref) return schema.$ref.split("/").at(-1) ?? "";
  if (schema.enum) return schema.enum.map((each) => `"${each}"`).join(" | ");
  if (schema.anyOf) return schema.anyOf.map(typeWords).join(" or ");
  if (schema.type === "array") return `list of ${typeWords(schema.items ?? {})}`;
  const type = Array.isArray(schema.type) ? schema.type.join(" or ") : (schema.type ?? "anything");
  return schema.format ? `${type} (${schema.format})` : type;
}

/** `GET /api/v1` in a browser. */
export async function readablePage(): Promise<Response> {
  const { components, paths } = openApiDocument() as {
    components: { schemas: Record<string, Schema> };
    paths: Record<
      string,
      Record<string, { parameters?: { name: string; in: string; description?: string; schema: Schema }[] }>
    >;
  };
  const base = `${environment().APP_URL}/api/v1`;
  const page = (
    <html lang="en">
      {/* biome-ignore lint/style/noHeadElement: this page is served without the framework */}
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Estima API</title>
        <style
          dangerouslySetInnerHTML={{
            __html: `:root{--own:#6A2156}${STYLE}main{max-width:56rem}code,pre{font:14px/1.5 ui-monospace,monospace}pre{background:#fff;border:1px solid #DADCD3;border-radius:10px;padding:12px 14px;overflow-x:auto}table{border-collapse:collapse;width:100%;font-size:15px}td,th{text-align:left;padding:6px 14px 6px 0;border-bottom:1px solid #DADCD3;vertical-align:top}th{font-weight:600}h3{font-size:17px;margin:26px 0 6px}h3 b{color:#6A2156;margin-right:8px}`,
          }}
        />
      </head>
      <body>
        <main>
          <h1>The API of Estima</h1>
          <p>
            Everything is JSON under <code>{base}</code>. A key, created under Set-up, says which client it's for and
            what it can do: <code>Authorization: Bearer estima_…</code>. The same description for programs:{" "}
            <a href="/api/v1/openapi.json">openapi.json</a> (OpenAPI 3.1).
          </p>
          <ul>
            <li>
              Lists come in pages: give the <code>next</code> of one as <code>after</code> for the following.
            </li>
            <li>
              A POST with an <code>Idempotency-Key</code> is carried out once, however often you send it within a day.
            </li>
            <li>Errors are problem details (RFC 9457) that name the field. Up to 600 calls a minute per key.</li>
            <li>
              Times are ISO 8601 with an offset. Phone numbers can be sent in any usual format and are returned as
              E.164.
            </li>
          </ul>
          <pre>{`curl ${base}/visits \\\n  -H "authorization: Bearer estima_..." -H "content-type: application/json" \\\n  -d '{"person": {"name": "Odette Marsh", "phone": "07700 900123"},\n       "external_id": "A-1001", "service": "Check-up", "ends_at": "2026-11-24T11:30:00Z"}'`}</pre>
          <section>
            <h2>Operations</h2>
            {OPERATIONS.map((operation) => {
              const parameters = (paths[operation.path][operation.method.toLowerCase()].parameters ?? []).filter(
                (each) => each.in === "query",
              );
              return (
                <div key={operation.id}>
                  <h3>
                    <b>{operation.method}</b>
                    <code>{operation.path}</code>
                  </h3>
                  <p className="soft">
                    {operation.summary}. Scope <code>{operation.scope}</code>.
                    {operation.body ? ` Takes ${operation.body.meta()?.id}.` : ""}
                    {operation.gives
                      ? ` Returns ${operation.gives.many ? "pages of " : ""}${operation.gives.model.meta()?.id}.`
                      : ""}
                    {parameters.length > 0 ? ` Filters: ${parameters.map(({ name }) => name).join(", ")}.` : ""}
                  </p>
                </div>
              );
            })}
          </section>
          <section>
            <h2>Shapes</h2>
            {Object.entries(components.schemas).map(([name, schema]) => (
              <div key={name}>
                <h3>{name}</h3>
                <table>
                  <tbody>
                    {Object.entries(schema.properties ?? {}).map(([field, shape]) => (
                      <tr key={field}>
                        <th>
                          <code>{field}</code>
                          {schema.required?.includes(field) ? "" : " ?"}
                        </th>
                        <td>{typeWords(shape)}</td>
                        <td className="soft">{shape.description ?? ""}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            ))}
          </section>
        </main>
      </body>
    </html>
  );
  return new Response(await markupOf(page), {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy":
        "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; frame-ancestors 'none'; base-uri 'none'",
    },
  });
}
