import { CLIENT_HEADER } from "@/platform/clientAddress";
import { hashPassword } from "@/platform/passwords";
import { newId } from "@/schema/columns";
import { type Harness, startHarness } from "../../support/harness";
import { Left, request } from "../../support/nextRequest";

/**
 * How often somebody may try: counted by all web processes together, by account and by address, and against nobody
 * else.
 */
describe("limits", () => {
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("limits");
    const client = await harness.addClient();
    for (const name of ["odette", "jun"]) {
      const id = newId();
      await harness.owner.query("insert into users (id, name, email, email_verified) values ($1, $2, $3, true)", [
        id,
        name,
        `${name}@agency.example`,
      ]);
      await harness.owner.query(
        "insert into accounts (id, account_id, provider_id, user_id, password) values ($1, $2, 'credential', $2, $3)",
        [newId(), id, await hashPassword(`the password of ${name}`)],
      );
      await harness.owner.query(
        "insert into seats (id, user_id, agency_id, role) select $1, $2, agency_id, 'agency' from clients where id = $3",
        [newId(), id, client.id],
      );
    }
  });
  afterAll(() => harness.stop());
  beforeEach(() => harness.owner.query("delete from rate_limits"));

  /** Tries to sign in from an address: "in", or what is said. */
  async function enter(name: string, password: string, address: string): Promise<string> {
    const { signIn } = await import("../../../src/app/sign-in/actions");
    request.headers = new Headers({ [CLIENT_HEADER]: address });
    const form = new FormData();
    form.set("email", `${name}@agency.example`);
    form.set("password", password);
    try {
      const result = await signIn(null, form);
      return result?.ok === false ? result.message : "in";
    } catch (error) {
      if (error instanceof Left) return "in";
      throw error;
    }
  }
  const WRONG = "That email and password don’t match.";
  const WAIT = "Too many attempts. Wait a minute, then try again.";

  test("eight wrong tries for an account from one address end there; the right password from another address still enters", async () => {
    for (let n = 0; n < 8; n++) expect(await enter("odette", `guess ${n}`, "5.5.5.5")).toBe(WRONG);
    expect(await enter("odette", "guess", "5.5.5.5")).toBe(WAIT);
    // Also the right one, from where it was guessed at.
    expect(await enter("odette", "the password of odette", "5.5.5.5")).toBe(WAIT);
    expect(await enter("odette", "the password of odette", "6.6.6.6")).toBe("in");
    // Another account from the same address, as from an office that shares one.
    expect(await enter("jun", "the password of jun", "5.5.5.5")).toBe("in");
  });

  test("whoever enters has made no wrong tries", async () => {
    for (let n = 0; n < 6; n++) await enter("jun", "guess", "7.7.7.7");
    expect(await enter("jun", "the password of jun", "7.7.7.7")).toBe("in");
    for (let n = 0; n < 8; n++) expect(await enter("jun", "guess", "7.7.7.7")).toBe(WRONG);
  });

  test("forty tries from one address end there, however many accounts they are for", async () => {
    for (let n = 0; n < 40; n++) expect(await enter(`nobody${n}`, "guess", "8.8.4.4")).toBe(WRONG);
    expect(await enter("jun", "the password of jun", "8.8.4.4")).toBe(WAIT);
    expect(await enter("jun", "the password of jun", "9.9.9.9")).toBe("in");
  }, 120_000);

  test("who signed in is noted, who only tried is not", async () => {
    const count = async () =>
      Number((await harness.owner.query("select count(*) from audit_entries where subject = 'sign-in'")).rows[0].count);
    const before = await count();
    await enter("jun", "guess", "4.4.4.4");
    expect(await count()).toBe(before);
    await enter("jun", "the password of jun", "4.4.4.4");
    expect(await count()).toBe(before + 1);
  });

  test("two web processes count together, and guessing links writes one row for all guesses", async () => {
    const { closeLimits, isWelcome } = await import("@/platform/publicLimit");
    const { isWelcomeClient, mayGuessAgain } = await import("@/platform/publicLink");
    for (let n = 0; n < 10; n++) {
      expect(await isWelcome("shared", 10, 60)).toBe(true);
      // Each time as a process that has counted nothing yet.
      closeLimits();
    }
    expect(await isWelcome("shared", 10, 60)).toBe(false);
    const own = new Headers({ [CLIENT_HEADER]: "3.3.3.3" });
    const rows = async () => Number((await harness.owner.query("select count(*) from rate_limits")).rows[0].count);
    const before = await rows();
    let refused = 0;
    for (let n = 0; n < 70; n++) {
      expect(await isWelcomeClient(own)).toBe(true);
      if (!(await mayGuessAgain(own))) refused += 1;
    }
    expect(refused).toBe(10);
    expect((await rows()) - before).toBe(2);
    expect(await mayGuessAgain(new Headers({ [CLIENT_HEADER]: "3.3.3.4" }))).toBe(true);
  });
});
