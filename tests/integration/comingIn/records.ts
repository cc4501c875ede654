import { eq } from "drizzle-orm";
import ExcelJS from "exceljs";
import { starterRules } from "@/core/plans/starters";
import { askMany, decideVisits, foretellMany } from "@/features/asks";
import { dropTag, keepTag, loadSetting } from "@/features/clients";
import { findIntake, receiveList, rowsOfIntake, startImport } from "@/features/intake";
import {
  findAddressee,
  findMet,
  findPerson,
  listPeople,
  listViews,
  NOBODY,
  type Person,
  savePerson,
  saveView,
  searchPeople,
  upsertPeople,
} from "@/features/people";
import {
  correctAddress,
  dismissMatch,
  erasePeople,
  excludeMany,
  exportPeople,
  exportPerson,
  type FORMATS,
  findDuplicates,
  findHouseholds,
  findInvalidAddresses,
  leaveHousehold,
  mergePeople,
  restMany,
  tagMany,
  undoMerge,
} from "@/features/people-admin";
import { findPlan, installPlan, listVersions } from "@/features/plans";
import { recordVisit } from "@/features/visits";
import { withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { tags } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";
import { erasures, people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** The records of people: mended, made one and two again, put into households, taken out, erased. */
describe("records", () => {
  const HOUR = 3_600_000;
  const DAY = 24 * HOUR;
  let harness: Harness;
  beforeAll(async () => {
    harness = await startHarness("records");
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
  const inside = <T>(it: Scene, work: Parameters<typeof withClient<T>>[1]) => withClient(it.scope, work);
  const find = async (it: Scene, id: string): Promise<Person> =>
    (await inside(it, (tx) => findPerson(tx, it.scope, id))) ?? { ...NOBODY };
  const visitsOf = (it: Scene, id: string) =>
    inside(it, (tx) => tx.select().from(visits).where(eq(visits.personId, id)));

  describe("merging", () => {
    test("both histories are kept under one record, what one lacks comes from the other, and a list that names either finds it", async () => {
      const it = await scene();
      const a = await it.finishVisit({ given: "Odette", family: "Marsh", phone: null });
      const b = await it.finishVisit({
        given: "Odette",
        family: "Marsh",
        email: "o.marsh@harbourmail.example",
        note: "likes tea",
      });
      await inside(it, (tx) => tx.update(people).set({ textOptedOutAt: TUESDAY }).where(eq(people.id, b.person.id)));
      await inside(it, (tx) => mergePeople(tx, it.scope, a.person.id, b.person.id, "Maud", TUESDAY));
      const kept = await find(it, a.person.id);
      expect(kept).toMatchObject({
        email: a.person.email,
        phone: b.person.phone,
        note: "likes tea",
        textOptedOutAt: TUESDAY,
      });
      expect(await visitsOf(it, a.person.id)).toHaveLength(2);
      expect(await find(it, b.person.id)).toMatchObject({ mergedInto: a.person.id });
      const open = await inside(it, (tx) => tx.select().from(asks).where(eq(asks.personId, a.person.id)));
      expect(open.filter(({ stop, ended }) => !stop && !ended)).toHaveLength(1);
      const [known] = await inside(it, (tx) =>
        upsertPeople(
          tx,
          it.scope,
          [
            {
              ...NOBODY,
              given: "Odette",
              family: "Marsh",
              email: "o.marsh@harbourmail.example",
              phone: null,
              guardian: null,
              consent: null,
              tags: [],
            },
          ],
          TUESDAY,
          { source: "x", sharedAddress: "same person", replaces: false },
        ),
      );
      expect(known.person?.id).toBe(a.person.id);
      expect(
        await inside(it, (tx) => listPeople(tx, {}, null, { now: TUESDAY, zone: "UTC", restDays: 0 })),
      ).toHaveLength(1);
    });

    test("is undone whole: each has its own again, and what happened since stays with the one that was kept", async () => {
      const it = await scene();
      const [a, b] = [
        await it.finishVisit({ given: "Odette", family: "Marsh", phone: null }),
        await it.finishVisit({ given: "O", family: "Marsh", email: null }),
      ];
      const before = [await find(it, a.person.id), await find(it, b.person.id)];
      const merge = await inside(it, (tx) => mergePeople(tx, it.scope, a.person.id, b.person.id, "Maud", TUESDAY));
      await it.visit(a.person.id, { endsAt: TUESDAY - HOUR });
      expect(await inside(it, (tx) => undoMerge(tx, it.scope, merge?.id ?? "", "Maud", TUESDAY + 1))).toBe(true);
      expect(await inside(it, (tx) => undoMerge(tx, it.scope, merge?.id ?? "", "Maud", TUESDAY + 1))).toBe(false);
      const after = [await find(it, a.person.id), await find(it, b.person.id)];
      for (const [index, person] of after.entries())
        expect({ ...person, lastVisitAt: 0 }).toEqual({ ...before[index], lastVisitAt: 0 });
      expect([(await visitsOf(it, a.person.id)).length, (await visitsOf(it, b.person.id)).length]).toEqual([2, 1]);
    });

    test("whoever opted out while they were one has opted out as both", async () => {
      const it = await scene();
      const [a, b] = [await it.addPerson({ family: "Same" }), await it.addPerson({ family: "Same" })];
      const merge = await inside(it, (tx) => mergePeople(tx, it.scope, a.id, b.id, "Maud", TUESDAY));
      await inside(it, (tx) =>
        tx
          .update(people)
          .set({ emailOptedOutAt: TUESDAY + HOUR })
          .where(eq(people.id, a.id)),
      );
      await inside(it, (tx) => undoMerge(tx, it.scope, merge?.id ?? "", "Maud", TUESDAY + 2 * HOUR));
      expect(await find(it, b.id)).toMatchObject({ emailOptedOutAt: TUESDAY + HOUR });
    });

    test("oneself, a stranger's record or one that is gone is not merged", async () => {
      const [it, other] = [await scene(), await scene()];
      const [a, theirs] = [await it.addPerson(), await other.addPerson()];
      for (const id of [a.id, theirs.id, newId()])
        expect(await inside(it, (tx) => mergePeople(tx, it.scope, a.id, id, "Maud", TUESDAY))).toBeNull();
    });

    test("likely pairs are offered until somebody says that they are two", async () => {
      const it = await scene();
      const a = await it.addPerson({
        given: "Odette",
        family: "Marsh",
        email: null,
        phone: { number: "+447700900123", canText: true, country: "GB" },
      });
      const b = await it.addPerson({
        given: "Odette",
        family: "Marsh",
        email: null,
        phone: { number: "+447700900132", canText: true, country: "GB" },
      });
      const offered = async () => (await inside(it, (tx) => findDuplicates(tx, it.scope))).pairs.length;
      expect(await offered()).toBe(1);
      await inside(it, (tx) => dismissMatch(tx, it.scope, "duplicates", [b.id, a.id], "Maud", TUESDAY));
      expect(await offered()).toBe(0);
    });
  });

  describe("households and minors", () => {
    test("two people of one phone are both kept, by a list, a feed and the desk: nobody disappears, and the right one is named", async () => {
      const it = await scene();
      const phone = { number: "+447700900477", canText: true, country: "GB" };
      const values = (given: string, family: string) => ({
        given,
        family,
        email: null,
        phone,
        note: "",
        doNotAsk: null,
      });
      const odette = await inside(it, (tx) => savePerson(tx, it.scope, values("Odette", "Marsh"), TUESDAY));
      // At the desk, and on a standing link.
      expect(await inside(it, (tx) => findMet(tx, it.scope, values("Jun", "Marsh"), TUESDAY))).toBeNull();
      const jun = await inside(it, (tx) => savePerson(tx, it.scope, values("Jun", "Marsh"), TUESDAY));
      expect([jun.isNew, jun.person.given]).toEqual([true, "Jun"]);
      // Twins of one list, and one of them in a later one.
      const add = (names: [string, string][], source: string) =>
        inside(it, (tx) =>
          upsertPeople(
            tx,
            it.scope,
            names.map(([given, family]) => ({
              ...NOBODY,
              given,
              family,
              phone,
              guardian: null,
              consent: null,
              tags: [],
            })),
            TUESDAY,
            { source, sharedAddress: "another person", replaces: false },
          ),
        );
      const twins = await add(
        [
          ["Mia", "Marsh"],
          ["Pia", "Marsh"],
          ["Lena", "Marsh"],
          ["Lina", "Marsh"],
        ],
        "a list",
      );
      expect(twins.map(({ kind }) => kind)).toEqual(["new", "new", "new", "new"]);
      expect(twins.at(-1)?.kind !== "refused" && twins.at(-1)).toMatchObject({ doubt: { code: "may be the same" } });
      const again = await add(
        [
          ["mia", "Marsh"],
          ["O.", "Marsh"],
          ["", ""],
        ],
        "a feed",
      );
      expect(again.map(({ kind, person }) => [kind, person?.given])).toEqual([
        ["unchanged", "Mia"],
        ["unchanged", "Odette"],
        ["unchanged", "Odette"],
      ]);
      // All of one household: its rules hold.
      const { rows } = await harness.owner.query(
        "select given, household_id from people where client_id = $1 and phone = $2 order by given",
        [it.client.id, phone.number],
      );
      expect(rows.map(({ given }) => given)).toEqual(["Jun", "Lena", "Lina", "Mia", "Odette", "Pia"]);
      expect(new Set(rows.map(({ household_id }) => household_id)).size).toBe(1);
      expect(rows[0].household_id).not.toBeNull();
      // The desk still finds whom it means.
      expect((await inside(it, (tx) => findMet(tx, it.scope, values("Odette", "Marsh"), TUESDAY)))?.id).toBe(
        odette.person.id,
      );
      expect((await inside(it, (tx) => searchPeople(tx, "Marsh, Odette"))).map(({ id }) => id)).toEqual([
        odette.person.id,
      ]);
    });

    test("for one day a household is asked once, and the other's trace says so", async () => {
      const it = await scene();
      const shared = { number: "+447700900456", canText: true, country: "GB" };
      const [a, b] = await inside(it, async (tx) => {
        const kept = await upsertPeople(
          tx,
          it.scope,
          ["Odette", "Jun"].map((given) => ({
            ...NOBODY,
            given,
            family: "Marsh",
            email: `${given}@post.example`.toLowerCase(),
            phone: shared,
            guardian: null,
            consent: null,
            tags: [],
          })),
          TUESDAY,
          { source: "x", sharedAddress: "another person", replaces: false },
        );
        return kept.map(({ person }) => person as Person);
      });
      // Whoever shares a phone is of one household, without anyone having to say so.
      expect([a.householdId, a.householdId === b.householdId]).toEqual([expect.any(String), true]);
      expect(await inside(it, (tx) => findHouseholds(tx, it.scope))).toEqual([]);
      await it.visit(a.id);
      const second = await it.visit(b.id);
      const [looked] = await inside(it, (tx) => tx.select().from(visits).where(eq(visits.id, second.id)));
      const ask = await it.askOf(a.id);
      expect(looked).toMatchObject({ decision: "asked", askId: ask.id });
      expect(looked.trace).toContainEqual({
        rule: "household asked",
        objects: false,
        finding: { code: "asked together", name: "Odette Marsh" },
      });
      await it.advance(TUESDAY + 2 * HOUR);
      expect((await it.messagesOf(a.id))[0].body).toContain("Biscuit");
      // Once it has left, it takes nobody in any more.
      const third = await it.visit(b.id, { endsAt: TUESDAY + HOUR }, TUESDAY + 2 * HOUR);
      const [late] = await inside(it, (tx) => tx.select().from(visits).where(eq(visits.id, third.id)));
      expect(late).toMatchObject({ decision: "left out", reason: "household asked" });
      expect(late.trace?.at(-1)?.finding).toEqual({ code: "household asked", name: "Odette Marsh" });
      await inside(it, (tx) => leaveHousehold(tx, it.scope, a.id, "Maud", TUESDAY));
      expect(await find(it, b.id)).toMatchObject({ householdId: null });
    });

    test("nothing is sent to a minor without a guardian; with one, the guardian is greeted and reads of the minor", async () => {
      const it = await scene();
      const arlo = await it.finishVisit({ given: "Arlo", family: "Underhill", birthDate: "2010-01-31" } as never);
      expect((await inside(it, (tx) => tx.select().from(visits).where(eq(visits.id, arlo.visit.id))))[0]).toMatchObject(
        {
          decision: "left out",
          reason: "minor without guardian",
        },
      );
      const guardian = await it.addPerson({
        given: "Ginevra",
        family: "Underhill",
        phone: { number: "+447700900888", canText: true, country: "GB" },
      });
      await inside(it, (tx) => tx.update(people).set({ guardianId: guardian.id }).where(eq(people.id, arlo.person.id)));
      const lesson = await it.visit(arlo.person.id, { about: "", endsAt: TUESDAY - 3 * HOUR });
      await it.advance(TUESDAY);
      const [text] = (await it.messagesOf(arlo.person.id)).filter(({ state }) => state !== "planned");
      expect(text).toMatchObject({ address: "+447700900888", channel: "text" });
      expect(text.body).toContain("Hi Ginevra, how was Arlo's check-up");
      expect(lesson.id).toBeTruthy();
      // STOP by the guardian ends what is under way for the minor.
      await harness.town.texts.write(
        "+447700900888",
        text.address === null ? "" : ((await inside(it, loadSetting)).client.textNumber ?? ""),
        "STOP",
      );
      await harness.town.settled();
      expect(await it.askOf(arlo.person.id)).toMatchObject({ stop: "opted out" });
    });
  });

  test("a guardian who is lost on the way: nothing goes to the minor, neither the ask nor a personal answer", async () => {
    const it = await scene();
    const guardian = await it.addPerson({ given: "Ginevra" });
    const arlo = await it.addPerson({ given: "Arlo", birthDate: "2010-01-31" } as never);
    const guard = (id: string | null) =>
      inside(it, (tx) => tx.update(people).set({ guardianId: id }).where(eq(people.id, arlo.id)));
    await guard(guardian.id);
    await it.visit(arlo.id);
    expect(await it.askOf(arlo.id)).toMatchObject({ ended: null, stop: null });
    await guard(null);
    await it.advance(TUESDAY + 3 * HOUR);
    expect(await it.askOf(arlo.id)).toMatchObject({ ended: "unreachable", sentCount: 0 });
    expect((await it.messagesOf(arlo.id)).filter(({ sentAt }) => sentAt)).toEqual([]);
    const today = "2026-11-24";
    expect(await inside(it, async (tx) => findAddressee(tx, it.scope, await find(it, arlo.id), today))).toBeNull();
    await guard(guardian.id);
    expect(
      await inside(it, async (tx) => (await findAddressee(tx, it.scope, await find(it, arlo.id), today))?.id),
    ).toBe(guardian.id);
  });

  describe("mending", () => {
    test("an address that came back is gathered with what was meant; mended, the ask goes on", async () => {
      const it = await scene();
      for (let n = 0; n < 15; n++) await it.addPerson({ phone: null });
      harness.town.mail.faults.add({ kind: "bounce", match: "@post.exmaple" });
      const { person } = await it.finishVisit({ email: "odette@post.exmaple", phone: null }, TUESDAY - 3 * HOUR);
      await it.advance(TUESDAY);
      expect(await it.askOf(person.id)).toMatchObject({ ended: "unreachable" });
      const [bad] = await inside(it, (tx) => findInvalidAddresses(tx, it.scope));
      expect(bad).toMatchObject({ person: { id: person.id }, channel: "email", suggestion: "odette@post.example" });
      expect(
        await inside(it, (tx) => correctAddress(tx, it.scope, person.id, "email", "nonsense", "Maud", TUESDAY)),
      ).toMatchObject({ ok: false });
      expect(
        await inside(it, (tx) =>
          correctAddress(tx, it.scope, person.id, "email", "odette@post.example", "Maud", TUESDAY),
        ),
      ).toMatchObject({ ok: true, goesOn: 1 });
      await it.advance(TUESDAY + HOUR);
      const sent = (await it.messagesOf(person.id)).filter(({ state }) => state === "sent" || state === "delivered");
      expect(sent).toMatchObject([{ address: "odette@post.example", step: 0 }]);
    });

    test("an address nobody has written to yet, one slip from a frequent host, is offered too", async () => {
      const it = await scene();
      for (let n = 0; n < 30; n++) await it.addPerson({ phone: null });
      const person = await it.addPerson({ email: "jun@pots.example", phone: null });
      expect(await inside(it, (tx) => findInvalidAddresses(tx, it.scope))).toMatchObject([
        { person: { id: person.id }, suggestion: "jun@post.example" },
      ]);
    });
  });

  describe("erasing", () => {
    test("removes what is known, leaves the numbers right, and no list brings the person back", async () => {
      const it = await scene();
      const { person } = await it.finishVisit({ note: "secret note" }, TUESDAY - 3 * HOUR);
      await it.advance(TUESDAY);
      const count = async () =>
        (
          await harness.owner.query(
            "select (select count(*) from visits where client_id=$1)::int v, (select count(*) from asks where client_id=$1)::int a, (select count(*) from messages where client_id=$1)::int m",
            [it.client.id],
          )
        ).rows[0];
      const before = await count();
      expect(await inside(it, (tx) => erasePeople(tx, it.scope, [person.id], "Maud", TUESDAY))).toBe(1);
      expect(await inside(it, (tx) => erasePeople(tx, it.scope, [person.id], "Maud", TUESDAY))).toBe(0);
      expect(await count()).toEqual(before);
      const everything = JSON.stringify(
        (
          await harness.owner.query(
            "select to_jsonb(p) p from people p where client_id=$1 union all select to_jsonb(m) from messages m where client_id=$1 union all select to_jsonb(e) from erasures e where client_id=$1 union all select to_jsonb(a) from audit_entries a where client_id=$1",
            [it.client.id],
          )
        ).rows,
      );
      for (const secret of [person.email, person.phone, "secret note", person.family])
        expect(everything).not.toContain(secret);
      expect(await inside(it, (tx) => tx.select().from(erasures))).toHaveLength(2);
      expect(await it.askOf(person.id)).toMatchObject({ stop: "cancelled by hand" });

      const bytes = new TextEncoder().encode(`Name,Email\nOdette,${person.email}\nJun,jun@post.example\n`);
      const list = await receiveList(it.scope, {
        source: "file",
        name: "x.csv",
        bytes,
        who: "Maud",
        requestKey: newId(),
      });
      await startImport(it.scope, list, "Maud", false);
      expect(await inside(it, (tx) => findIntake(tx, it.scope, list))).toMatchObject({
        counts: { rows: 2, new: 1, refused: 1 },
      });
      expect((await inside(it, (tx) => rowsOfIntake(tx, it.scope, list, "refused")))[0].problems).toEqual([
        { code: "erased", field: "full name" },
      ]);
    });

    test("everything known of one person is one JSON, without anybody else's and without secrets of the machine", async () => {
      const it = await scene();
      const { person } = await it.finishVisit({}, TUESDAY - 3 * HOUR);
      await it.finishVisit({ family: "Stranger" }, TUESDAY - 3 * HOUR);
      await it.advance(TUESDAY);
      const known = JSON.stringify(await inside(it, (tx) => exportPerson(tx, it.scope, person.id, TUESDAY)));
      for (const part of [person.email, "Check-up", "2026-11-24T", "Hi Odette"]) expect(known).toContain(part);
      for (const part of ["Stranger", "token", "claimId", it.client.id]) expect(known).not.toContain(part);
      expect(await inside(it, (tx) => exportPerson(tx, it.scope, newId(), TUESDAY))).toBeNull();
    });
  });

  describe("many at once", () => {
    test("asking shows every message and every reason first, then does just that, once", async () => {
      const it = await scene();
      const a = await it.addPerson({ given: "Odette" });
      const [b, c] = [await it.addPerson({ given: "Jun", doNotAsk: "No" }), await it.addPerson({ given: "Ines" })];
      for (const person of [a, b])
        await inside(it, (tx) =>
          recordVisit(
            tx,
            it.scope,
            "Maud",
            {
              personId: person.id,
              serviceId: it.client.serviceId,
              branchId: it.client.branchId,
              about: "",
              endsAt: TUESDAY - 40 * DAY,
              outcome: "finished",
              requestKey: newId(),
            },
            TUESDAY - 40 * DAY,
          ),
        );
      const seen = await inside(it, (tx) => foretellMany(tx, it.scope, [a.id, b.id, c.id], TUESDAY));
      expect(seen.asked.map(({ name, channel, leaves }) => [name, channel, leaves])).toEqual([
        [expect.stringContaining("Odette"), "text", "now"],
      ]);
      expect(seen.asked[0].body).toContain("Hi Odette");
      expect(seen.leftOut.map(({ why }) => why).sort()).toEqual(["hasn’t been in yet", "marked “never ask”"]);
      const requestKey = newId();
      const done = await Promise.all(
        [0, 1].map(() =>
          inside(it, (tx) => askMany(tx, it.scope, { ids: [a.id, b.id, c.id], who: "Maud", requestKey, now: TUESDAY })),
        ),
      );
      expect(done).toEqual([
        { asked: 1, leftOut: 2 },
        { asked: 1, leftOut: 2 },
      ]);
      expect(await inside(it, (tx) => tx.select().from(asks))).toHaveLength(1);
    });

    test("tagging, resting and excluding change exactly those chosen, and end what must not leave", async () => {
      const it = await scene();
      await inside(it, (tx) =>
        keepTag(tx, it.scope, "Maud", null, { name: "landlord", effect: "do not ask" }, TUESDAY),
      );
      const [a, b, c] = [await it.finishVisit(), await it.finishVisit(), await it.finishVisit()];
      expect(
        await inside(it, (tx) => tagMany(tx, it.scope, [a.person.id, b.person.id], "landlord", true, "Maud", TUESDAY)),
      ).toBe(2);
      expect(await inside(it, (tx) => tagMany(tx, it.scope, [a.person.id], "landlord", true, "Maud", TUESDAY))).toBe(0);
      expect(
        await inside(it, (tx) => tagMany(tx, it.scope, [b.person.id, c.person.id], "landlord", false, "Maud", TUESDAY)),
      ).toBe(1);
      await inside(it, (tx) => restMany(tx, it.scope, [b.person.id], TUESDAY + 90 * DAY, "ill", "Maud", TUESDAY));
      await inside(it, (tx) => excludeMany(tx, it.scope, [c.person.id], "asked us", "Maud", TUESDAY));
      // A tag that no plan may pass over ends what is under way, as a mark does; it does not begin again when the tag is
      // taken off.
      const stops = [await it.askOf(a.person.id), await it.askOf(b.person.id), await it.askOf(c.person.id)].map(
        (ask) => ask.stop,
      );
      expect(stops).toEqual(["not to be asked", "not to be asked", "not to be asked"]);
      const looked = async (id: string) =>
        (await inside(it, (tx) => tx.select().from(visits).where(eq(visits.id, id))))[0].reason;
      const again = async (personId: string) => looked((await it.visit(personId, { endsAt: TUESDAY - HOUR })).id);
      expect([await again(a.person.id), await again(b.person.id), await again(c.person.id)]).toEqual([
        "excluding tag",
        "resting",
        "do not ask",
      ]);
    });

    test("a renamed tag is renamed everywhere, a removed one is gone everywhere", async () => {
      const it = await scene();
      const person = await it.addPerson();
      await inside(it, (tx) => keepTag(tx, it.scope, "Maud", null, { name: "old", effect: "none" }, TUESDAY));
      expect(
        await inside(it, (tx) => keepTag(tx, it.scope, "Maud", null, { name: "OLD", effect: "none" }, TUESDAY)),
      ).toBe("taken");
      await inside(it, (tx) => tagMany(tx, it.scope, [person.id], "old", true, "Maud", TUESDAY));
      const [tag] = await inside(it, (tx) => tx.select().from(tags));
      const rules = {
        ...starterRules(["old", "other"]),
        onlyTags: ["old"],
        begins: { kind: "tag" as const, tag: "old" },
      };
      const plan = await inside(it, (tx) =>
        installPlan(tx, it.scope, { name: "Tagged", rules, runningSince: 0, position: 3, state: "paused" }),
      );
      await inside(it, (tx) => keepTag(tx, it.scope, "Maud", tag.id, { name: "new", effect: "email only" }, TUESDAY));
      const renamed = { excludeTags: ["new", "other"], onlyTags: ["new"], begins: { kind: "tag", tag: "new" } };
      expect(await inside(it, (tx) => findPlan(tx, it.scope, plan.id))).toMatchObject({ rules: renamed });
      expect(await inside(it, (tx) => listVersions(tx, it.scope, plan.id))).toMatchObject([{ rules: renamed }]);
      expect(await find(it, person.id)).toMatchObject({ tags: ["new"] });
      await it.visit(person.id, { endsAt: TUESDAY - 3 * HOUR });
      await it.advance(TUESDAY);
      expect((await it.messagesOf(person.id))[0]).toMatchObject({ channel: "email" });
      await inside(it, (tx) => dropTag(tx, it.scope, "Maud", tag.id, TUESDAY));
      expect(await find(it, person.id)).toMatchObject({ tags: [] });
    });

    test("people are taken out as CSV, a workbook and vCards, with nothing that runs", async () => {
      const it = await scene();
      const person = await it.addPerson({ given: "=cmd()", family: "Marsh; Jr, x", note: "line\nbreak" });
      const file = (format: (typeof FORMATS)[number]) =>
        inside(it, (tx) => exportPeople(tx, [person.id], format, "Europe/London", TUESDAY));
      const csv = String((await file("csv")).body);
      expect(csv).toContain("'=cmd()");
      expect(csv).toContain(person.phone);
      const book = new ExcelJS.Workbook();
      await book.xlsx.load(Buffer.from((await file("xlsx")).body as Uint8Array) as never);
      expect(book.worksheets[0].getRow(2).getCell(2).value).toBe("'=cmd()");
      const card = String((await file("vcf")).body);
      expect(card).toMatch(/^BEGIN:VCARD\r\nVERSION:4\.0\r\n/);
      expect(card).toContain("N:Marsh\\; Jr\\, x;=cmd();;;");
      for (const line of card.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    });
  });

  test("a visit is never looked at twice however it came, and named views are the client's own", async () => {
    const it = await scene();
    const { visit } = await it.finishVisit();
    expect(await inside(it, (tx) => decideVisits(tx, it.scope, [visit.id], TUESDAY))).toEqual({ asked: 0, leftOut: 0 });
    await inside(it, (tx) => saveView(tx, it.scope, "Maud", "Mine", { q: "", state: "resting" }));
    await inside(it, (tx) => saveView(tx, it.scope, "Maud", "Mine", { q: "x" }));
    expect(await inside(it, (tx) => listViews(tx, it.scope))).toMatchObject([{ name: "Mine", query: "q=x" }]);
    expect(await inside(it, (tx) => tx.select().from(messages))).toHaveLength(1);
  });
});
