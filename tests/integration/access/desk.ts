import { jest } from "@jest/globals";
import { sql } from "drizzle-orm";
import { PERMISSIONS } from "@/core/access/permissions";
import { normalisePhone } from "@/core/contacts/phone";
import { findToAsk } from "@/features/asks/actions";
import {
  addPhone,
  checkDigits,
  listPhones,
  peopleAtPhone,
  removePhone,
  setDeskCode,
  signPhoneIn,
  TRIES_AT_PHONE,
  unlockDigits,
} from "@/features/desk";
import { type Access, requireAccess, requireUser, sharedPhone } from "@/platform/access";
import { beginAtPhone, endAtPhone } from "@/platform/atPhone";
import { auth } from "@/platform/auth";
import { setDemoClock } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { beginSeenAs, readSeenAs } from "@/platform/seenAs";
import { newId } from "@/schema/columns";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { Left, request } from "../../support/nextRequest";
import { Scene, TUESDAY } from "../../support/scene";

/** A phone that a client's staff share: it asks one person at a time, whoever says by four digits who they are. */
describe("desk", () => {
  const DAY = 86_400_000;
  let harness: Harness;
  let client: TestClient;
  let other: TestClient;

  beforeAll(async () => {
    harness = await startHarness("desk");
    await setDemoClock(TUESDAY, TUESDAY);
    client = await harness.addClient();
    other = await harness.addClient();
    const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
    await harness.owner.query(
      "insert into users (id, name, email) values ('maud', 'Maud', 'maud@client.example'), ('eve', 'Eve', 'eve@other.example')",
    );
    for (const [user, only] of [
      ["maud", client.id],
      ["eve", other.id],
    ])
      await harness.owner.query(
        "insert into seats (id, user_id, agency_id, only_client, role) values (gen_random_uuid(), $1, $2, $3, 'manager')",
        [user, rows[0].agency_id, only],
      );
  });
  afterAll(() => harness.stop());
  beforeEach(() => request.cookies.clear());

  const scopeOf = (it: TestClient) => ({ ...workFor(it.id), user: { id: "maud" } });

  /** Adds a phone and signs it in; gives its identifier. */
  async function phone(
    change: { branchId?: string | null; days?: number } = {},
  ): Promise<{ id: string; token: string }> {
    const token = await addPhone(
      scopeOf(client),
      "Maud",
      { name: "Front desk", branchId: null, days: 30, ...change },
      TUESDAY,
    );
    const phones = await withClient(scopeOf(client), (tx) => listPhones(tx, scopeOf(client)));
    const { id, userId } = phones.find(({ openedAt }) => openedAt === null) ?? phones[0];
    expect(await signPhoneIn(token, new Headers())).toBe(true);
    const [{ token: session }] = await rowsOf<{ token: string }>(
      sql`select token from sessions where user_id = ${userId}`,
    );
    request.headers = new Headers({ cookie: await signed(session) });
    return { id, token };
  }

  /** The cookie that a browser sends for a session. */
  async function signed(token: string): Promise<string> {
    const { secret, authCookies } = await (await auth()).$context;
    const key = await crypto.subtle.importKey(
      "raw",
      new TextEncoder().encode(secret),
      { name: "HMAC", hash: "SHA-256" },
      false,
      ["sign"],
    );
    const mac = await crypto.subtle.sign("HMAC", key, new TextEncoder().encode(token));
    return `${authCookies.sessionToken.name}=${encodeURIComponent(`${token}.${Buffer.from(mac).toString("base64")}`)}`;
  }

  const may = async (permission: Parameters<typeof requireAccess>[1], slug = client.slug): Promise<Access | string> =>
    requireAccess(slug, permission).catch((error: unknown) => {
      if (error instanceof Left) return error.message;
      throw error;
    });

  /** What a shared phone may do, whoever is at it. */
  async function expectOnlyAsks(): Promise<void> {
    const allowed: string[] = [];
    for (const permission of PERMISSIONS) if (typeof (await may(permission)) !== "string") allowed.push(permission);
    expect(allowed).toEqual(["ask"]);
  }

  test("its link signs it in once; it may ask at its client, and nothing else", async () => {
    const { id, token } = await phone();
    expect(await signPhoneIn(token, new Headers())).toBe(false);
    expect(await signPhoneIn("x".repeat(24), new Headers())).toBe(false);
    expect(await requireUser()).toMatchObject({ user: { name: "Front desk", isPhone: true }, agencies: [] });
    expect(await may("ask")).toMatchObject({ clientId: client.id, branches: null });
    await expectOnlyAsks();
    expect(await may("ask", other.slug)).toBe("not found");
    // Nobody can sign in as it by a password.
    const { rows } = await harness.owner.query("select password from accounts where user_id = $1", [`phone-${id}`]);
    expect(rows).toEqual([{ password: null }]);
    expect(await removePhone(scopeOf(other), "Eve", id, TUESDAY)).toBe(false);
    expect(await removePhone(scopeOf(client), "Maud", id, TUESDAY)).toBe(true);
    expect(await may("ask")).toBe("/sign-in");
  });

  test("it asks at one branch where it is for one, and not beyond its time", async () => {
    const branchId = client.branchId;
    const { id } = await phone({ branchId, days: 7 });
    expect(await may("ask")).toMatchObject({ branches: [branchId] });
    await setDemoClock(TUESDAY + 8 * DAY, TUESDAY + 8 * DAY);
    expect(await may("ask")).toBe("/sign-in");
    await setDemoClock(TUESDAY, TUESDAY);
    await removePhone(scopeOf(client), "Maud", id, TUESDAY);
  });

  test("four digits say who somebody is: somebody with a seat there, on that phone alone, for a while", async () => {
    expect(await setDeskCode("maud", "1234")).toBe(false);
    expect(await setDeskCode("maud", "2718")).toBe(true);
    await setDeskCode("eve", "3141");
    const { id } = await phone();
    expect(await withClient(scopeOf(client), peopleAtPhone)).toEqual([{ id: "maud", name: "Maud" }]);
    const check = (who: string, digits: string) => checkDigits(scopeOf(client), `phone-${id}`, who, digits);
    expect(await check("maud", "2718")).toBe("right");
    expect(await check("maud", "0000")).toBe("wrong");
    expect(await check("eve", "3141")).toBe("wrong");
    expect(await checkDigits(scopeOf(client), `phone-${newId()}`, "maud", "2718")).toBe("locked");
    const { rows } = await harness.owner.query("select desk_code from users where id = 'maud'");
    // A hash with its salt; four digits may stand in it by chance.
    expect(rows[0].desk_code).toMatch(/^[0-9a-f]{32}:[0-9a-f]{128}$/);
    const session = await sharedPhone();
    await beginAtPhone(session?.sessionId ?? "", "maud");
    expect(await may("ask")).toMatchObject({ user: { id: "maud", name: "Maud", phone: "Front desk" } });
    // A manager's digits say who asks, and open nothing else.
    await expectOnlyAsks();
    expect(await may("ask", other.slug)).toBe("not found");
    const nobody = { user: { name: "Front desk", isPhone: true } };
    // Of somebody without a seat there they are nobody's.
    await beginAtPhone(session?.sessionId ?? "", "eve");
    expect(await may("ask")).toMatchObject(nobody);
    // Nor do they hold on another phone, or when the cookie was changed.
    await beginAtPhone(newId(), "maud");
    expect(await may("ask")).toMatchObject(nobody);
    await beginAtPhone(session?.sessionId ?? "", "maud");
    for (const [name, value] of request.cookies) request.cookies.set(name, value.replace("maud", "iris"));
    expect(await may("ask")).toMatchObject(nobody);
    await endAtPhone();
    expect(await may("ask")).toMatchObject(nobody);
    await removePhone(scopeOf(client), "Maud", id, TUESDAY);
  });

  test("five wrong tries lock somebody out on that phone, however many come at once, until they sign in elsewhere", async () => {
    await setDeskCode("maud", "2718");
    const { id } = await phone();
    const { id: second } = await phone();
    const check = (phoneId: string, digits: string) => checkDigits(scopeOf(client), `phone-${phoneId}`, "maud", digits);
    // A right one in between forgives those before.
    for (let time = 0; time < TRIES_AT_PHONE - 1; time++) expect(await check(id, "0001")).toBe("wrong");
    expect(await check(id, "2718")).toBe("right");
    const said = await Promise.all(Array.from({ length: 20 }, (_, time) => check(id, String(5000 + time))));
    const count = (what: string) => said.filter((one) => one === what).length;
    expect([count("wrong"), count("locked now"), count("locked")]).toEqual([TRIES_AT_PHONE - 1, 1, 15]);
    expect(await check(id, "2718")).toBe("locked");
    // On another phone they still count; and here again, once she signed in with her password.
    expect(await check(second, "2718")).toBe("right");
    await unlockDigits("maud");
    expect(await check(id, "2718")).toBe("right");
    for (const one of [id, second]) await removePhone(scopeOf(client), "Maud", one, TUESDAY);
  });

  test("it finds the customer in front of it, and does not read out the others", async () => {
    const scene = new Scene(harness, client);
    const add = (given: string, family: string, email: string | null, phoneNumber: string | null) =>
      scene.addPerson({ given, family, email, phone: phoneNumber === null ? null : normalisePhone(phoneNumber, "GB") });
    await add("Odette", "Marsh", "odette@post.example", "+447700900123");
    await add("Li", "Wu", "li@post.example", "+447700900456");
    await add("Lisbet", "Oduya", "lisbet@post.example", "+447700900789");
    const earlier = await add("Jun", "Pike", "jun@post.example", null);
    await scene.visit(earlier.id, { endsAt: TUESDAY - 20 * 3_600_000 });
    const today = await add("Bo", "Quill", "bo@post.example", null);
    await scene.visit(today.id, { endsAt: TUESDAY - 60_000 });
    const { id } = await phone();
    const found = async (typed: string) => (await findToAsk(client.slug, typed)).map(({ name }) => name).sort();
    for (const typed of ["o", "l", "od", "lis", "odu", "@", "@post.example", "post.example", "077", "123", "%", "____"])
      expect([typed, await found(typed)]).toEqual([typed, []]);
    expect(await found("odet")).toEqual(["Odette Marsh"]);
    expect(await found("li")).toEqual(["Li Wu"]);
    expect(await found("0456")).toEqual(["Li Wu"]);
    expect(await found("lisbet@post.example")).toEqual(["Lisbet Oduya"]);
    // With nothing typed: the day's visits, and nobody of yesterday's.
    expect(await found("")).toEqual(["Bo Quill"]);
    await removePhone(scopeOf(client), "Maud", id, TUESDAY);
  });

  test("looking as somebody is signed, for whoever began it, and ends by itself", async () => {
    const agencyId = newId();
    await beginSeenAs("iris", { userId: "maud", agencyId });
    expect(await readSeenAs("iris")).toEqual({ userId: "maud", agencyId });
    expect(await readSeenAs("eve")).toBeNull();
    const [[name, value]] = request.cookies;
    request.cookies.set(name, value.replace("maud", "eve"));
    expect(await readSeenAs("iris")).toBeNull();
    request.cookies.set(name, value);
    jest.useFakeTimers({ now: Date.now() + 61 * 60_000 });
    expect(await readSeenAs("iris")).toBeNull();
    jest.useRealTimers();
  });
});
