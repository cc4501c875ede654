import { createHmac } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { type Permission, permissionsOf } from "@/core/access/permissions";
import {
  AccountExists,
  acceptInvitation,
  addSeat,
  askForAddress,
  changeSeat,
  choosePassword,
  confirmAddress,
  confirmTwoSteps,
  deviceOf,
  endSession,
  findInvitation,
  invite,
  listInvitations,
  listRoles,
  listSeats,
  listSessions,
  loadProfile,
  mailPasswordLink,
  prepareTwoSteps,
  profileInput,
  removeRole,
  removeSeat,
  renewInvitation,
  roleOf,
  saveRole,
  takeSecondStep,
  WHOLE_AGENCY,
  withdrawInvitation,
} from "@/features/accounts";
import { auth } from "@/platform/auth";
import { rowsOf, type Tx, withAgency } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { sessions, users } from "@/schema/accounts";
import { newId } from "@/schema/columns";
import { type Harness, startHarness, type TestClient } from "../../support/harness";

/** People of an agency: invited, given roles, taken off; passwords forgotten and chosen anew. */
describe("accounts", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const DAY = 86_400_000;

  let harness: Harness;
  let client: TestClient;
  let other: TestClient;
  let scope: { agencyId: string };
  let elsewhere: { agencyId: string };
  const iris = { userId: "iris", name: "Iris", rights: { permissions: permissionsOf("agency") } };

  beforeAll(async () => {
    harness = await startHarness("accounts");
    client = await harness.addClient();
    other = await harness.addClient();
    const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
    scope = { agencyId: rows[0].agency_id };
    elsewhere = { agencyId: newId() };
    await harness.owner.query("insert into agencies (id, name) values ($1, 'Elsewhere')", [elsewhere.agencyId]);
    await harness.owner.query(
      "insert into users (id, name, email, email_verified) values ('iris', 'Iris', 'iris@agency.example', true)",
    );
    await inside((tx) => addSeat(tx, scope, { userId: "iris", ...WHOLE_AGENCY, role: "agency", roleId: null }));
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: (tx: Tx) => Promise<T>, as = scope) => withAgency(as, work);

  const given = (choice: string) =>
    inside(async (tx) => (await roleOf(tx, scope, choice)) ?? Promise.reject(new Error("no role")));

  async function invited(email: string, role = "manager", onlyClient: string | null = client.id) {
    const to = { email, name: "Maud Ellery", place: { ...WHOLE_AGENCY, onlyClient }, given: await given(role) };
    return inside((tx) => invite(tx, scope, "Iris", to, NOW));
  }

  const seatOf = async (userId: string) =>
    (await inside((tx) => listSeats(tx, scope))).find((seat) => seat.userId === userId);

  /** What a person may do at a client, as the database says at their next request. */
  const rightsAt = async (userId: string) =>
    rowsOf<{ slug: string; role: string; permissions: Permission[] | null }>(
      sql`select slug, role, permissions from estima_seats_of(${userId})`,
    );

  describe("an invitation", () => {
    test("is taken once, by somebody new, and gives just what it says", async () => {
      const { token } = await invited("maud@client.example");
      expect(await findInvitation(token, NOW)).toMatchObject({
        email: "maud@client.example",
        agencyId: scope.agencyId,
      });
      const userId = await acceptInvitation(token, { name: "Maud", password: "a long password" }, NOW + 1);
      expect(userId).not.toBeNull();
      expect(await rightsAt(userId ?? "")).toEqual([{ slug: client.slug, role: "manager", permissions: null }]);
      await expect(
        (await auth()).api.signInEmail({ body: { email: "maud@client.example", password: "a long password" } }),
      ).resolves.toMatchObject({ user: { id: userId } });
      // Used, its link leads nowhere, for whoever tries.
      expect(await findInvitation(token, NOW + 2)).toBeNull();
      expect(await acceptInvitation(token, { name: "Eve", password: "a long password" }, NOW + 2)).toBeNull();
    });

    test("of two who take it at once one gets the seat", async () => {
      const { token } = await invited("twice@client.example");
      const both = await Promise.allSettled(
        [1, 2].map(() => acceptInvitation(token, { name: "Twice", password: "a long password" }, NOW)),
      );
      const taken = both.filter((one) => one.status === "fulfilled" && one.value !== null);
      expect(taken).toHaveLength(1);
      expect((await harness.owner.query("select 1 from users where email = 'twice@client.example'")).rows).toHaveLength(
        1,
      );
    });

    test("is somebody's alone: not another's who is signed in, nor over an account that exists", async () => {
      const { token } = await invited("jun@client.example");
      expect(await acceptInvitation(token, { userId: "iris", email: "iris@agency.example" }, NOW)).toBeNull();
      await harness.owner.query(
        "insert into users (id, name, email, email_verified) values ('jun', 'Jun', 'jun@client.example', true)",
      );
      await expect(acceptInvitation(token, { name: "Eve", password: "a long password" }, NOW)).rejects.toThrow(
        AccountExists,
      );
      // Nothing of it is done, and the link is still good for its owner.
      expect(await rightsAt("jun")).toEqual([]);
      expect(await acceptInvitation(token, { userId: "jun", email: "jun@client.example" }, NOW)).toBe("jun");
      expect(await rightsAt("jun")).toHaveLength(1);
    });

    test("withdrawn, run out, or sent anew, its old link leads nowhere", async () => {
      const first = await invited("late@client.example");
      expect(await findInvitation(first.token, NOW + 7 * DAY - 1)).not.toBeNull();
      expect(await findInvitation(first.token, NOW + 7 * DAY)).toBeNull();
      const again = await inside((tx) => renewInvitation(tx, scope, iris, first.id, NOW + 8 * DAY));
      if (!again || again === "beyond your own") throw new Error("It was not renewed.");
      expect(await findInvitation(first.token, NOW + 8 * DAY)).toBeNull();
      expect(await findInvitation(again.token, NOW + 8 * DAY)).not.toBeNull();
      // Invited to the same once more, only the newest link is good.
      const newest = await invited("late@client.example");
      expect(await findInvitation(again.token, NOW)).toBeNull();
      expect(
        (await inside((tx) => listInvitations(tx, scope))).filter(({ email }) => email === "late@client.example"),
      ).toHaveLength(1);
      expect(await inside((tx) => withdrawInvitation(tx, scope, iris, newest.id, NOW))).toBe("withdrawn");
      expect(await findInvitation(newest.token, NOW)).toBeNull();
      expect(await inside((tx) => withdrawInvitation(tx, scope, iris, newest.id, NOW))).toBe("missing");
    });

    test("guessed, or with the hash that is kept, it is not found; another agency neither sees nor ends it", async () => {
      const { id, token } = await invited("guess@client.example");
      const { rows } = await harness.owner.query("select token_hash from invitations where id = $1", [id]);
      expect(JSON.stringify(rows)).not.toContain(token);
      for (const guess of [newToken(24), rows[0].token_hash, "", "'; drop table invitations"])
        expect(await findInvitation(guess, NOW)).toBeNull();
      expect(await inside((tx) => listInvitations(tx, elsewhere), elsewhere)).toEqual([]);
      expect(await inside((tx) => withdrawInvitation(tx, elsewhere, iris, id, NOW), elsewhere)).toBe("missing");
      expect(await inside((tx) => renewInvitation(tx, elsewhere, iris, id, NOW), elsewhere)).toBeNull();
      expect(await findInvitation(token, NOW)).not.toBeNull();
    });
  });

  describe("roles of an agency's own", () => {
    test("allow just what they say, from the next request on, and cannot be removed while they are held", async () => {
      const it = { name: "Only Heard", permissions: ["see heard", "answer concerns"] as Permission[] };
      expect(await inside((tx) => saveRole(tx, scope, iris, null, it, NOW))).toBe("saved");
      expect(await inside((tx) => saveRole(tx, scope, iris, null, { ...it, name: "only heard" }, NOW))).toBe("taken");
      expect(await inside((tx) => saveRole(tx, scope, iris, null, { ...it, name: "Manager" }, NOW))).toBe("taken");
      const [role] = await inside((tx) => listRoles(tx, scope));
      const { token } = await invited("ada@client.example", role.id);
      expect(await inside((tx) => removeRole(tx, scope, iris, role.id, NOW))).toBe("held");
      const ada = (await acceptInvitation(token, { name: "Ada", password: "a long password" }, NOW)) ?? "";
      expect((await rightsAt(ada))[0].permissions).toEqual(["see heard", "answer concerns"]);
      await inside((tx) => saveRole(tx, scope, iris, role.id, { ...it, permissions: ["see heard"] }, NOW));
      expect((await rightsAt(ada))[0].permissions).toEqual(["see heard"]);
      expect(await inside((tx) => removeRole(tx, scope, iris, role.id, NOW))).toBe("held");
      const seat = await seatOf(ada);
      expect(await inside(async (tx) => changeSeat(tx, scope, iris, seat?.id ?? "", await given("reader"), NOW))).toBe(
        "saved",
      );
      expect(await inside((tx) => removeRole(tx, scope, iris, role.id, NOW))).toBe("saved");
      expect(await inside((tx) => removeRole(tx, scope, iris, role.id, NOW))).toBe("missing");
    });

    test("nobody gives, takes or changes more than they may do themselves", async () => {
      const little = {
        userId: "desk",
        name: "Jonah",
        rights: { permissions: ["see heard", "manage people"] as Permission[] },
      };
      const more = { name: "More", permissions: ["erase people"] as Permission[] };
      expect(await inside((tx) => saveRole(tx, scope, little, null, more, NOW))).toBe("beyond your own");
      const seat = await seatOf("iris");
      expect(
        await inside(async (tx) => changeSeat(tx, scope, little, seat?.id ?? "", await given("reader"), NOW)),
      ).toBe("beyond your own");
      expect(await inside((tx) => removeSeat(tx, scope, little, seat?.id ?? "", NOW))).toBe("beyond your own");
      expect(await seatOf("iris")).toMatchObject({ role: "agency" });
      // Nor do they withdraw, renew or remove what gives more.
      const above = await invited("above@client.example");
      expect(await inside((tx) => withdrawInvitation(tx, scope, little, above.id, NOW))).toBe("beyond your own");
      expect(await inside((tx) => renewInvitation(tx, scope, little, above.id, NOW))).toBe("beyond your own");
      expect(await findInvitation(above.token, NOW)).not.toBeNull();
      await inside((tx) => saveRole(tx, scope, iris, null, more, NOW));
      const role = (await inside((tx) => listRoles(tx, scope))).find(({ name }) => name === more.name);
      expect(await inside((tx) => removeRole(tx, scope, little, role?.id ?? "", NOW))).toBe("beyond your own");
      const own = { name: "Less", permissions: ["see heard"] as Permission[] };
      await inside((tx) => saveRole(tx, scope, iris, null, own, NOW));
      const less = (await inside((tx) => listRoles(tx, scope))).find(({ name }) => name === own.name);
      const within = await invited("within@client.example", less?.id);
      expect(await inside((tx) => withdrawInvitation(tx, scope, little, within.id, NOW))).toBe("withdrawn");
      expect(await inside((tx) => removeRole(tx, scope, little, less?.id ?? "", NOW))).toBe("saved");
    });

    test("another agency's role is none of ours", async () => {
      await inside(
        (tx) => saveRole(tx, elsewhere, iris, null, { name: "Theirs", permissions: ["see heard"] }, NOW),
        elsewhere,
      );
      const [theirs] = await inside((tx) => listRoles(tx, elsewhere), elsewhere);
      expect(await inside((tx) => roleOf(tx, scope, theirs.id))).toBeNull();
      expect(
        await inside((tx) => saveRole(tx, scope, iris, theirs.id, { name: "Ours", permissions: ["ask"] }, NOW)),
      ).toBe("missing");
      expect(await inside((tx) => removeRole(tx, scope, iris, theirs.id, NOW))).toBe("missing");
    });
  });

  test("somebody taken off has nothing at their next request, though still signed in; the last manager of people stays", async () => {
    const { token } = await invited("gone@client.example", "manager", other.id);
    const userId = (await acceptInvitation(token, { name: "Gone", password: "a long password" }, NOW)) ?? "";
    await (await auth()).api.signInEmail({ body: { email: "gone@client.example", password: "a long password" } });
    const seat = await seatOf(userId);
    expect(await inside((tx) => removeSeat(tx, elsewhere, iris, seat?.id ?? "", NOW), elsewhere)).toBe("missing");
    expect(await inside((tx) => removeSeat(tx, scope, iris, seat?.id ?? "", NOW))).toBe("saved");
    expect(await rightsAt(userId)).toEqual([]);
    const mine = await seatOf("iris");
    expect(await inside((tx) => removeSeat(tx, scope, iris, mine?.id ?? "", NOW))).toBe("last one");
    expect(await inside(async (tx) => changeSeat(tx, scope, iris, mine?.id ?? "", await given("reader"), NOW))).toBe(
      "last one",
    );
  });

  test("what a client is shown narrows its own people, and not the agency's", async () => {
    await harness.owner.query("update clients set shown_places = '{see heard}' where id = $1", [client.id]);
    const rows = await rowsOf<{ slug: string; shown: string[] | null }>(
      sql`select slug, shown from estima_seats_of('iris') union all select slug, shown from estima_seats_of('jun') order by slug`,
    );
    expect(rows.filter(({ slug }) => slug === client.slug)).toEqual([
      { slug: client.slug, shown: null },
      { slug: client.slug, shown: ["see heard"] },
    ]);
  });

  test("a new password is chosen by the link that was mailed, once; sessions of the old one end", async () => {
    const email = "maud@client.example";
    await (await auth()).api.signInEmail({ body: { email, password: "a long password" } });
    const [user] = await inside((tx) => tx.select({ id: users.id }).from(users).where(eq(users.email, email)));
    const open = async () =>
      (await inside((tx) => tx.select().from(sessions).where(eq(sessions.userId, user.id)))).length;
    expect(await open()).toBeGreaterThan(0);
    const before = harness.town.mail.mails.size;
    await mailPasswordLink("nobody@client.example");
    expect(harness.town.mail.mails.size).toBe(before);
    await mailPasswordLink(email);
    const mail = [...harness.town.mail.mails.values()].at(-1);
    const { subject, text } = await simpleParser(mail?.raw ?? "");
    expect(subject).toBe("Set a new Estima password");
    const token = /\/password\/([0-9A-Za-z]+)/.exec(text ?? "")?.[1] ?? "";
    expect(token).not.toBe("");
    expect(JSON.stringify((await harness.owner.query("select * from verifications")).rows)).not.toContain(token);
    expect(await choosePassword(newToken(32), "another password")).toBe(false);
    expect(await choosePassword(token, "another password")).toBe(true);
    expect(await choosePassword(token, "a third password")).toBe(false);
    expect(await open()).toBe(0);
    await expect((await auth()).api.signInEmail({ body: { email, password: "a long password" } })).rejects.toThrow();
    await expect(
      (await auth()).api.signInEmail({ body: { email, password: "another password" } }),
    ).resolves.toBeTruthy();
  });

  /** Signs in and gives what the browser would send from then on. */
  async function signInAs(email: string, password = "a long password", cookies = ""): Promise<Headers> {
    const response = await (await auth()).api.signInEmail({
      body: { email, password },
      headers: new Headers({ cookie: cookies }),
      asResponse: true,
    });
    return cookiesOf(response);
  }

  function cookiesOf(response: Response): Headers {
    const cookie = response.headers
      .getSetCookie()
      .map((line) => line.split(";")[0])
      .filter((pair) => !pair.endsWith("="))
      .join("; ");
    return new Headers({ cookie });
  }

  const isSignedIn = async (headers: Headers) => (await (await auth()).api.getSession({ headers })) !== null;

  describe("one's own account", () => {
    let me: { id: string; name: string; email: string };

    beforeAll(async () => {
      const { token } = await invited("nell@client.example");
      const id = await acceptInvitation(token, { name: "Nell", password: "a long password" }, NOW);
      me = { id: id ?? "", name: "Nell", email: "nell@client.example" };
    });

    test("sessions are listed with their device, and ended one by one", async () => {
      const first = await signInAs(me.email);
      const second = await signInAs(me.email);
      const listed = await listSessions(me.id);
      expect(listed).toHaveLength(2);
      await harness.owner.query("update sessions set user_agent = $2 where id = $1", [
        listed[0].id,
        "Mozilla/5.0 (Android 14; Mobile; rv:133.0) Gecko/133.0 Firefox/133.0",
      ]);
      expect((await listSessions(me.id))[0].device).toBe("Firefox on Android");
      for (const said of [null, "", " ", "\u0000", "x".repeat(5000), "<script>"])
        expect(deviceOf(said)).toMatch(/^An un(?:known|identified) device/);
      // Nobody else's can be ended.
      expect(await endSession("iris", listed[0].id)).toBe(false);
      expect(await endSession(me.id, listed[0].id)).toBe(true);
      expect(await endSession(me.id, listed[0].id)).toBe(false);
      expect([await isSignedIn(first), await isSignedIn(second)].filter(Boolean)).toHaveLength(1);
    });

    test("an address is another's word until its link is followed, once, in time, by its owner", async () => {
      await askForAddress(me, "nell@new.example");
      const token = await linkMailedTo("nell@new.example");
      expect((await loadProfile(me.id)).email).toBe("nell@client.example");
      expect(await confirmAddress({ id: "iris", name: "Iris", email: "iris@agency.example" }, token)).toBe(false);
      expect(await confirmAddress(me, newToken(32))).toBe(false);
      const both = await Promise.all([confirmAddress(me, token), confirmAddress(me, token)]);
      expect(both.filter(Boolean)).toHaveLength(1);
      expect((await loadProfile(me.id)).email).toBe("nell@new.example");
      expect(await confirmAddress(me, token)).toBe(false);
      // The old one is told.
      expect((await mailsTo("nell@client.example")).at(-1)).toContain("nell@new.example");
      me.email = "nell@new.example";
    });

    test("an address that somebody has is not told to others, and never taken from them", async () => {
      await askForAddress(me, "iris@agency.example");
      expect((await mailsTo("iris@agency.example")).at(-1)).toContain("tried to change to this address");
      // Somebody made an account of it while the link was on its way.
      await askForAddress(me, "late@new.example");
      const token = await linkMailedTo("late@new.example");
      await harness.owner.query("insert into users (id, name, email) values ('late', 'Late', 'late@new.example')");
      expect(await confirmAddress(me, token)).toBe(false);
      expect((await loadProfile(me.id)).email).toBe("nell@new.example");
      await askForAddress(me, "slow@new.example");
      const slow = await linkMailedTo("slow@new.example");
      await harness.owner.query("update verifications set expires_at = now() - interval '1 second'");
      expect(await confirmAddress(me, slow)).toBe(false);
    });

    test("with two steps the password alone opens nothing; codes do, those to fall back on once", async () => {
      const headers = await signInAs(me.email);
      expect(await prepareTwoSteps("not the password", headers)).toBeNull();
      const made = await prepareTwoSteps("a long password", headers);
      if (!made) throw new Error("not prepared");
      expect(made.picture).toMatch(/^<svg/);
      expect(made.recoveryCodes.length).toBeGreaterThanOrEqual(8);
      // It counts once a code was given, not before.
      expect(await isSignedIn(await signInAs(me.email))).toBe(true);
      expect(await confirmTwoSteps("000000", headers)).toBe(false);
      const confirmed = await codeOf(made.key);
      expect(await confirmTwoSteps(confirmed, headers)).toBe(true);
      const half = await signInAs(me.email);
      expect(await isSignedIn(half)).toBe(false);
      expect(await takeSecondStep("123456", false, half)).toBeNull();
      expect(await takeSecondStep("nonsense-code", false, half)).toBeNull();
      // A code is good once: the one that confirmed, and the one that entered.
      expect(await takeSecondStep(confirmed, false, await signInAs(me.email))).toBeNull();
      const next = await codeOf(made.key, 1);
      expect(await takeSecondStep(next, false, await signInAs(me.email))).toEqual({ userId: me.id });
      expect(await takeSecondStep(next, false, await signInAs(me.email))).toBeNull();
      const [code] = made.recoveryCodes;
      expect(await takeSecondStep(code, false, await signInAs(me.email))).toEqual({ userId: me.id });
      expect(await takeSecondStep(code, false, await signInAs(me.email))).toBeNull();
      // Without a first step there is no second.
      expect(await takeSecondStep(await codeOf(made.key), false, new Headers())).toBeNull();
      // What is kept is not the key itself.
      const { rows } = await harness.owner.query("select secret, backup_codes from two_factors where user_id = $1", [
        me.id,
      ]);
      expect(JSON.stringify(rows)).not.toContain(made.key);
      expect(JSON.stringify(rows)).not.toContain(made.recoveryCodes[1]);
    });

    test("what somebody says of themselves is read strictly", () => {
      const own = { name: "Nell", replyName: " ", phone: "" };
      expect(profileInput.parse(own)).toEqual({ name: "Nell", replyName: null, phone: null });
      expect(profileInput.parse({ ...own, phone: "+44 7700 900123" }).phone).toBe("+447700900123");
      for (const phone of ["07700 900123", "12", "+44 20 7946 0000 ext", "x".repeat(100), "\u0000"])
        expect(profileInput.safeParse({ ...own, phone }).success).toBe(false);
      expect(profileInput.safeParse({ ...own, name: " " }).success).toBe(false);
      expect(profileInput.safeParse({ ...own, replyName: "x".repeat(61) }).success).toBe(false);
    });
  });

  /** The code that an app shows now for a key in base 32 (RFC 6238). */
  /** The code that the app shows, or the one after it. */
  async function codeOf(key: string, later = 0): Promise<string> {
    const bytes = [...key.toUpperCase()].map((letter) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(letter));
    const bits = bytes.map((value) => value.toString(2).padStart(5, "0")).join("");
    const secret = Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
    const counter = Buffer.alloc(8);
    counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + later));
    const mac = createHmac("sha1", secret).update(counter).digest();
    const at = mac[19] & 15;
    return String((mac.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, "0");
  }

  async function mailsTo(email: string): Promise<string[]> {
    const mails = await Promise.all([...harness.town.mail.mails.values()].map((mail) => simpleParser(mail.raw)));
    return mails.filter((mail) => JSON.stringify(mail.to).includes(email)).map((mail) => mail.text ?? "");
  }

  async function linkMailedTo(email: string): Promise<string> {
    const text = (await mailsTo(email)).at(-1) ?? "";
    return /\/account\/address\/(\w+)/.exec(text)?.[1] ?? "";
  }
});
