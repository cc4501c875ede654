import { createHmac } from "node:crypto";
import fc from "fast-check";
import { handleAnswerRequest, handleOptOutRequest } from "@/features/answers";
import { handleApi, makeKey, OPERATIONS } from "@/features/api";
import { addFeed, handleDropOff, handleFeedHook } from "@/features/intake";
import { handleMailHook, handleOpenPicture, handleTextHook } from "@/features/messaging";
import { withClient } from "@/platform/database";
import { closeLimits } from "@/platform/publicLimit";
import { type Harness, SECRETS, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/**
 * Requests that no page or program of ours would make, to every public address and every operation of the API: none
 * gets a 5xx.
 */
describe("odd requests", () => {
  let harness: Harness;
  let scene: Scene;
  let token = "";
  let dropOff = "";
  let webhook = "";
  let key = "";
  let ids: string[] = [];

  afterEach(() => {
    expect(statuses.get(429) ?? 0).toBeLessThan(100);
    statuses.clear();
  });

  beforeAll(async () => {
    harness = await startHarness("odd");
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    const { person, visit } = await scene.finishVisit();
    token = (await scene.askOf(person.id)).token;
    await withClient(scene.scope, async (tx) => {
      dropOff =
        (
          await addFeed(
            tx,
            scene.scope,
            "Maud",
            { kind: "drop-off", name: "Desk", url: "", branchId: null, serviceId: null },
            TUESDAY,
          )
        ).token ?? "";
      webhook = (
        await addFeed(
          tx,
          scene.scope,
          "Maud",
          { kind: "webhook", name: "Book", url: "", branchId: null, serviceId: null },
          TUESDAY,
        )
      ).id;
      const scopes = [...new Set(OPERATIONS.map(({ scope }) => scope))];
      key = (await makeKey(tx, scene.scope, "Maud", "x", scopes, TUESDAY)).key;
    });
    ids = [person.id, visit.id, webhook, scene.client.serviceId, scene.client.branchId];
  });
  afterAll(() => harness.stop());

  const words = fc.oneof(
    fc.constantFrom(
      "",
      "\u0000",
      "x\u0000",
      "\ud800",
      "%0%000",
      "%00",
      "%",
      "%zz",
      "0000-01-01",
      "0000-01-01T00:00:00Z",
      "9999-12-31T23:59:59Z",
      "+275760-09-13T00:00:00Z",
      "1e999",
      "-0",
      "null",
      "a".repeat(3000),
      "../../etc",
      "' or 1=1 --",
      "😀",
    ),
    fc.string({ maxLength: 20, unit: "binary" }),
    fc.uuid(),
  );
  /** A part of an address, as the framework hands it on: decoded. */
  const part = fc.oneof({ weight: 3, arbitrary: words }, { weight: 2, arbitrary: fc.nat(4).map((n) => `id ${n}`) });
  const value: fc.Arbitrary<unknown> = fc.letrec((tie) => ({
    any: fc.oneof(
      { maxDepth: 3 },
      words,
      fc.double(),
      fc.integer(),
      fc.boolean(),
      fc.constant(null),
      fc.array(tie("any"), { maxLength: 3 }),
      fc.dictionary(words, tie("any"), { maxKeys: 3 }),
    ),
  })).any;

  const own = (text: string) => ids[Number(/^id (\d)$/.exec(text)?.[1] ?? -1) % ids.length] ?? text;
  const encoded = (pairs: [string, string][]) =>
    pairs
      .map(([name, text]) => `${encodeURIComponent(name.toWellFormed())}=${encodeURIComponent(text.toWellFormed())}`)
      .join("&");

  let calls = 0;

  /** Limits would refuse nearly all of it: what was counted is forgotten now and then. */
  async function uncounted(): Promise<void> {
    if (calls++ % 40 !== 0) return;
    closeLimits();
    await harness.owner.query("delete from rate_limits");
  }

  const statuses = new Map<number, number>();

  async function expectNo5xx(answer: Promise<Response>, what: unknown): Promise<void> {
    const { status } = await answer;
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    if (status >= 500) throw new Error(`${status} for ${JSON.stringify(what).slice(0, 800)}`);
  }

  test("links of customers and staff, whatever is asked of them and sent to them", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom("a", "u", "d", "o"),
        fc.oneof(fc.constant("own"), words),
        fc.array(fc.oneof(fc.constantFrom("rate", "words", "site"), part), { maxLength: 3 }),
        fc.constantFrom("GET", "HEAD", "POST", "PUT", "TRACE"),
        fc.array(
          fc.tuple(
            fc.oneof(
              fc.constantFrom(
                "rating",
                "words",
                "r",
                "change",
                "name",
                "reach",
                "service",
                "list",
                "key",
                "added",
                "List-Unsubscribe",
              ),
              words,
            ),
            words,
          ),
          {
            maxLength: 5,
          },
        ),
        fc.boolean(),
        fc.string({ maxLength: 60, unit: "binary" }),
        async (kind, first, rest, method, pairs, raw, body) => {
          await uncounted();
          const real = first === "own" ? (kind === "d" ? dropOff : `${token}${rest.length % 2 ? ".0" : ""}`) : first;
          const path = [real, ...rest.map(own)];
          const query = raw ? `?${body.toWellFormed()}` : `?${encoded(pairs)}`;
          const isPost = method === "POST" || method === "PUT";
          const request = new Request(`http://127.0.0.1/x${query}`, {
            method: method === "TRACE" ? "GET" : method,
            ...(isPost
              ? {
                  body: raw ? body : encoded(pairs),
                  headers: {
                    "content-type": raw ? "multipart/form-data; boundary=x" : "application/x-www-form-urlencoded",
                  },
                }
              : {}),
          });
          const answer =
            kind === "a"
              ? handleAnswerRequest(request, path)
              : kind === "u"
                ? handleOptOutRequest(request, path[0])
                : kind === "d"
                  ? handleDropOff(request, path[0])
                  : handleOpenPicture(request, path[0]);
          await expectNo5xx(answer, [kind, path, method, query, body]);
        },
      ),
      { numRuns: size(1200, 12_000), seed: 1 },
    );
  }, 300_000);

  test("hooks, signed and not", async () => {
    const sign = (secret: string, id: string, at: number, body: string) =>
      `v1,${createHmac("sha256", secret).update(`${id}.${at}.${body}`).digest("base64")}`;
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom("texts", "mail", "feed"),
        fc.boolean(),
        fc.oneof(
          value,
          fc.record({
            type: fc.constantFrom("text.received", "text.delivered", "mail.received", "mail.bounced", "visit.finished"),
            data: fc.dictionary(
              fc.constantFrom("id", "from", "to", "body", "subject", "text", "reference", "reason", "at"),
              fc.oneof(words, fc.integer()),
              { maxKeys: 8 },
            ),
          }),
        ),
        words,
        async (kind, isSigned, given, odd) => {
          const body = JSON.stringify(given) ?? odd;
          const at = Math.floor(Date.now() / 1000);
          const id = odd.replace(/[^\x21-\x7e]/g, "").slice(0, 300) || "msg_1";
          const headers = {
            "content-type": "application/json",
            "webhook-id": id,
            "webhook-timestamp": String(at),
            "webhook-signature": isSigned
              ? sign(kind === "texts" ? SECRETS.textHook : SECRETS.mailHook, id, at, body)
              : id,
          };
          const request = new Request("http://127.0.0.1/hooks", { method: "POST", body: body.toWellFormed(), headers });
          await expectNo5xx(
            kind === "texts"
              ? handleTextHook(request)
              : kind === "mail"
                ? handleMailHook(request)
                : handleFeedHook(request, isSigned ? webhook : odd),
            [kind, isSigned, given, odd],
          );
        },
      ),
      { numRuns: size(600, 6000), seed: 2 },
    );
  }, 300_000);

  test("every operation of the API, with a key that may do everything", async () => {
    const names = [
      "given_name",
      "family_name",
      "name",
      "email",
      "phone",
      "note",
      "zone",
      "language",
      "birth_date",
      "rest_until",
      "do_not_ask",
      "tags",
      "external_id",
      "person",
      "person_id",
      "visit_id",
      "ends_at",
      "outcome",
      "kind",
      "service",
      "service_id",
      "branch_id",
      "team_member_id",
      "about",
      "channel",
      "state",
      "consent",
      "guardian",
    ];
    const body = fc.oneof(
      value,
      fc.dictionary(
        fc.constantFrom(...names),
        fc.oneof(
          words,
          value,
          fc.nat(4).map((n) => `id ${n}`),
        ),
        { maxKeys: 6 },
      ),
    );
    await fc.assert(
      fc.asyncProperty(
        fc.nat(),
        fc.oneof(
          { weight: 4, arbitrary: fc.constant(null) },
          { weight: 1, arbitrary: fc.array(words, { maxLength: 4 }) },
        ),
        fc.nat(4),
        fc.array(
          fc.tuple(
            fc.constantFrom(
              "limit",
              "after",
              "email",
              "phone",
              "external_id",
              "person_id",
              "visit_id",
              "ask_id",
              "state",
              "outcome",
              "x",
            ),
            words,
          ),
          { maxLength: 3 },
        ),
        body,
        fc.oneof(fc.constant(null), words),
        async (which, odd, id, query, given, repeat) => {
          await uncounted();
          const operation = OPERATIONS[which % OPERATIONS.length];
          // Erasing and stopping leave nothing to be odd about.
          if (operation.id === "erasePerson") return;
          const path =
            odd ??
            operation.path
              .slice(1)
              .split("/")
              .map((piece) => (piece.startsWith("{") ? ids[id % ids.length] : piece));
          const text = JSON.stringify(given, (_name, inner) => (typeof inner === "string" ? own(inner) : inner)) ?? "";
          const request = new Request(`http://127.0.0.1/api/v1?${encoded(query)}`, {
            method: operation.method,
            headers: {
              authorization: `Bearer ${key}`,
              "content-type": "application/json",
              ...(repeat && /^[\x21-\x7e]+$/.test(repeat) ? { "idempotency-key": repeat.slice(0, 300) } : {}),
            },
            ...(operation.method === "GET" || operation.method === "DELETE" ? {} : { body: text.toWellFormed() }),
          });
          await expectNo5xx(handleApi(request, path), [operation.id, path, query, given, repeat]);
        },
      ),
      { numRuns: size(1200, 12_000), seed: 3 },
    );
  }, 300_000);
});
