import { type ApiScope, endKey, makeKey, OPERATIONS, openApiDocument, SCOPES } from "@/features/api";
import { addFeed } from "@/features/intake";
import { withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { doAllDue } from "@/worker/due";
import { type Harness, startHarness } from "../support/harness";
import { Scene, TUESDAY } from "../support/scene";

/** The API as its own OpenAPI document describes it: every operation, with right and wrong keys, scopes and clients. */
describe("api", () => {
  type Json = Record<string, unknown>;
  type Schema = {
    $ref?: string;
    type?: string | string[];
    properties?: Record<string, Schema>;
    required?: string[];
    items?: Schema;
    enum?: unknown[];
    anyOf?: Schema[];
    format?: string;
    additionalProperties?: unknown;
  };
  type Described = {
    operationId: string;
    "x-scope": ApiScope;
    parameters?: { name: string; in: string; schema: Schema }[];
    requestBody?: { content: Record<string, { schema: Schema }> };
    responses: Record<string, { content?: Record<string, { schema: Schema }> }>;
  };

  let harness: Harness;
  let it: Scene;
  let other: Scene;
  let key: string;
  beforeAll(async () => {
    harness = await startHarness("api");
    it = new Scene(harness, await harness.addClient());
    other = new Scene(harness, await harness.addClient());
    await it.moveTo(TUESDAY);
    key = await keyFor(it, [...SCOPES]);
  });
  afterAll(() => harness.stop());

  const keyFor = async (scene: Scene, scopes: ApiScope[]) =>
    (await withClient(scene.scope, (tx) => makeKey(tx, scene.scope, "Maud", "a program", scopes, TUESDAY))).key;

  async function call(
    method: string,
    path: string,
    body?: unknown,
    change: { key?: string | null; headers?: Record<string, string> } = {},
  ): Promise<{ status: number; body: Json; headers: Headers }> {
    const used = change.key === undefined ? key : change.key;
    const response = await fetch(`${harness.env.APP_URL}/api/v1${path}`, {
      method,
      headers: {
        ...(used ? { authorization: `Bearer ${used}` } : {}),
        ...(body === undefined ? {} : { "content-type": "application/json" }),
        ...change.headers,
      },
      body: body === undefined ? undefined : typeof body === "string" ? body : JSON.stringify(body),
    });
    const text = await response.text();
    return { status: response.status, body: text ? (JSON.parse(text) as Json) : {}, headers: response.headers };
  }

  /** What of `value` does not fit `schema`; a small reading of JSON Schema, enough for this document. */
  function misfits(value: unknown, schema: Schema, where = ""): string[] {
    if (schema.$ref) {
      const name = schema.$ref.split("/").at(-1) ?? "";
      const found = (openApiDocument().components as { schemas: Record<string, Schema> }).schemas[name];
      return found ? misfits(value, found, where || name) : [`${where}: no schema ${name}`];
    }
    if (schema.anyOf)
      return schema.anyOf.some((each) => misfits(value, each, where).length === 0)
        ? []
        : [`${where}: fits none of its shapes`];
    if (schema.enum)
      return schema.enum.includes(value) ? [] : [`${where}: ${JSON.stringify(value)} is not one of its values`];
    const types = schema.type === undefined ? [] : [schema.type].flat();
    const kind =
      value === null ? "null" : Array.isArray(value) ? "array" : Number.isInteger(value) ? "integer" : typeof value;
    if (types.length > 0 && !types.includes(kind) && !(kind === "integer" && types.includes("number")))
      return [`${where}: ${kind} instead of ${types.join(" or ")}`];
    if (kind === "array")
      return (value as unknown[]).flatMap((each, index) => misfits(each, schema.items ?? {}, `${where}[${index}]`));
    if (kind !== "object") return [];
    const given = value as Json;
    const missing = (schema.required ?? [])
      .filter((name) => !(name in given))
      .map((name) => `${where}.${name}: missing`);
    const odd =
      schema.properties && schema.additionalProperties === false
        ? Object.keys(given)
            .filter((name) => !(name in (schema.properties ?? {})))
            .map((name) => `${where}.${name}: not described`)
        : [];
    return [
      ...missing,
      ...odd,
      ...Object.entries(schema.properties ?? {}).flatMap(([name, inner]) =>
        name in given ? misfits(given[name], inner, `${where}.${name}`) : [],
      ),
    ];
  }

  const described = () => openApiDocument().paths as Record<string, Record<string, Described>>;
  const person = (n: number) => ({
    external_id: `X${n}`,
    name: `Given${n} Family`,
    email: `x${n}@post.example`,
    phone: `07700 9004${String(n).padStart(2, "0")}`,
  });

  /** What each operation is called with; every id is one that exists. */
  async function examples(): Promise<
    Record<string, { path?: Record<string, string>; body?: unknown; query?: string }>
  > {
    const feed = await withClient(it.scope, (tx) =>
      addFeed(
        tx,
        it.scope,
        "Maud",
        { kind: "webhook", name: "Book", url: "", branchId: null, serviceId: null },
        TUESDAY,
      ),
    );
    const visit = await call("POST", "/visits", {
      person: person(1),
      external_id: "V1",
      ends_at: new Date(TUESDAY - 3 * 3_600_000).toISOString(),
      service: "Check-up",
    });
    await doAllDue();
    const visitId = String(visit.body.id);
    const personId = String(visit.body.person_id);
    const fresh = await call("POST", "/visits", {
      person: person(2),
      external_id: "V2",
      ends_at: new Date(TUESDAY - 1000).toISOString(),
      service_id: it.client.serviceId,
    });
    const { rows } = await harness.owner.query(
      "select (select id from asks where client_id=$1 limit 1) ask, (select id from messages where client_id=$1 limit 1) message",
      [it.client.id],
    );
    await fetch(
      `${harness.env.APP_URL}/a/${(await harness.owner.query("select token from asks where client_id=$1 limit 1", [it.client.id])).rows[0].token}/rate`,
      {
        method: "POST",
        body: "rating=5",
        redirect: "manual",
      },
    );
    const answer = (await harness.owner.query("select id from answers where client_id=$1 limit 1", [it.client.id]))
      .rows[0].id;
    const gone = await call("POST", "/people", person(3));
    return {
      listPeople: { query: "?limit=2&email=X1@POST.example" },
      upsertPerson: {
        body: {
          ...person(4),
          tags: ["vip"],
          birth_date: "2010-05-31",
          guardian: { name: "Jun", phone: "07700 900499" },
          consent: true,
        },
      },
      getPerson: { path: { id: personId } },
      changePerson: { path: { id: personId }, body: { note: "likes tea", phone: null, rest_until: null } },
      erasePerson: { path: { id: String(gone.body.id) } },
      listVisits: { query: `?person_id=${personId}` },
      upsertVisit: {
        body: {
          person_id: personId,
          external_id: "V3",
          ends_at: "2026-11-30T10:00:00+01:00",
          kind: "job",
          service: "Something new",
        },
      },
      getVisit: { path: { id: visitId } },
      changeVisit: { path: { id: visitId }, body: { outcome: "cancelled" } },
      listAsks: { query: "?limit=1" },
      ask: { body: { visit_id: String(fresh.body.id), channel: "email" } },
      getAsk: { path: { id: rows[0].ask } },
      stopAsk: { path: { id: rows[0].ask } },
      listMessages: { query: "?limit=1" },
      getMessage: { path: { id: rows[0].message } },
      listAnswers: {},
      getAnswer: { path: { id: answer } },
      listFeeds: {},
      getFeed: { path: { id: feed.id } },
      changeFeed: { path: { id: feed.id }, body: { state: "off" } },
      listDeliveries: { path: { id: feed.id } },
      retryDeliveries: { path: { id: feed.id } },
      listServices: {},
      listBranches: {},
      listTeamMembers: {},
      listTags: {},
    };
  }

  test("every operation does what its description says, and refuses wrong keys, scopes and clients", async () => {
    const calls = await examples();
    const all = Object.entries(described()).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
    );
    expect(all.map(({ operation }) => operation.operationId).sort()).toEqual(Object.keys(calls).sort());
    expect(all).toHaveLength(OPERATIONS.length);
    const theirs = await keyFor(other, [...SCOPES]);
    for (const { path, method, operation } of all) {
      const { path: params = {}, body, query = "" } = calls[operation.operationId];
      const address = path.replace(/\{(\w+)\}/g, (_, name: string) => params[name]) + query;
      const named = `${method} ${path}`;
      const wrong = await keyFor(
        it,
        SCOPES.filter((scope) => scope !== operation["x-scope"]),
      );
      expect([named, (await call(method, address, body, { key: null })).status]).toEqual([named, 401]);
      expect([named, (await call(method, address, body, { key: `estima_${"x".repeat(40)}` })).status]).toEqual([
        named,
        401,
      ]);
      expect([named, (await call(method, address, body, { key: wrong })).status]).toEqual([named, 403]);
      if (Object.keys(params).length > 0) {
        expect([named, (await call(method, address, body, { key: theirs })).status]).toEqual([named, 404]);
        expect([named, (await call(method, path.replace(/\{\w+\}/g, "nonsense"), body)).status]).toEqual([named, 404]);
      }
      if (operation.requestBody) {
        for (const bad of ["{", "[]", '"x"', "{}".replace("}", '"nobody": 1}')]) {
          const refused = await call(method, address, bad);
          expect([
            named,
            bad,
            [400, 422].includes(refused.status),
            misfits(refused.body, { $ref: "#/components/schemas/Problem" }),
          ]).toEqual([named, bad, true, []]);
        }
        expect([
          named,
          (await call(method, address, JSON.stringify(body), { headers: { "content-type": "text/plain" } })).status,
        ]).toEqual([named, 415]);
      }
      if ((operation.parameters ?? []).some((each) => each.in === "query"))
        expect([named, (await call(method, `${address.split("?")[0]}?nobody=1`, body)).status]).toEqual([named, 422]);
      const done = await call(method, address, body);
      const expected = operation.responses[String(done.status)];
      expect([named, done.status, expected !== undefined]).toEqual([named, done.status, true]);
      expect([named, done.status < 300]).toEqual([named, true]);
      const schema = expected?.content?.["application/json"]?.schema;
      if (schema) expect([named, misfits(done.body, schema)]).toEqual([named, []]);
    }
  });

  test("lists are paged by key: each once, in order, to the end", async () => {
    for (let n = 20; n < 33; n++) await call("POST", "/people", person(n));
    const seen: string[] = [];
    let after = "";
    for (let page = 0; page < 20; page++) {
      const { body } = await call("GET", `/people?limit=5${after}`);
      seen.push(...(body.items as { id: string }[]).map(({ id }) => id));
      if (!body.next) break;
      after = `&after=${body.next}`;
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect([...seen].sort()).toEqual(seen);
    expect(seen.length).toBeGreaterThanOrEqual(13);
    for (const query of ["limit=0", "limit=201", "limit=x", "after=x"])
      expect((await call("GET", `/people?${query}`)).status).toBe(422);
  });

  test("an Idempotency-Key carries a call out once, also when both come at once; for another call it is refused", async () => {
    const headers = { "idempotency-key": `k-${newId()}` };
    const body = { person: person(50), ends_at: new Date(TUESDAY - 60_000).toISOString(), service: "Check-up" };
    const both = await Promise.all([
      call("POST", "/visits", body, { headers }),
      call("POST", "/visits", body, { headers }),
    ]);
    expect(both.map(({ status }) => status)).toEqual([201, 201]);
    expect(both[0].body).toEqual(both[1].body);
    expect(both.filter((each) => each.headers.get("idempotency-replayed") === "true")).toHaveLength(1);
    expect((await call("POST", "/visits", { ...body, about: "Otto" }, { headers })).status).toBe(422);
    expect((await call("POST", "/visits", body, { headers: { "idempotency-key": "x".repeat(201) } })).status).toBe(400);
    // A call that was refused is not remembered: mended, it goes through under the same key.
    const again = { "idempotency-key": `k-${newId()}` };
    expect((await call("POST", "/people", { email: "wrong" }, { headers: again })).status).toBe(422);
    expect((await call("POST", "/people", person(51), { headers: again })).status).toBe(201);
  });

  test("wrong input is told field by field, as problem details", async () => {
    const refused = await call("POST", "/visits", {
      person: { name: "Odette", email: "wrong", phone: "12" },
      ends_at: "2026-11-24T10:00:00Z",
    });
    expect(refused).toMatchObject({
      status: 422,
      body: { title: "Wrong input", errors: [{ pointer: "#/person/email" }, { pointer: "#/person/phone" }] },
    });
    expect(refused.headers.get("content-type")).toBe("application/problem+json");
    expect(await call("POST", "/visits", { ends_at: "tomorrow" })).toMatchObject({
      status: 422,
      body: { errors: expect.arrayContaining([expect.objectContaining({ pointer: "#/ends_at" })]) },
    });
    expect(await call("POST", "/visits", { person_id: newId(), ends_at: "2026-11-24T10:00:00Z" })).toMatchObject({
      status: 422,
      body: { errors: [{ pointer: "#/person_id" }] },
    });
    expect(
      await call("POST", "/visits", { person: person(60), service_id: newId(), ends_at: "2026-11-24T10:00:00Z" }),
    ).toMatchObject({
      status: 422,
      body: { errors: [{ pointer: "#/service_id" }] },
    });
    expect((await call("PUT", "/people")).status).toBe(405);
    expect((await call("GET", "/nothing")).status).toBe(404);
    expect((await call("POST", "/people", `{"name":"${"x".repeat(300_000)}"}`)).status).toBe(413);
    expect((await call("POST", "/people", '{"name":"Od\\u0000ette \\ud800","email":"nul@post.example"}')).status).toBe(
      201,
    );
  });

  test("a key that was ended opens nothing, and its hash is all that is kept of it", async () => {
    const made = await withClient(it.scope, (tx) =>
      makeKey(tx, it.scope, "Maud", "short-lived", ["people:read"], TUESDAY),
    );
    expect((await call("GET", "/people", undefined, { key: made.key })).status).toBe(200);
    expect(JSON.stringify((await harness.owner.query("select * from api_keys")).rows)).not.toContain(made.key);
    await withClient(it.scope, (tx) => endKey(tx, it.scope, "Maud", made.id, TUESDAY));
    expect((await call("GET", "/people", undefined, { key: made.key })).status).toBe(401);
  });

  test("the document and the readable page need no key", async () => {
    expect(await call("GET", "/openapi.json", undefined, { key: null })).toMatchObject({
      status: 200,
      body: { openapi: "3.1.0" },
    });
    const page = await fetch(`${harness.env.APP_URL}/api/v1`);
    expect([page.status, page.headers.get("content-type")]).toEqual([200, "text/html; charset=utf-8"]);
    const text = await page.text();
    for (const { path, id } of OPERATIONS) expect([id, text.includes(path)]).toEqual([id, true]);
  });
});
