import { eq, sql } from "drizzle-orm";
import { DAY, HOUR } from "@/core/time/zone";
import { changePerson, recipientZones } from "@/features/people";
import { excludeMany, tagMany } from "@/features/people-admin";
import { withClient } from "@/platform/database";
import { tags } from "@/schema/clients";
import { people } from "@/schema/people";
import { type Harness, startHarness } from "../../support/harness";
import { isoOf, Scene, TUESDAY } from "../../support/scene";

/** What customers are promised, whatever the plan says. */
describe("promises", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("promises");
    scene = new Scene(harness, await harness.addClient());
  });
  afterAll(() => harness.stop());
  beforeEach(() => scene.moveTo(TUESDAY));

  describe("where somebody is", () => {
    test("is settled by their number, by what somebody said, and else by nobody", async () => {
      const american = await scene.addPerson({ phone: { number: "+12125550123", canText: true, country: "US" } });
      expect(recipientZones(american, "GB")).toEqual(["America/New_York"]);
      const changed = await withClient(scene.scope, (tx) =>
        changePerson(tx, scene.scope, "Maud", american.id, { zone: "Pacific/Honolulu" }, TUESDAY),
      );
      expect(changed && recipientZones(changed, "GB")).toEqual(["Pacific/Honolulu"]);
      const back = await withClient(scene.scope, (tx) =>
        changePerson(tx, scene.scope, "Maud", american.id, { zone: null }, TUESDAY),
      );
      expect(back && recipientZones(back, "GB")).toEqual(["America/New_York"]);
      expect(
        recipientZones(await scene.addPerson({ phone: { number: "+18005550123", canText: true, country: "US" } }), "GB")
          .length,
      ).toBeGreaterThan(5);
    });

    test("decides when a text may leave", async () => {
      const person = await scene.addPerson({
        phone: { number: "+13105550124", canText: true, country: "US" },
        email: null,
      });
      await scene.visit(person.id, {}, TUESDAY);
      const [planned] = await scene.messagesOf(person.id);
      // 8:00 in Los Angeles is 16:00 in London; the plan would have sent at 16:05 at the earliest, within the hours of
      // both.
      expect(planned.dueAt).toBeGreaterThanOrEqual(Date.UTC(2026, 10, 24, 16));
      const early = await scene.addPerson({
        phone: { number: "+13105550125", canText: true, country: "US" },
        email: null,
      });
      const morning = Date.UTC(2026, 10, 25, 9, 30);
      await scene.moveTo(morning);
      await scene.visit(early.id, { endsAt: morning }, morning);
      const [later] = await scene.messagesOf(early.id);
      expect(isoOf(later.dueAt)).toBe("2026-11-25T16:00:00.000Z");
    });
  });

  describe("a guardian's own wishes bind an ask about their ward", () => {
    const ward = async () => {
      const guardian = await scene.addPerson();
      const child = await scene.addPerson({ email: null, phone: null, birthDate: "2014-05-01" });
      await withClient(scene.scope, (tx) =>
        tx.update(people).set({ guardianId: guardian.id }).where(eq(people.id, child.id)),
      );
      return { guardian, child };
    };
    const decisionFor = async (childId: string) => {
      const visit = await scene.visit(childId, {}, TUESDAY);
      const [row] = await harness.owner
        .query("select decision, reason from visits where id = $1", [visit.id])
        .then(({ rows }) => rows);
      return row as { decision: string; reason: string | null };
    };

    test("nothing said: the guardian is written to", async () => {
      const { guardian, child } = await ward();
      expect(await decisionFor(child.id)).toEqual({ decision: "asked", reason: null });
      await scene.advance(TUESDAY + 3 * HOUR);
      const [message] = await scene.messagesOf(child.id);
      expect([guardian.email, guardian.phone]).toContain(message.address);
    });

    test.each([
      ["do not ask", "do_not_ask = 'told us on the phone'", "do not ask"],
      ["no consent", `consent = '{"given": false, "at": 0, "source": "by hand"}'`, "consent missing"],
      ["opted out of emails", "email_opted_out_at = now()", "opted out"],
      ["opted out of texts", "text_opted_out_at = now()", "opted out"],
      ["a tag that no plan may pass over", "tags = '{quiet please}'", "excluding tag"],
      ["a rest", "rest_until = '2027-01-01'", "resting"],
    ])("before: %s", async (_name, set, reason) => {
      await withClient(scene.scope, (tx) =>
        tx
          .insert(tags)
          .values({ clientId: scene.scope.clientId, name: "quiet please", effect: "do not ask" })
          .onConflictDoNothing(),
      );
      const { guardian, child } = await ward();
      await withClient(scene.scope, (tx) =>
        tx.execute(sql`update people set ${sql.raw(set)} where id = ${guardian.id}`),
      );
      expect(await decisionFor(child.id)).toEqual({ decision: "left out", reason });
    });

    test.each([
      [
        "do not ask, by many at once",
        (id: string) => withClient(scene.scope, (tx) => excludeMany(tx, scene.scope, [id], "told us", "Maud", TUESDAY)),
      ],
      [
        "a never-ask tag",
        (id: string) =>
          withClient(scene.scope, (tx) => tagMany(tx, scene.scope, [id], "quiet please", true, "Maud", TUESDAY)),
      ],
      [
        "do not ask, written in by whatever way",
        (id: string) =>
          withClient(scene.scope, (tx) => tx.update(people).set({ doNotAsk: "no" }).where(eq(people.id, id))),
      ],
      [
        "consent taken back",
        (id: string) =>
          withClient(scene.scope, (tx) =>
            tx
              .update(people)
              .set({ consent: { given: false, at: TUESDAY, source: "a list" } })
              .where(eq(people.id, id)),
          ),
      ],
    ])("while an ask is under way: %s", async (_name, say) => {
      const { guardian, child } = await ward();
      expect((await decisionFor(child.id)).decision).toBe("asked");
      await say(guardian.id);
      await scene.advance(TUESDAY + 9 * DAY);
      expect((await scene.messagesOf(child.id)).filter(({ sentAt }) => sentAt !== null)).toEqual([]);
      expect((await scene.askOf(child.id)).stop).toBe("not to be asked");
    });

    test("the person's own wish ends their ask in the same way", async () => {
      const { person } = await scene.finishVisit();
      await withClient(scene.scope, (tx) =>
        changePerson(tx, scene.scope, "Maud", person.id, { doNotAsk: "said so at the desk" }, TUESDAY),
      );
      await scene.advance(TUESDAY + 9 * DAY);
      expect((await scene.messagesOf(person.id)).filter(({ sentAt }) => sentAt !== null)).toEqual([]);
      expect((await scene.askOf(person.id)).stop).toBe("not to be asked");
    });
  });
});
