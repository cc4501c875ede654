import { readdirSync } from "node:fs";
import { join, relative } from "node:path";
import { jest } from "@jest/globals";
import fc from "fast-check";
import {
  allowedBy,
  branchesFor,
  givenFor,
  may,
  narrowed,
  PERMISSIONS,
  type Permission,
  PLACES,
  type PlacePermission,
  permissionsOf,
  type StarterRole,
} from "@/core/access/permissions";
import { openConcern } from "@/features/concerns";
import { addFeed, receiveList, startImport } from "@/features/intake";
import { addRule } from "@/features/reviews/rules";
import { keepSaved } from "@/features/reviews/saved";
import type { Access, AgencyAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { inRequest, setViewOnly } from "@/platform/requestState";
import { tags } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { accessOf } from "../support/access";
import { type Harness, startHarness, type TestClient } from "../support/harness";
import { Scene, TUESDAY } from "../support/scene";
import { size } from "../support/size";

/**
 * Every server action, called directly as anybody with a browser's console can: with nonsense, without a form, with
 * another client's identifiers, and in the wrong role. Each answers in words or refuses; none fails, none changes what
 * it may not.
 */
const ROUNDS = size(2000, 20_000);

describe("actions", () => {
  let harness: Harness;
  let ours: TestClient;
  let theirs: TestClient;
  let agencyId: string;
  let role: StarterRole = "agency";
  /** What is taken from the role. */
  let without: Permission | null = null;
  /** The places that are shown; null for all. */
  let shownPlaces: PlacePermission[] | null = null;
  /** The group of the agency's clients that the seat is for; null for all of them. */
  let group: { id: string; name: string } | null = null;
  /** The branches to which the seat is bound; null for none in particular. */
  let bound: string[] | null = null;
  /** Looks as somebody else: nothing may be written. */
  let looksOnly: Access["looksOnly"];
  const held = () => narrowed(permissionsOf(role), shownPlaces).filter((permission) => permission !== without);

  /** How Next.js leaves an action on purpose. */
  class Left extends Error {
    constructor(readonly kind: "not found" | "redirect") {
      super(kind);
    }
  }

  /** Errors that no action had thought of: whoever called is told that something went wrong; here each is a fault. */
  const unexpected: unknown[] = [];

  const asked: Permission[] = [];
  jest.unstable_mockModule("@/platform/access", () => ({
    requireUser: async () => ({
      user: { id: "u1", name: "Maud", email: "maud@agency.example" },
      seats: [],
      agencies: [],
    }),
    requireAccess: async (
      slug: string,
      action: Permission,
      reach?: string,
      place?: PlacePermission | null,
    ): Promise<Access> => {
      asked.push(action);
      const grants = [{ permissions: bound ? givenFor("branch", held()) : held(), branches: bound }];
      const rights = { permissions: allowedBy(grants) };
      if (slug !== ours.slug || !may(rights, action) || (place && !may(rights, place))) throw new Left("not found");
      const branches = branchesFor(grants, action);
      if (branches && reach === "whole client") throw new Left("not found");
      const access = accessOf(ours, { clientId: ours.id, branches }, role);
      const seat = { ...access.seat, permissions: allowedBy(grants), grants, kind: "client" as const };
      const user = { id: "u1", name: "Maud", email: "maud@agency.example" };
      return { ...access, user, seat, seats: [seat], looksOnly };
    },
    // The agency of ours goes by the name of its client here.
    requireAgency: async (slug: string, permission: Permission | null, reach?: string): Promise<AgencyAccess> => {
      if (permission) asked.push(permission);
      const rights = { role, roleName: null, permissions: held() };
      if (slug !== ours.slug || (permission && !may(rights, permission))) throw new Left("not found");
      if (group && reach !== "own clients") throw new Left("not found");
      const seat = {
        ...rights,
        agencyId,
        slug: ours.slug,
        name: "Test agency",
        colour: "#6A2156",
        senderEmail: "",
        helpEmail: "",
        group,
      };
      const user = { id: "u1", name: "Maud", email: "maud@agency.example" };
      return { agencyId, group: group?.id ?? null, user, seat, agencies: [seat], looksOnly };
    },
    atClient: (access: AgencyAccess, clientId: string) => ({ clientId, user: access.user, looksOnly }),
    mayEverywhere: () => true,
    requireSession: async () => {
      throw new Left("redirect");
    },
    signedIn: async () => null,
    sharedPhone: async () => null,
    PHONE_USER: "phone-",
  }));
  jest.unstable_mockModule("next/cache", () => ({ revalidatePath: () => {} }));
  jest.unstable_mockModule("next/headers", () => ({
    headers: async () => new Headers(),
    cookies: async () => ({ get: () => undefined, set: () => {} }),
  }));
  jest.unstable_mockModule("next/navigation", () => ({
    redirect: () => {
      throw new Left("redirect");
    },
    notFound: () => {
      throw new Left("not found");
    },
    unstable_rethrow: (error: unknown) => {
      if (error instanceof Left) throw error;
      unexpected.push(error);
    },
  }));

  let declaredBy: typeof import("@/platform/action").declaredBy;
  type Action = (...args: unknown[]) => Promise<unknown>;
  const actions: { name: string; file: string; run: Action }[] = [];

  function actionFiles(folder: string): string[] {
    return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) return actionFiles(path);
      return /(?:^a|A)ctions\.ts$/.test(entry.name) ? [path] : [];
    });
  }

  beforeAll(async () => {
    harness = await startHarness("actions");
    ours = await harness.addClient();
    theirs = await harness.addClient();
    agencyId = (await harness.owner.query("select agency_id from clients where id = $1", [ours.id])).rows[0].agency_id;
    await harness.owner.query("insert into users (id, name, email) values ('u1', 'Maud', 'maud@agency.example')");
    const scene = new Scene(harness, ours);
    await scene.moveTo(TUESDAY);
    await scene.finishVisit();
    await fillWith(scene);
    const other = new Scene(harness, theirs);
    await other.finishVisit();
    ({ declaredBy } = await import("@/platform/action"));
    const root = join(process.cwd(), "src");
    for (const file of actionFiles(root)) {
      // What ends sessions and signs people in has no client; it is tried in the browser.
      if (/navigation|app\/(?:sign-in|join|forgot|password|begin|account|fill|desk|sender)/.test(file)) continue;
      const module = (await import(file)) as Record<string, unknown>;
      for (const [name, run] of Object.entries(module))
        if (typeof run === "function") actions.push({ name, file: relative(root, file), run: run as Action });
    }
  });
  afterAll(() => harness.stop());
  beforeEach(() => {
    role = "agency";
    without = null;
    shownPlaces = null;
    group = null;
    bound = null;
    looksOnly = undefined;
    asked.length = 0;
  });
  afterEach(() => expect(unexpected.splice(0)).toEqual([]));

  /** What an action answered: a value, or that it left on purpose. Anything else it throws is a fault. */
  async function call({ name, file, run }: (typeof actions)[number], args: unknown[]): Promise<unknown> {
    try {
      const answer = await run(...args);
      if (unexpected.length > 0) throw unexpected[0];
      return answer;
    } catch (error) {
      if (error instanceof Left) return error;
      throw new Error(
        `${file} ${name}(${JSON.stringify(args, (_key, value) => (value instanceof FormData ? [...value].slice(0, 40) : value)).slice(0, 600)}): ${(error as Error).stack}`,
      );
    }
  }

  /** A feed of each kind, a list, a tag and a concern: something for every action to be about. */
  async function fillWith(scene: Scene): Promise<void> {
    const { scope } = scene;
    for (const kind of ["webhook", "calendar", "drop-off", "end of day"] as const)
      await withClient(scope, (tx) =>
        addFeed(tx, scope, "Maud", { kind, name: kind, url: "", branchId: null, serviceId: null }, TUESDAY),
      );
    const bytes = new TextEncoder().encode(
      "Name,Email,Date,Service\nJun Pike,jun@post.example,24/11/2026,Unheard of\nNobody,wrong,,\n",
    );
    for (const asks of [false, true]) {
      const id = await receiveList(scope, { source: "file", name: "x.csv", bytes, who: "Maud", requestKey: newId() });
      if (asks) await startImport(scope, id, "Maud", false);
    }
    const [person] = await harness.owner
      .query("select id from people where client_id = $1 limit 1", [scope.clientId])
      .then(({ rows }) => rows);
    const visit = await scene.visit(person.id, { endsAt: TUESDAY - 1000 });
    await withClient(scope, async (tx) => {
      await tx.insert(tags).values({ clientId: scope.clientId, name: "gold" });
      await addRule(tx, scope, "Maud", TUESDAY);
      const words = { purpose: "Thanks", language: "en" as const, words: "Hello {first name|there}." };
      await keepSaved(tx, scope, { name: "Maud", id: "maud" }, { ...words, id: null, isOwn: false }, TUESDAY);
      await openConcern(
        tx,
        scope,
        {
          answerId: null as never,
          personId: person.id,
          visitId: visit.id,
          branchId: visit.branchId,
          rating: 1,
          words: "late",
        },
        TUESDAY,
      );
    }).catch(() => {});
  }

  /** All rows of a client, table by table, but for what counts calls. */
  async function rowsOf(clientId: string): Promise<string> {
    const { rows: tables } = await harness.owner.query(
      "select table_name from information_schema.columns where table_schema = 'public' and column_name = 'client_id' order by 1",
    );
    const found: string[] = [];
    for (const { table_name: table } of tables) {
      const { rows } = await harness.owner.query(
        `select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t where client_id = $1`,
        [clientId],
      );
      found.push(`${table} ${rows[0].sum}`);
    }
    const { rows } = await harness.owner.query("select md5(t::text) as sum from clients t where id = $1", [clientId]);
    return [...found, `clients ${rows[0].sum}`].join("\n");
  }

  const FIELDS =
    "name email phone note doNotAsk externalId language birthDate postalAddress consent prefers zone guardianName guardianReach tags was day time reason address words channel requestKey outcome url kind branchId serviceId teamMemberId about site effect neverAsk retired part for state to file text column order undated sharedAddress asks cell revision days amount unit plan starter purpose seen saved deed agreed ratings recommends sites languages branchIds savedReplyIds afterHours hours mostPerDay isOn isOwn town keepsHolidays closedDates scopes type at rules".split(
      " ",
    );
  const odd = fc.oneof(
    fc.constantFrom(
      "",
      "\u0000",
      "x\u0000y",
      "\ud800",
      "%00",
      "0000-01-01",
      "9999-12-31",
      "1e999",
      "-1",
      "NaN",
      "null",
      "[]",
      "{}",
      "../..",
      "<script>",
      "' or 1=1 --",
      "😀".repeat(50),
      "a".repeat(5000),
      "https://x y",
      "http://\n",
    ),
    fc.string({ maxLength: 30, unit: "binary" }),
    fc.uuid(),
    fc.constantFrom("text", "email", "on", "yes", "finished", "cancelled", "2026-11-24", "14:05", "open", "csv"),
  );
  const form = fc.array(fc.tuple(fc.constantFrom(...FIELDS), odd), { maxLength: 14 }).map((pairs) => {
    const data = new FormData();
    for (const [name, value] of pairs) data.append(name, value);
    return data;
  });
  /** Stands for an identifier of the client's own, which is known once there is one. */
  class Own {
    constructor(readonly which: number) {}
  }

  const argument = fc.oneof(
    { weight: 4, arbitrary: form },
    { weight: 3, arbitrary: odd },
    { weight: 2, arbitrary: fc.uuid() },
    { weight: 3, arbitrary: fc.nat().map((which) => new Own(which)) },
    { weight: 1, arbitrary: fc.constantFrom(null, undefined, 0, -1, 1.5, Number.NaN, 2 ** 53, true) },
    { weight: 1, arbitrary: fc.array(fc.oneof(fc.uuid(), odd), { maxLength: 4 }) },
    {
      weight: 1,
      arbitrary: fc.dictionary(
        fc.constantFrom(
          "ids",
          "all",
          "action",
          "tag",
          "gives",
          "days",
          "reason",
          "sure",
          "personId",
          "channel",
          "requestKey",
          "serviceId",
          "branchId",
          "a",
          "b",
        ),
        fc.oneof(odd, fc.array(fc.uuid(), { maxLength: 3 }), fc.boolean(), fc.integer()),
      ),
    },
  );

  test("whatever they are called with, they answer in words or refuse", async () => {
    expect(actions.length).toBeGreaterThan(45);
    const own: string[] = [];
    for (const table of [
      "people",
      "visits",
      "asks",
      "plans",
      "services",
      "branches",
      "team_members",
      "listings",
      "messages",
      "tags",
      "feeds",
      "intakes",
      "concerns",
      "seen_names",
      "reply_rules",
      "saved_replies",
    ]) {
      const { rows } = await harness.owner.query(`select id from ${table} where client_id = $1 limit 2`, [ours.id]);
      for (const { id } of rows) own.push(id);
    }
    let calls = 0;
    await fc.assert(
      fc.asyncProperty(fc.nat(), fc.array(argument, { maxLength: 5 }), async (which, args) => {
        calls += 1;
        await call(actions[which % actions.length], [
          ours.slug,
          ...args.map((arg) => (arg instanceof Own ? own[arg.which % own.length] : arg)),
        ]);
      }),
      { numRuns: ROUNDS, seed: 20261126 },
    );
    expect(calls).toBe(ROUNDS);
  }, 600_000);

  test("without a form, or with too few words, they answer too", async () => {
    for (const action of actions)
      for (const args of [
        [],
        [ours.slug],
        [ours.slug, newId()],
        [ours.slug, newId(), null],
        [ours.slug, newId(), null, undefined],
        [null, null, null, null, null],
      ])
        await call(action, args);
  });

  test("a client that is not one's own does not exist, for any of them, and nothing of it changes", async () => {
    const before = await rowsOf(theirs.id);
    const answers: string[] = [];
    for (const action of actions) {
      const answer = await call(action, [theirs.slug, newId(), null, new FormData()]);
      if (!(answer instanceof Left && answer.kind === "not found")) answers.push(action.name);
    }
    expect(answers).toEqual([]);
    expect(await rowsOf(theirs.id)).toBe(before);
  });

  /** Actions that no identifier names: they make something new, or set the client's own. */
  const DESCRIBED_BY_FORM = [
    "changeOwner",
    "changeAwayWord",
    "changeTextService",
    "createFeed",
    "createKey",
    "newPlan",
    "addPerson",
    "saveNamedView",
    "changeHours",
    "changeClientRules",
    "savePostalAddress",
    "changeReplyTone",
    "newRule",
    "saveReply",
    "saveTheme",
    "saveView",
    "typeReviewIn",
    // One's own choice, whoever one is.
    "changeTold",
    "lookAgain",
    "previewMany",
    // They mail a link to the client's or the agency's own address.
    "mailSenderLink",
    "mailAgencySenderLink",
    // Whoever has a seat at an agency may have its summary or not: what it is given says which.
    "wantSummary",
  ];

  /** Some rows of each kind: identifiers that actions might be given. */
  async function idsOf(clientId: string, tables: readonly string[], most = 1): Promise<string[]> {
    const ids: string[] = [];
    for (const table of tables) {
      const { rows } = await harness.owner.query(
        `select id from ${table} where client_id = $1 order by id limit ${most}`,
        [clientId],
      );
      ids.push(...rows.map(({ id }) => id));
    }
    return ids;
  }

  /** A form in which every field is filled in; identifiers are this one. */
  function filledForm(id: string): FormData {
    const filled = new FormData();
    for (const [name, value] of Object.entries({
      name: "Name",
      email: "a@post.example",
      reason: "x",
      address: "a@post.example",
      words: "Hello",
      day: "2026-12-01",
      outcome: "finished",
      effect: "none",
      site: "Waypost",
      url: "https://site.example/x",
      branchId: id,
      serviceId: id,
      channel: "email",
      requestKey: newId(),
      state: "paused",
      to: id,
    }))
      filled.append(name, value);
    return filled;
  }

  /** Several actions at a time: each waits for the database most of its time. */
  async function forEachAtOnce<T>(all: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
    const waiting = [...all];
    const lane = async () => {
      for (let one = waiting.shift(); one !== undefined; one = waiting.shift()) await work(one);
    };
    await Promise.all(Array.from({ length: 6 }, lane));
  }

  /** What an action might be given to do something with a row. */
  const argumentsFor = (id: string, other: string): unknown[][] => [
    [ours.slug, id, null, filledForm(id)],
    [ours.slug, id, "email", null, filledForm(id)],
    [ours.slug, null, filledForm(id)],
    [ours.slug, id],
    [ours.slug, id, id],
    [ours.slug, [id, other]],
    [ours.slug, "cancel", [id]],
    [ours.slug, "hold", [id]],
    [ours.slug, [id], newId()],
    [ours.slug, "duplicates", [id, other]],
    [ours.slug, { ids: [id] }, { action: "exclude", reason: "x" }],
  ];

  /** Every second of them in `npm test`, another half for every identifier; all of them in `npm run prove`. */
  const someArguments = (id: string, other: string, turn: number): unknown[][] =>
    argumentsFor(id, other).filter((_, index) => size(index % 2 === turn % 2, true));

  test("identifiers of another client are errors, never successes, and change nothing there", async () => {
    const ids = await idsOf(theirs.id, OF_CLIENTS);
    const before = await rowsOf(theirs.id);
    const successes = new Set<string>();
    await forEachAtOnce(actions, async (action) => {
      for (const id of ids)
        for (const args of someArguments(id, ids[0], ids.indexOf(id))) {
          const answer = (await call(action, args)) as { ok?: boolean } | null | undefined;
          // What a form alone describes (a new service, a setting) may be kept; what an identifier names may not.
          if (answer?.ok === true && !DESCRIBED_BY_FORM.includes(action.name)) successes.add(action.name);
        }
    });
    expect([...successes]).toEqual([]);
    expect(await rowsOf(theirs.id)).toBe(before);
  }, 300_000);

  const OF_CLIENTS = [
    "people",
    "visits",
    "asks",
    "plans",
    "services",
    "branches",
    "team_members",
    "listings",
    "messages",
    "concerns",
  ];

  test("whoever is bound to another branch changes nothing that is not of it, by any action with any identifier", async () => {
    const branch = newId();
    await harness.owner.query(
      "insert into branches (id, client_id, name, zone, address) values ($1, $2, 'Quay', 'Europe/London', '2 Quay')",
      [branch, ours.id],
    );
    bound = [branch];
    const ids = await idsOf(ours.id, OF_CLIENTS, 2);
    // Every row that there was: nothing of the client was at this branch.
    const others = async () => {
      const { rows: tables } = await harness.owner.query(
        "select table_name from information_schema.columns where table_schema = 'public' and column_name = 'client_id' order by 1",
      );
      const found: string[] = [];
      for (const { table_name: table } of tables) {
        const { rows } = await harness.owner.query(`select md5(t::text) as sum from ${table} t where client_id = $1`, [
          ours.id,
        ]);
        found.push(...rows.map(({ sum }) => `${table} ${sum}`));
      }
      return new Set(found);
    };
    const before = await others();
    const successes = new Set<string>();
    for (const action of actions)
      for (const id of ids)
        for (const args of someArguments(id, ids[1], ids.indexOf(id))) {
          const answer = (await call(action, args)) as { ok?: boolean } | null | undefined;
          if (answer?.ok === true && !DESCRIBED_BY_FORM.includes(action.name) && action.file !== AGENCY_PEOPLE)
            successes.add(action.name);
        }
    expect([...successes]).toEqual([]);
    const after = await others();
    expect([...before].filter((row) => !after.has(row)).map((row) => row.split(" ")[0])).toEqual([]);
  }, 600_000);

  /** Actions of an agency are not at a branch: whoever is bound to one has no access to them at all. */
  const AGENCY_PEOPLE = "features/accounts/actions.ts";

  test("at their branch they ask somebody who is known at another, and see just what is theirs", async () => {
    const [{ id: branch }] = (
      await harness.owner.query("select id from branches where client_id = $1 and name = 'Quay'", [ours.id])
    ).rows;
    const elsewhere = await new Scene(harness, ours).addPerson({ email: "known@post.example", phone: null });
    bound = [branch];
    const run = (name: string, ...args: unknown[]) => {
      const action = actions.find((one) => one.name === name);
      if (!action) throw new Error(name);
      return call(action, [ours.slug, ...args]);
    };
    const form = {
      personId: "new",
      name: "Odette Marsh",
      phone: "",
      email: "known@post.example",
      serviceId: ours.serviceId,
      branchId: branch,
      channel: "email",
      requestKey: newId(),
    };
    // Not at the other branch, nor the person before they have been here.
    expect(await run("confirmAsk", { ...form, branchId: ours.branchId })).toMatchObject({ ok: false });
    expect(await run("confirmAsk", { ...form, personId: elsewhere.id })).toMatchObject({ ok: false });
    expect(await run("addPerson", null, filled({ name: "Odette Marsh", email: "known@post.example" }))).toMatchObject({
      ok: false,
      message: expect.stringContaining("belongs to another branch"),
    });
    expect(await run("confirmAsk", form)).toMatchObject({ ok: true, personId: elsewhere.id });
    expect(await run("findToAsk", "known@post")).toEqual([
      expect.objectContaining({ id: elsewhere.id, branchId: branch }),
    ]);
    const { rows } = await harness.owner.query("select branch_id from visits where person_id = $1", [elsewhere.id]);
    expect(rows).toEqual([{ branch_id: branch }]);
    // Somebody new is added to their branch.
    expect(await run("addPerson", null, filled({ name: "Jun Pike", email: "new@post.example" }))).toMatchObject({
      kind: "redirect",
    });
    const { rows: added } = await harness.owner.query(
      "select last_branch_id from people where email = 'new@post.example'",
    );
    expect(added).toEqual([{ last_branch_id: branch }]);
  });

  function filled(fields: Record<string, string>): FormData {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.append(name, value);
    return form;
  }

  test("a request that only views writes nothing, whatever scope an action makes itself, by any action that is tried", async () => {
    const refuse = {
      refused: () => {
        throw new Left("redirect");
      },
    };
    // What the seat says is left out on purpose: the request alone must hold.
    looksOnly = undefined;
    const ids = await idsOf(ours.id, [...OF_CLIENTS, "feeds", "intakes", "tags"]);
    const all = async () => `${await rowsOf(ours.id)}\n${await agencyRows()}`;
    const before = await all();
    let refused = 0;
    await forEachAtOnce(actions, async (action) => {
      for (const args of [
        [ours.slug, null, filledForm(newId())],
        ...ids.flatMap((id, turn) => someArguments(id, ids[0], turn)),
      ]) {
        const answer = await inRequest(() => {
          setViewOnly(refuse);
          return call(action, args);
        });
        if (answer instanceof Left && answer.kind === "redirect") refused += 1;
      }
    });
    expect(await all()).toBe(before);
    // Many of them came as far as to write.
    expect(refused).toBeGreaterThan(60);
  }, 600_000);

  /** All rows of the agency's own tables. */
  async function agencyRows(): Promise<string> {
    const sums: string[] = [];
    for (const table of [
      "agencies",
      "seats",
      "roles",
      "client_groups",
      "invitations",
      "account_entries",
      "agency_words",
      "agency_saved_replies",
      "shared_texts",
      "client_drafts",
      "summary_readers",
      "clients",
      "users",
      "sessions",
    ]) {
      const { rows } = await harness.owner.query(
        `select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t`,
      );
      sums.push(`${table} ${rows[0].sum}`);
    }
    return sums.join("\n");
  }

  test("a place that is not shown is refused by every action that is done there", async () => {
    const { rows } = await harness.owner.query("select id from people where client_id = $1 limit 1", [ours.id]);
    const open: string[] = [];
    let refused = 0;
    for (const place of PLACES) {
      shownPlaces = PLACES.filter((one) => one !== place);
      for (const one of actions) {
        const answer = await call(one, [ours.slug, rows[0].id, null, new FormData()]);
        if (!DONE_IN[place].some((folder) => one.file.startsWith(folder)) || NOT_IN_PLACE.includes(one.name)) continue;
        if (answer instanceof Left && answer.kind === "not found") refused += 1;
        else open.push(`${place}: ${one.file} ${one.name}`);
      }
    }
    expect(open).toEqual([]);
    expect(refused).toBeGreaterThan(60);
  });

  /** Where the actions of a place are, by their folder: said apart from what the actions say of themselves. */
  const DONE_IN: Record<PlacePermission, string[]> = {
    "see today": [],
    "see people": ["features/people-admin/", "features/timeline/", "features/asks/"],
    "see asking": ["features/plan-editor/", "features/standing-links/", "features/words/"],
    "see heard": [
      "features/answers/",
      "features/reviews/",
      "features/review-import/",
      "features/themes/",
      "features/conversations/",
      "features/concerns/",
      "features/own-reviews/",
      "app/c/[client]/heard/",
    ],
  };

  /** Actions of these folders that are done elsewhere: the agency's, and under Set-up. */
  const NOT_IN_PLACE = [
    "changeAgencyPiece",
    "putWordsInForce",
    "saveAgencyReply",
    "dropAgencyReply",
    "changeOwner",
    "changeAbsence",
  ];

  test("whoever has a seat for a group of clients changes nothing that is the whole agency's", async () => {
    group = { id: newId(), name: "Coast" };
    const before = await agencyRows();
    const open: string[] = [];
    for (const one of actions) {
      const declared = declaredBy(one.run);
      if (declared?.at !== "agency") continue;
      for (const args of [
        [ours.slug, null, filledForm(newId())],
        [ours.slug, newId()],
        [ours.slug, newId(), null, filledForm(newId())],
        [ours.slug, "en:first.job/text", "Hello {first name|there}, how was it? {link}"],
      ])
        if (!((await call(one, args)) instanceof Left)) open.push(one.name);
    }
    // These are about clients of the group, or about oneself.
    expect([...new Set(open)].sort()).toEqual(["bringSharedText", "putWordsInForce", "wantSummary"]);
    expect(await agencyRows()).toBe(before);
  });

  test("whoever may only look changes nothing, by any of them", async () => {
    role = "reader";
    const before = await rowsOf(ours.id);
    const { rows } = await harness.owner.query("select id from people where client_id = $1 limit 1", [ours.id]);
    const unasked: string[] = [];
    const answered: string[] = [];
    for (const action of actions) {
      asked.length = 0;
      const answer = await call(action, [ours.slug, rows[0].id, null, new FormData()]);
      // Each asks for a permission before anything else, and a reader has only that of looking.
      if (asked.length === 0) unasked.push(action.name);
      if (!asked.every((action) => may({ permissions: permissionsOf("reader") }, action)) && !(answer instanceof Left))
        answered.push(action.name);
    }
    // Having the agency’s summary by mail needs a seat there, and nothing more.
    expect([unasked, answered]).toEqual([["wantSummary"], []]);
    expect(await rowsOf(ours.id)).toBe(before);
  });

  test("each permission taken from a role that has all of them: whatever asks for it refuses", async () => {
    const { rows } = await harness.owner.query("select id from people where client_id = $1 limit 1", [ours.id]);
    const answered: string[] = [];
    const asking = new Map<Permission, number>();
    for (const permission of PERMISSIONS) {
      without = permission;
      for (const action of actions) {
        asked.length = 0;
        // A first call tells what it asks for; only those that ask for what is missing are of interest.
        const answer = await call(action, [ours.slug, rows[0].id, null, new FormData()]);
        if (!asked.includes(permission)) continue;
        asking.set(permission, (asking.get(permission) ?? 0) + 1);
        if (!(answer instanceof Left)) answered.push(`${permission}: ${action.name}`);
      }
    }
    expect(answered).toEqual([]);
    // Which of many people's changes it is decides what it needs.
    without = "erase people";
    const many = actions.find(({ name }) => name === "changeMany");
    expect(
      many && (await call(many, [ours.slug, { ids: [rows[0].id] }, { action: "erase", sure: "erase" }])),
    ).toBeInstanceOf(Left);
    // Every permission but those of pages and files stands before some action.
    const ofPages: Permission[] = [
      "see today",
      "see people",
      "see asking",
      "see heard",
      "export people",
      "erase people",
      "move the demo clock",
    ];
    expect(PERMISSIONS.filter((permission) => !asking.has(permission) && !ofPages.includes(permission))).toEqual([]);
  }, 600_000);
});
