import { eq, sql } from "drizzle-orm";
import fc from "fast-check";
import type { AuditSubject } from "@/core/audit/actions";
import { auditTrail, recordAudit, recordSignIn, TRAIL_PAGE } from "@/features/audit";
import {
  addFeed,
  type FeedValues,
  findIntake,
  forgetInLongLists,
  loadList,
  receiveList,
  runListTask,
  startImport,
  toCsv,
} from "@/features/intake";
import { erasePeople, exportPeople } from "@/features/people-admin";
import { rowsOf, withClient } from "@/platform/database";
import { describeError, log } from "@/platform/log";
import { newId } from "@/schema/columns";
import { inboundEvents } from "@/schema/feeds";
import { people } from "@/schema/people";
import { sweep } from "@/worker/sweep";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/** What must not be remembered is not, wherever it was written; what must be remembered is, with whose action it was. */
describe("forgetting", () => {
  const HOUR = 3_600_000;
  const DAY = 24 * HOUR;
  let harness: Harness;
  beforeAll(async () => {
    harness = await startHarness("forgetting");
  });
  afterAll(async () => {
    // Whatever came in, was merged or erased: what repeats other rows still agrees with them.
    expect(await derivedFaults(harness.owner)).toEqual({});
    await harness.stop();
  });

  async function scene(): Promise<Scene> {
    const made = new Scene(harness, await harness.addClient());
    await made.moveTo(TUESDAY);
    return made;
  }

  /** Every table that has rows of clients, as text; what is packed is unpacked. */
  async function everythingOf(it: Scene): Promise<string> {
    const { rows: tables } = await harness.owner.query<{ name: string; owned: boolean }>(
      `select c.relname as name, exists (select 1 from information_schema.columns k where k.table_schema = 'public' and k.table_name = c.relname and k.column_name = 'client_id') as owned
     from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname in ('public', 'graphile_worker') and c.relkind in ('r', 'p')`,
    );
    const parts: string[] = [];
    for (const { name, owned } of tables.filter((table) => table.owned)) {
      const { rows } = await harness.owner.query(
        `select to_jsonb(t)${name === "intakes" ? " - 'content'" : ""} as row from ${name} t where client_id = $1`,
        [it.client.id],
      );
      parts.push(`${owned ? name : ""}: ${JSON.stringify(rows)}`);
    }
    const lists = await withClient(it.scope, (tx) =>
      tx.execute<{ id: string }>(sql`select id from intakes where content is not null`),
    );
    for (const { id } of lists.rows)
      parts.push(JSON.stringify(await withClient(it.scope, (tx) => loadList(tx, it.scope, id))));
    return parts.join("\n");
  }

  /** A webhook feed, as a function that lets it deliver something. */
  async function feedOf(it: Scene) {
    const values: FeedValues = {
      kind: "webhook",
      name: "Diary",
      branchId: it.client.branchId,
      serviceId: null,
      url: "",
    };
    const feed = await withClient(it.scope, (tx) => addFeed(tx, it.scope, "Maud", values, TUESDAY));
    return (body: object) =>
      withClient(it.scope, (tx) =>
        tx
          .insert(inboundEvents)
          .values({ clientId: it.client.id, feedId: feed.id, eventId: newId(), at: TUESDAY, state: "done", body }),
      );
  }

  const bytesOf = (rows: string[][]) => new TextEncoder().encode(toCsv(rows));
  const HEADER = ["Customer", "E-mail", "Mobile", "Room"];
  const bring = (it: Scene, bytes: Uint8Array) =>
    receiveList(it.scope, { source: "file", name: "list.csv", bytes, who: "Maud", requestKey: newId() });
  const erase = (it: Scene, id: string) =>
    withClient(it.scope, (tx) => erasePeople(tx, it.scope, [id], "Maud", TUESDAY));
  const byEmail = async (it: Scene, email: string) =>
    (await withClient(it.scope, (tx) => tx.select().from(people).where(eq(people.email, email))))[0];

  test("somebody erased is in no table of the client's: not in lists kept or waiting, their samples, deliveries or answers kept for repeats", async () => {
    const it = await scene();
    const secrets = {
      name: "Ottoline Quillfeather",
      email: "ottoline@harbourmail.example",
      phone: "07700 900888",
      number: "Q-7781",
    };
    const rows = [
      HEADER,
      ["Jun Abara", "jun@post.example", "07700 900222", "tea"],
      [secrets.name, secrets.email, secrets.phone, "a private remark"],
    ];
    const kept = await bring(it, bytesOf(rows));
    await startImport(it.scope, kept, "Maud", false);
    const waiting = await bring(it, bytesOf([...rows, ["No Address", "", "", "someone else"]]));
    const person = await byEmail(it, secrets.email);
    await it.visit(person.id, { endsAt: TUESDAY - 3 * HOUR });
    await it.advance(TUESDAY);
    const delivered = await feedOf(it);
    await delivered({ customer: { name: secrets.name, mobile: "+44 7700 900 888" } });
    await delivered({ customer: { name: "Jun Abara", mobile: "+44 7700 900 222" } });
    expect(await erase(it, person.id)).toBe(1);
    const everything = await everythingOf(it);
    expect(everything).toContain("jun@post.example");
    for (const secret of [
      secrets.name,
      "Quillfeather",
      "Ottoline",
      secrets.email,
      "7700900888",
      "7700 900888",
      "a private remark",
    ])
      expect(everything.split("\n").filter((table) => table.includes(secret))).toEqual([]);
    // The list that waits still opens, without them.
    expect(await withClient(it.scope, (tx) => findIntake(tx, it.scope, waiting))).toMatchObject({ state: "ready" });
    await startImport(it.scope, waiting, "Maud", false);
    expect(await byEmail(it, secrets.email)).toBeUndefined();
    expect(await everythingOf(it)).not.toContain(secrets.email);
  });

  test("a list that names somebody erased does not even remember having named them, however their address is written", async () => {
    const it = await scene();
    const { person } = await it.finishVisit({
      email: "odette.marsh@harbourmail.example",
      phone: { number: "+447700900777", canText: true, country: "GB" },
      given: "Odette",
      family: "Marshwiggle",
    });
    await erase(it, person.id);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom("ODETTE.MARSH@HARBOURMAIL.EXAMPLE", "Odette.Marsh@HarbourMail.example ", ""),
        fc.constantFrom("07700 900777", "+44 (0)7700 900 777", "0044 7700-900777", ""),
        fc.boolean(),
        async (email, phone, inRemark) => {
          if (!email && !phone) return;
          const cells = inRemark
            ? ["Odette Marshwiggle", "", "", `${email} ${phone}`]
            : ["Odette Marshwiggle", email, phone, "x"];
          const list = await bring(
            it,
            bytesOf([HEADER, ["Jun Abara", "jun@post.example", "07700 900222", "tea"], cells]),
          );
          const found = await withClient(it.scope, (tx) => findIntake(tx, it.scope, list));
          expect(JSON.stringify([found, await withClient(it.scope, (tx) => loadList(tx, it.scope, list))])).not.toMatch(
            /Marshwiggle|odette\.marsh|900.?777/i,
          );
        },
      ),
      { numRuns: size(12, 200) },
    );
  });

  test("an address that was put right by hand brings nobody back either, unless it is somebody else's", async () => {
    const it = await scene();
    const { person } = await it.finishVisit({
      email: "odette@harbourmail.example",
      given: "Odette",
      family: "Marshwiggle",
    });
    const other = await it.addPerson({ email: "shared@post.example" });
    await withClient(it.scope, (tx) =>
      tx
        .update(people)
        .set({ wrongAddresses: ["odette@harbourmial.example", "shared@post.example"] })
        .where(eq(people.id, person.id)),
    );
    await erase(it, person.id);
    const list = await bring(
      it,
      bytesOf([
        HEADER,
        ["Odette Marshwiggle", "odette@harbourmial.example", "", "x"],
        [`${other.given} ${other.family}`, "shared@post.example", "", "x"],
      ]),
    );
    await startImport(it.scope, list, "Maud", false);
    expect(await withClient(it.scope, (tx) => findIntake(tx, it.scope, list))).toMatchObject({
      counts: { refused: 1, new: 0 },
    });
    expect(await everythingOf(it)).not.toMatch(/Marshwiggle|harbourmial/);
  });

  test("a long list is emptied in the worker", async () => {
    const it = await scene();
    const rows = Array.from({ length: 6500 }, (_, index) => [
      `Person ${index}`,
      `person${index}@post.example`,
      "",
      "x",
    ]);
    const list = await bring(it, bytesOf([HEADER, ...rows]));
    await withClient(it.scope, (tx) => tx.execute(sql`update intakes set worked_until = null where id = ${list}`));
    for (const action of ["read", "check"] as const)
      await runListTask({ clientId: it.client.id, intakeId: list, action });
    const person = await it.addPerson({ email: "person42@post.example", phone: null });
    await erase(it, person.id);
    expect(
      (
        await harness.owner.query("select 1 from graphile_worker.jobs where task_identifier = 'forget' and key = $1", [
          `forget ${it.client.id}`,
        ])
      ).rowCount,
    ).toBe(1);
    await forgetInLongLists(it.scope);
    const left = JSON.stringify(await withClient(it.scope, (tx) => loadList(tx, it.scope, list)));
    expect(left).not.toContain("person42@");
    expect(left).toContain("person43@");
  });

  test("contents of lists go after thirty days, what was delivered after ninety, answers kept for repeats after two; what they brought stays", async () => {
    const it = await scene();
    const list = await bring(
      it,
      bytesOf([
        HEADER,
        ["Jun Abara", "jun@post.example", "07700 900222", "a private remark"],
        ["", "nonsense", "", "a private remark"],
      ]),
    );
    await startImport(it.scope, list, "Maud", false);
    const waiting = await bring(it, bytesOf([HEADER, ["Ines Roe", "ines@post.example", "", "a private remark"]]));
    await (await feedOf(it))({ note: "said by a feed" });
    await harness.owner.query(
      "insert into api_keys (id, client_id, name, hash, hint, scopes, made_by, created_at) values ($2, $1, 'k', $3, 'h', '{}', 'Maud', now())",
      [it.client.id, newId(), newId()],
    );
    await harness.owner.query(
      "insert into api_repeats (client_id, key_id, key, at, call, status, body) select client_id, id, 'r1', $2, 'h', 201, '{\"note\": \"said by a program\"}' from api_keys where client_id = $1",
      [it.client.id, new Date(TUESDAY)],
    );
    await sweep(TUESDAY + 2 * DAY - HOUR);
    expect(await everythingOf(it)).toContain("said by a program");
    await sweep(TUESDAY + 2 * DAY + HOUR);
    expect(await everythingOf(it)).not.toContain("said by a program");
    await sweep(TUESDAY + 30 * DAY - HOUR);
    expect(await everythingOf(it)).toContain("a private remark");
    await sweep(TUESDAY + 30 * DAY + HOUR);
    expect(await everythingOf(it)).not.toContain("a private remark");
    expect(await byEmail(it, "jun@post.example")).toMatchObject({ given: "Jun" });
    expect(await withClient(it.scope, (tx) => findIntake(tx, it.scope, waiting))).toMatchObject({
      state: "failed",
      error: { code: "not imported in time", days: 30 },
    });
    expect(await withClient(it.scope, (tx) => findIntake(tx, it.scope, list))).toMatchObject({ state: "imported" });
    await sweep(TUESDAY + 90 * DAY - HOUR);
    expect(await everythingOf(it)).toContain("said by a feed");
    await sweep(TUESDAY + 90 * DAY + HOUR);
    expect(await everythingOf(it)).not.toContain("said by a feed");
  });

  test("nothing that anybody typed comes into the log when a statement fails", async () => {
    const it = await scene();
    const lines: string[] = [];
    const failure = await withClient(it.scope, (tx) =>
      tx.insert(people).values({
        clientId: it.client.id,
        given: "Ottoline",
        family: "Quillfeather",
        email: "secret@post.example",
        householdId: newId(),
        source: "hand",
        createdAt: TUESDAY,
      }),
    ).catch((error) => error);
    expect(failure).toBeInstanceOf(Error);
    lines.push(
      JSON.stringify(describeError(failure)),
      String(failure),
      String(failure.stack),
      JSON.stringify(failure),
      JSON.stringify(log.bindings()),
    );
    const outer = await rowsOf(sql`select ${"secret@post.example"}::int`).catch((error) => error);
    lines.push(JSON.stringify(describeError(outer)), String(outer), String(outer.stack));
    for (const line of lines) expect(line).not.toMatch(/secret@|Quillfeather|Ottoline/);
    expect(describeError(failure)).toMatchObject({ error: "StatementFailed", code: expect.stringMatching(/^23/) });
  });

  describe("the trail", () => {
    test("tells sign-ins at every client of a seat under the name that person goes by now, whoever they say they are", async () => {
      const it = await scene();
      const id = newId();
      await harness.owner.query("insert into users (id, name, email) values ($1, 'Ronan Slate', $2)", [
        id,
        `${id}@agency.example`,
      ]);
      await harness.owner.query(
        "insert into seats (id, user_id, agency_id, role) select $1, $2, agency_id, 'agency' from clients where id = $3",
        [newId(), id, it.client.id],
      );
      await recordSignIn(id, TUESDAY);
      await withClient({ ...it.scope, user: { id } }, (tx) =>
        recordAudit(tx, {
          clientId: it.client.id,
          at: TUESDAY + 1,
          who: "Maud Pell",
          action: "changed",
          subject: "send hours",
        }),
      );
      await harness.owner.query("update users set name = 'Ronan S. Slate' where id = $1", [id]);
      const entries = await withClient(it.scope, (tx) => auditTrail(tx, it.scope, null, null));
      expect(entries.map(({ who, action }) => `${who} ${action}`)).toEqual([
        "Ronan S. Slate changed",
        "Ronan S. Slate signed in",
      ]);
      expect(await withClient(it.scope, (tx) => auditTrail(tx, it.scope, "sign-ins", null))).toHaveLength(1);
      const [other] = [await scene()];
      expect(await withClient(other.scope, (tx) => auditTrail(tx, other.scope, null, null))).toEqual([]);
    });

    test("names what an action was about, of whatever kind, and keeps the name of what is gone", async () => {
      const it = await scene();
      const { person, visit } = await it.finishVisit({ given: "Odette", family: "Marsh" });
      const ask = await it.askOf(person.id);
      const listing = (
        await harness.owner.query<{ id: string }>("select id from listings where client_id = $1", [it.client.id])
      ).rows[0].id;
      const list = await bring(it, bytesOf([HEADER, ["Jun Abara", "jun@post.example", "", "x"]]));
      const about: [AuditSubject, string, unknown, string | null][] = [
        ["person", person.id, null, "Odette Marsh"],
        ["visit", visit.id, null, "Odette Marsh"],
        ["ask", ask.id, null, "Odette Marsh"],
        ["plan", it.client.planId, { version: 2 }, "After a visit"],
        ["service", it.client.serviceId, ["name"], "Check-up"],
        ["review page", listing, "odd", "Waypost"],
        ["list", list, 7, "list.csv"],
        ["tag", newId(), { name: "gone tag" }, "gone tag"],
        ["concern", newId(), { name: 3 }, null],
      ];
      await withClient(it.scope, async (tx) => {
        for (const [n, [subject, subjectId, details]] of about.entries())
          await recordAudit(tx, {
            clientId: it.client.id,
            at: TUESDAY + HOUR - n,
            who: "Maud",
            action: "changed",
            subject,
            subjectId,
            details,
          });
      });
      const entries = await withClient(it.scope, (tx) => auditTrail(tx, it.scope, null, null));
      expect(entries.slice(0, about.length).map(({ subject, name }) => [subject, name])).toEqual(
        about.map(([subject, , , name]) => [subject, name]),
      );
      // Another client's identifiers name nothing.
      const other = await scene();
      await withClient(other.scope, (tx) =>
        recordAudit(tx, {
          clientId: other.client.id,
          at: TUESDAY,
          who: "Maud",
          action: "changed",
          subject: "person",
          subjectId: person.id,
        }),
      );
      expect((await withClient(other.scope, (tx) => auditTrail(tx, other.scope, null, null)))[0].name).toBeNull();
    });

    test("is read page by page, every entry once, also where many are of one moment", async () => {
      const it = await scene();
      for (let n = 0; n < 130; n++)
        await withClient(it.scope, (tx) =>
          recordAudit(tx, {
            clientId: it.client.id,
            at: TUESDAY - Math.floor(n / 40) * HOUR,
            who: "Maud",
            action: "changed",
            subject: "send hours",
            details: { n },
          }),
        );
      const seen: string[] = [];
      let before: { at: number; id: string } | null = null;
      for (;;) {
        const page = await withClient(it.scope, (tx) => auditTrail(tx, it.scope, null, before));
        seen.push(...page.slice(0, TRAIL_PAGE).map(({ details }) => String((details as { n: number }).n)));
        if (page.length <= TRAIL_PAGE) break;
        before = page[TRAIL_PAGE - 1];
      }
      expect(new Set(seen).size).toBe(130);
      expect(seen).toHaveLength(130);
    });
  });

  test("days in a file are the client's days", async () => {
    const it = new Scene(harness, await harness.addClient({ zone: "Pacific/Auckland" }));
    const person = await it.addPerson();
    // Half past ten in the evening in Greenwich is the next morning in Auckland.
    const at = Date.UTC(2026, 10, 24, 22, 30);
    await it.visit(person.id, { endsAt: at });
    // What is booked for later is no last visit.
    await it.visit(person.id, { endsAt: at + 5 * DAY, outcome: "booked" });
    const day = async (zone: string) =>
      String((await withClient(it.scope, (tx) => exportPeople(tx, [person.id], "csv", zone, at + DAY))).body).match(
        /2026-11-\d\d/,
      )?.[0];
    expect(await day("Pacific/Auckland")).toBe("2026-11-25");
    expect(await day("Europe/London")).toBe("2026-11-24");
  });
});
