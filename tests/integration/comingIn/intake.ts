import { eq } from "drizzle-orm";
import fc from "fast-check";
import { loadSetting } from "@/features/clients";
import {
  assignName,
  findIntake,
  importRows,
  openNames,
  parseIntake,
  receiveList,
  retryRow,
  rowsOfIntake,
  startImport,
  toCsv,
  Unreadable,
  undoImport,
} from "@/features/intake";
import { exportPeople } from "@/features/people-admin";
import { withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { intakes } from "@/schema/intake";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/** A list from its bytes to people, visits and asks, and back again. */
describe("intake", () => {
  let harness: Harness;
  beforeAll(async () => {
    harness = await startHarness("intake");
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

  const list = (rows: string[][]) => new TextEncoder().encode(toCsv(rows));
  const HEADER = ["Customer", "E-mail", "Mobile", "Visit date", "Finished", "Treatment", "Vet", "Pet"];
  let phone = 200;
  const row = (
    name: string,
    change: Partial<Record<"email" | "mobile" | "date" | "time" | "service" | "vet" | "pet", string>> = {},
  ) => {
    const n = phone++;
    const it = {
      email: `${name.split(" ")[0].toLowerCase()}${n}@post.example`,
      mobile: `07700 900${n}`,
      date: "24/11/2026",
      time: "11:30",
      service: "Check-up",
      vet: "Dr Hale",
      pet: "Biscuit",
      ...change,
    };
    return [name, it.email, it.mobile, it.date, it.time, it.service, it.vet, it.pet];
  };

  async function bring(it: Scene, rows: string[][], header = HEADER): Promise<string> {
    return receiveList(it.scope, {
      source: "file",
      name: "visits.csv",
      bytes: list([header, ...rows]),
      who: "Maud",
      requestKey: newId(),
    });
  }
  const find = (it: Scene, id: string) => withClient(it.scope, (tx) => findIntake(tx, it.scope, id));
  const all = (it: Scene) =>
    withClient(it.scope, async (tx) => ({
      people: await tx.select().from(people).orderBy(people.createdAt, people.id),
      visits: await tx.select().from(visits),
      asks: await tx.select().from(asks),
    }));

  test("a list is read and looked at before anything is kept; keeping it does what was foretold", async () => {
    const it = await scene();
    const known = await it.addPerson({ given: "Ines", family: "Pike", email: "ines@post.example", phone: null });
    const id = await bring(it, [
      row("Odette Marsh"),
      row("Jun Albrecht", { service: "End-of-life care" }),
      row("Ines Pike", { email: "ines@post.example" }),
      row("Kofi Vance", { date: "30/11/2026" }),
      row("Nobody", { email: "", mobile: "12" }),
      row("Rhona Crane", { date: "31/02/2026" }),
      row("Felix Thorne", { service: "Dental polish" }),
    ]);
    const seen = await find(it, id);
    expect(seen).toMatchObject({ state: "ready", total: 7, choice: { order: "day first" } });
    expect(seen?.choice?.matching).toEqual([
      "full name",
      "email",
      "phone",
      "visit date",
      "visit time",
      "service",
      "team member",
      "about",
    ]);
    expect(seen?.forecast).toMatchObject({
      asked: 2,
      leftOut: { "service never asked about": 1 },
      counts: { rows: 7, new: 4, changed: 1, unchanged: 0, refused: 2, visits: 5 },
    });
    expect(seen?.forecast?.unknownNames).toEqual([{ kind: "service", name: "Dental polish", count: 1 }]);
    expect((await all(it)).people).toHaveLength(1);

    expect(await startImport(it.scope, id, "Maud", true)).toBe(true);
    expect(await startImport(it.scope, id, "Maud", true)).toBe(false);
    const kept = await find(it, id);
    expect(kept).toMatchObject({ state: "imported", done: 7, counts: seen?.forecast?.counts });
    await it.advance(TUESDAY);
    const after = await all(it);
    expect(after.people).toHaveLength(5);
    expect(after.people.find((one) => one.id === known.id)).toMatchObject({ phone: "+447700900202" });
    expect(after.visits).toHaveLength(5);
    expect(after.asks).toHaveLength(2);
    expect(after.visits.find(({ words }) => words?.service)).toMatchObject({ examineAt: null, decision: null });
  });

  test.each(["csv", "xlsx", "vcf"] as const)(
    "people exported as %s and imported again change nothing, and nobody is asked",
    async (format) => {
      const it = await scene();
      const first = await bring(it, [
        row("Odette Marsh"),
        row("Jun Albrecht", { date: "20/11/2026", time: "" }),
        row("Ines Pike", { email: "", pet: "" }),
        // Of today, and no hour: by the time it comes again, today has gone on.
        row("Kofi Vance", { time: "", pet: "" }),
        row("Rhona Crane", { date: "30/11/2026" }),
      ]);
      await startImport(it.scope, first, "Maud", false);
      const tagged = await it.addPerson({ given: "Łucja", family: "van der Żak", email: "lucja@post.example" });
      await harness.owner.query("update people set note = $2, language = 'pl', external_id = 'C-17' where id = $1", [
        tagged.id,
        'Likes "tea", and two lines\nof notes',
      ]);
      await it.moveTo(TUESDAY + 3 * 3_600_000);
      const before = await all(it);
      const { body } = await withClient(it.scope, (tx) =>
        exportPeople(
          tx,
          before.people.map(({ id }) => id),
          format,
          "Europe/London",
          TUESDAY + 3 * 3_600_000,
        ),
      );
      const again = await receiveList(it.scope, {
        source: "file",
        name: `people.${format}`,
        bytes: typeof body === "string" ? new TextEncoder().encode(body) : body,
        who: "Maud",
        requestKey: newId(),
      });
      const seen = await find(it, again);
      expect(seen?.state).toBe("ready");
      expect(seen?.forecast?.counts).toMatchObject({
        rows: before.people.length,
        new: 0,
        changed: 0,
        refused: 0,
        visits: 0,
      });
      expect(seen?.forecast?.asked).toBe(0);
      await startImport(it.scope, again, "Maud", true);
      const after = await all(it);
      expect(after.people.map(({ note, tags, given, email }) => [note, tags, given, email])).toEqual(
        before.people.map(({ note, tags, given, email }) => [note, tags, given, email]),
      );
      expect(after.visits.map(({ id, endsAt, serviceId, outcome }) => [id, endsAt, serviceId, outcome]).sort()).toEqual(
        before.visits.map(({ id, endsAt, serviceId, outcome }) => [id, endsAt, serviceId, outcome]).sort(),
      );
      expect(after.asks).toHaveLength(before.asks.length);
    },
  );

  test("an unknown service is assigned once: what waits is looked at, and the next list knows it", async () => {
    const it = await scene();
    const id = await bring(it, [
      row("Odette Marsh", { service: "Dental polish" }),
      row("Jun Albrecht", { service: "dental  POLISH" }),
    ]);
    await startImport(it.scope, id, "Maud", true);
    const [open] = await withClient(it.scope, (tx) => openNames(tx, it.scope));
    expect(open).toMatchObject({ kind: "service", name: "Dental polish", times: 2 });
    await it.advance(TUESDAY);
    expect((await all(it)).asks).toHaveLength(0);
    const assign = (to: { id: string } | "new" | "nothing") =>
      withClient(it.scope, async (tx) => assignName(tx, it.scope, await loadSetting(tx), "Maud", open.id, to, TUESDAY));
    expect(await assign({ id: newId() })).toBeNull();
    expect(await assign({ id: it.client.serviceId })).toBe(2);
    await it.advance(TUESDAY);
    expect((await all(it)).asks).toHaveLength(2);
    const again = await bring(it, [row("Ines Pike", { service: "DENTAL POLISH" })]);
    expect((await find(it, again))?.forecast).toMatchObject({ unknownNames: [], asked: 1 });
  });

  test("the reading chosen for a shape is remembered for the next list of that shape", async () => {
    const it = await scene();
    const ambiguous = (name: string) => row(name, { date: "05/11/2026" });
    const id = await bring(it, [ambiguous("Odette Marsh")]);
    expect(await find(it, id)).toMatchObject({ state: "ready", choice: { order: null }, forecast: null });
    expect(await startImport(it.scope, id, "Maud", true)).toBe(false);
    const { chooseReading } = await import("@/features/intake");
    const choice = (await find(it, id))?.choice;
    if (!choice) throw new Error("no choice");
    const chosen = await chooseReading(it.scope, id, {
      ...choice,
      order: "day first",
      sharedAddress: "another person",
    });
    expect(chosen?.forecast?.leftOut).toEqual({ "too late": 1 });
    await startImport(it.scope, id, "Maud", false);
    expect((await find(it, await bring(it, [ambiguous("Jun Albrecht")])))?.choice).toMatchObject({
      order: "day first",
      sharedAddress: "another person",
    });
    expect(await chooseReading(it.scope, id, choice)).toBeNull();
  });

  test("people only: visits are kept, and no plan looks at them", async () => {
    const it = await scene();
    await startImport(it.scope, await bring(it, [row("Odette Marsh")]), "Maud", false);
    await it.advance(TUESDAY);
    const after = await all(it);
    expect(after.visits).toMatchObject([{ decision: null, examineAt: null }]);
    expect(after.asks).toEqual([]);
  });

  test("a refused row says why, is mended in place, and counts once", async () => {
    const it = await scene();
    const id = await bring(it, [row("Odette Marsh"), row("Jun Albrecht", { email: "jun at post", mobile: "" })]);
    await startImport(it.scope, id, "Maud", true);
    const [refused] = await withClient(it.scope, (tx) => rowsOfIntake(tx, it.scope, id, "refused"));
    expect(refused).toMatchObject({
      row: 2,
      problems: [{ code: "not an email", field: "email", text: "jun at post" }],
    });
    const mend = (email: string) =>
      withClient(it.scope, (tx) =>
        retryRow(tx, it.scope, id, 2, Object.assign([...(refused.cells ?? [])], { 1: email })),
      );
    expect(await mend("still wrong")).toMatchObject({ problems: [{ field: "email" }] });
    expect(await mend("jun@post.example")).toMatchObject({ taken: { kind: "new" } });
    expect(await mend("jun@post.example")).toBeNull();
    expect((await find(it, id))?.counts).toMatchObject({ rows: 2, new: 2, refused: 0, visits: 2 });
  });

  test("a whole list is undone while nothing was sent: people, visits and asks go, what it changed is as it was", async () => {
    const it = await scene();
    const known = await it.addPerson({ given: "Ines", family: "Pike", email: "ines@post.example", phone: null });
    const id = await bring(it, [
      row("Odette Marsh"),
      row("Ines Pike", { email: "ines@post.example", mobile: "07700 900555" }),
    ]);
    await startImport(it.scope, id, "Maud", true);
    await it.advance(TUESDAY - 2 * 3_600_000);
    const undone = await withClient(it.scope, (tx) => undoImport(tx, it.scope, id, "Maud"));
    expect(undone).toEqual({ undone: true, people: 1, visits: 2 });
    const after = await all(it);
    expect(after).toMatchObject({ people: [{ id: known.id, phone: null, lastVisitAt: null }], visits: [], asks: [] });
    expect(await withClient(it.scope, (tx) => undoImport(tx, it.scope, id, "Maud"))).toBeNull();
  });

  test("a list of which something was sent is not undone, and what was sent is told", async () => {
    const it = await scene();
    const id = await bring(it, [row("Odette Marsh")]);
    await startImport(it.scope, id, "Maud", true);
    await it.advance(TUESDAY);
    // A list is spread over what is left of the day's send hours.
    await it.advance(TUESDAY + 4.8 * 3_600_000);
    await it.advance(TUESDAY + 20 * 3_600_000);
    expect(await withClient(it.scope, (tx) => undoImport(tx, it.scope, id, "Maud"))).toMatchObject({
      undone: false,
      sent: [{ name: "Odette Marsh" }],
    });
    expect((await all(it)).people).toHaveLength(1);
  });

  test("a large list goes on where a killed worker left it, and two workers keep nothing twice", async () => {
    const it = await scene();
    const rows = Array.from({ length: 6000 }, (_, index) => [
      `Given${index} Family${index}`,
      `person${index}@post.example`,
      "",
      "24/11/2026",
      "11:30",
      "Check-up",
      "",
      "",
    ]);
    const id = await bring(it, rows);
    await parseIntake(it.scope, id);
    expect(await find(it, id)).toMatchObject({
      state: "ready",
      forecast: { counts: { rows: 6000, new: 6000, visits: 6000 } },
    });
    await startImport(it.scope, id, "Maud", false);
    await Promise.all([importRows(it.scope, id), importRows(it.scope, id)]);
    await withClient(it.scope, (tx) => tx.update(intakes).set({ state: "importing" }).where(eq(intakes.id, id)));
    await importRows(it.scope, id);
    expect((await all(it)).people).toHaveLength(6000);
    expect((await all(it)).visits).toHaveLength(6000);
  });

  test("the same file twice adds nothing, and the same upload twice is one", async () => {
    const it = await scene();
    const rows = [row("Odette Marsh"), row("Jun Albrecht")];
    await startImport(it.scope, await bring(it, rows), "Maud", true);
    const again = await bring(it, rows);
    await startImport(it.scope, again, "Maud", true);
    expect((await find(it, again))?.counts).toMatchObject({ rows: 2, unchanged: 2, new: 0, changed: 0, visits: 0 });
    const requestKey = newId();
    const twice = await Promise.all(
      [0, 1].map(() =>
        receiveList(it.scope, {
          source: "file",
          name: "x.csv",
          bytes: list([HEADER, row("Ines Pike")]),
          who: "Maud",
          requestKey,
        }),
      ),
    );
    expect(new Set(twice).size).toBe(1);
  });

  test("what cannot be read says so and keeps nothing", async () => {
    const it = await scene();
    const id = await receiveList(it.scope, {
      source: "file",
      name: "x.pdf",
      bytes: new TextEncoder().encode("%PDF-1.4"),
      who: "Maud",
      requestKey: newId(),
    });
    expect(await find(it, id)).toMatchObject({ state: "failed", error: { code: "PDF" } });
    await expect(
      receiveList(it.scope, {
        source: "file",
        name: "x",
        bytes: new Uint8Array(26 * 1024 * 1024),
        who: "Maud",
        requestKey: newId(),
      }),
    ).rejects.toThrow(Unreadable);
  });

  test("rows in = new + changed + unchanged + refused, whatever the rows, and looking ahead counts as keeping does", async () => {
    const it = await scene();
    const cell = fc.record({
      name: fc.constantFrom("Odette Marsh", "MARSH, ODETTE", "Jun Albrecht", "Jun", ""),
      email: fc.constantFrom("odette@post.example", "jun@post.example", "jun@gmial", "", "x; y@post.example"),
      mobile: fc.constantFrom("07700 900800", "07700 900801", "12", "", "447700900802.0"),
      date: fc.constantFrom("24/11/2026", "13/13/2026", "", "2026-11-23"),
      service: fc.constantFrom("Check-up", "Dental polish", ""),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(cell, { minLength: 1, maxLength: 8 }), async (rows) => {
        const filled = rows.filter(
          ({ name, email, mobile, date, service }) => name || email || mobile || date || service,
        );
        if (filled.length === 0) return;
        const id = await bring(
          it,
          rows.map(({ name, ...rest }) => row(name || "", { ...rest, time: "", vet: "", pet: "" })),
        );
        const ready = await find(it, id);
        if (ready?.state === "failed") return;
        await startImport(it.scope, id, "Maud", false);
        const counts = (await find(it, id))?.counts;
        if (!counts) throw new Error("not kept");
        expect(counts.new + counts.changed + counts.unchanged + counts.refused).toBe(counts.rows);
        expect(counts.rows).toBe(filled.length);
        expect(counts).toEqual(ready?.forecast?.counts);
      }),
      { numRuns: size(60, 1800), seed: 27 },
    );
  });
});
