import { jest } from "@jest/globals";
import { sql } from "drizzle-orm";
import {
  addPhone,
  isDeskCode,
  listPhones,
  peopleAtPhone,
  removePhone,
  setDeskCode,
  signPhoneIn,
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
import { TUESDAY } from "../../support/scene";

/** A phone that a client's staff share: it only asks, until somebody says by four digits who they are. */
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
    const [{ id, userId }] = await withClient(scopeOf(client), (tx) => listPhones(tx, scopeOf(client)));
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

  test("its link signs it in once; it may ask at its client, and nothing else", async () => {
    const { id, token } = await phone();
    expect(await signPhoneIn(token, new Headers())).toBe(false);
    expect(await signPhoneIn("x".repeat(24), new Headers())).toBe(false);
    expect(await requireUser()).toMatchObject({ user: { name: "Front desk", isPhone: true }, agencies: [] });
    expect(await may("ask")).toMatchObject({ clientId: client.id, branches: null });
    for (const permission of [
      "see today",
      "see people",
      "edit people",
      "see heard",
      "set up",
      "export people",
    ] as const)
      expect([permission, await may(permission)]).toEqual([permission, "not found"]);
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
    expect(await isDeskCode(scopeOf(client), "maud", "2718")).toBe(true);
    expect(await isDeskCode(scopeOf(client), "maud", "0000")).toBe(false);
    expect(await isDeskCode(scopeOf(client), "eve", "3141")).toBe(false);
    const { rows } = await harness.owner.query("select desk_code from users where id = 'maud'");
    // A hash with its salt; four digits may stand in it by chance.
    expect(rows[0].desk_code).toMatch(/^[0-9a-f]{32}:[0-9a-f]{128}$/);
    const session = await sharedPhone();
    await beginAtPhone(session?.sessionId ?? "", "maud");
    expect(await may("see people")).toMatchObject({ user: { id: "maud", phone: "Front desk" } });
    expect(await may("see people", other.slug)).toBe("not found");
    // Of somebody without a seat there it is nobody's.
    await beginAtPhone(session?.sessionId ?? "", "eve");
    expect(await may("see people")).toBe("not found");
    // Nor does it hold on another phone, or when it was changed.
    await beginAtPhone(newId(), "maud");
    expect(await may("see people")).toBe("not found");
    await beginAtPhone(session?.sessionId ?? "", "maud");
    for (const [name, value] of request.cookies) request.cookies.set(name, value.replace("maud", "iris"));
    expect(await may("see people")).toBe("not found");
    await endAtPhone();
    expect(await may("see people")).toBe("not found");
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
