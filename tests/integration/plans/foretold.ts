import { eq, sql } from "drizzle-orm";
import { PLAIN_RULES, type PlanRules } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { stableHash } from "@/core/stableHash";
import { DAY, dayNumber, HOUR, toLocal } from "@/core/time/zone";
import { askMany, foretellMany } from "@/features/asks";
import { findIntake, receiveList, startImport } from "@/features/intake";
import { withClient } from "@/platform/database";
import type { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import type { Forecast } from "@/schema/intake";
import { plans } from "@/schema/plans";
import { skipAhead } from "@/worker/skip";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/**
 * What is said before a list is kept, or before many are asked, is what then happens, row by row: whatever the plan,
 * the client's limits and what goes on beside.
 */
describe("foretold", () => {
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("foretold");
  });
  afterAll(() => harness.stop());

  const ZONE = "Europe/London";
  const dayOf = (at: number) => dayNumber(toLocal(ZONE, at));
  const town = { advance: async (now: number, stands: boolean) => harness.town.advance(now, stands) };
  /** No digit: a name with one is none to greet with. */
  const letters = (n: number) => [...String(n)].map((digit) => "abcdefghij"[Number(digit)]).join("");

  type World = { scene: Scene; rules: PlanRules; seed: number };

  /** A client drawn by `seed`: a plan, limits or none, people with visits of their own under way. */
  async function worldOf(seed: number): Promise<World> {
    const chance = (what: string) => stableHash("foretold", what, String(seed));
    const one = <T>(what: string, ...list: T[]): T => list[Math.floor(chance(what) * list.length)];
    const reawaken = STARTERS.find(({ key }) => key === "reawaken")?.rules([]) as PlanRules;
    const base = one("plan", starterRules([]), reawaken, { ...PLAIN_RULES, ...starterRules([]) });
    const rules: PlanRules = {
      ...base,
      begins: { kind: "visit", services: [], branches: [], kinds: [] },
      freshDays: one("fresh", 400, 30),
      repeat: one<PlanRules["repeat"]>("repeat", { kind: "every visit" }, { kind: "rest", days: 30 }, { kind: "once" }),
      households: one("households", "together", "one only", "each"),
      portions: chance("portions") < 0.4 ? { perDay: one("a day", 2, 5), mostBounced: 90, mostOptedOut: 90 } : null,
      steps: base.steps.map((step) => ({ ...step, channel: one("channel", step.channel, "email", "preferred") })),
    };
    const change: Partial<typeof clients.$inferInsert> = {
      emailsAnHour: one("emails", null, 2, 4),
      textsAnHour: one("texts", null, null, 3),
      emailsAMonth: one("email month", null, null, 9),
      textsAMonth: one("text month", null, null, 14),
      restDays: one("rest", 0, 7),
    };
    const scene = new Scene(harness, await harness.addClient(change));
    await scene.moveTo(TUESDAY);
    await withClient(scene.scope, async (tx) => {
      await tx.update(plans).set({ rules }).where(eq(plans.id, scene.client.planId));
      await tx.execute(
        sql`update plan_versions set rules = ${JSON.stringify(rules)}::jsonb where plan_id = ${scene.client.planId}`,
      );
    });
    for (let n = 0; n < 6; n++) {
      const person = await scene.addPerson({ given: `Known${letters(n)}`, email: `known${seed}${n}@post.example` });
      await scene.visit(person.id, { endsAt: TUESDAY - Math.floor(chance(`known ${n}`) * 6) * HOUR });
    }
    return { scene, rules, seed };
  }

  /** A list of strangers and people who are known, some of them twice, some sharing an address. */
  function listOf({ seed }: World, rows: number): string {
    const chance = (what: string, n: number) => stableHash("list", what, String(seed), String(n));
    const lines = Array.from({ length: rows }, (_, n) => {
      const isKnown = chance("known", n) < 0.15;
      const who = isKnown
        ? Math.floor(chance("who", n) * 6)
        : chance("again", n) < 0.15
          ? Math.floor(chance("who", n) * rows)
          : n;
      const name = isKnown ? `Known${letters(who)}` : `Guest${letters(who)}`;
      const email = isKnown ? `known${seed}${who}@post.example` : `guest${seed}x${who}@post.example`;
      const phone = !isKnown && chance("phone", who) < 0.6 ? `07700 9${String(10_000 + who).slice(1)}0` : "";
      const at = new Date(TUESDAY - Math.floor(1 + chance("when", n) * 20 * 24) * HOUR).toISOString();
      const outcome = chance("outcome", n) < 0.08 ? "cancelled" : "";
      return [`${name} Friend`, email, phone, at.slice(0, 16).replace("T", " "), "Check-up", outcome].join(",");
    });
    return ["Name,Email,Phone,Date,Service,Status", ...lines].join("\n");
  }

  type Became = { given: string; endsAt: number; decision: string | null; reason: string | null; at: number | null };

  async function became({ scene }: World): Promise<Became[]> {
    const { rows } = await harness.owner.query(
      `select p.given, v.ends_at, v.decision, v.reason, (select min(m.sent_at) from messages m where m.ask_id = v.ask_id) as at
       from visits v join people p on p.id = v.person_id where v.client_id = $1`,
      [scene.client.id],
    );
    return rows.map((row) => ({
      given: row.given,
      endsAt: new Date(row.ends_at).getTime(),
      decision: row.decision,
      reason: row.reason,
      at: row.at && new Date(row.at).getTime(),
    }));
  }

  /** What a row was told, and what came of it, in the same words. */
  function compare(line: Forecast["visits"][number], all: readonly Became[]): [string, string] {
    const given = line.name.split(" ")[0];
    const found = all.find((one) => one.given === given && one.endsAt === line.endsAt);
    const who = `row ${line.row} ${given}`;
    const said =
      line.what.code === "asked"
        ? `${who} asked on ${dayOf(line.what.at)}`
        : line.what.code === "left out"
          ? `${who} left out: ${line.what.reason}`
          : `${who} ${line.what.code}`;
    const isUnsent = found?.decision === "asked" && found.at === null;
    const was =
      found === undefined
        ? `${who} is not there`
        : found.at !== null
          ? `${who} asked on ${dayOf(found.at)}`
          : isUnsent
            ? `${who} decided later`
            : `${who} left out: ${found.reason}`;
    return [said, was];
  }

  const SEEDS = Array.from({ length: size(6, 60) }, (_, n) => n);

  test.each(SEEDS)("a list: what is said of each row comes true (%i)", async (seed) => {
    const world = await worldOf(seed);
    const { scene } = world;
    const id = await receiveList(scene.scope, {
      source: "file",
      name: "old.csv",
      bytes: new TextEncoder().encode(listOf(world, 24)),
      who: "Maud",
      requestKey: newId(),
    });
    const seen = await withClient(scene.scope, (tx) => findIntake(tx, scene.scope, id));
    const foretold = seen?.forecast?.visits ?? [];
    expect(foretold.length).toBeGreaterThan(15);
    expect(await startImport(scene.scope, id, "Maud", true)).toBe(true);
    await skipAhead(town, TUESDAY, TUESDAY + 140 * DAY, 60 * DAY);
    const all = await became(world);
    const pairs = foretold.map((line) => compare(line, all));
    expect(pairs.map(([said]) => said)).toEqual(pairs.map(([, was]) => was));
    const asked = foretold.filter(({ what }) => what.code === "asked").length;
    expect(seen?.forecast?.asked).toBe(asked);
    expect(seen?.forecast?.later).toBe(foretold.filter(({ what }) => what.code === "decided later").length);
  });

  test.each(SEEDS.slice(0, size(3, 20)))("asking many: the moment that is said comes true (%i)", async (seed) => {
    const world = await worldOf(1000 + seed);
    const { scene } = world;
    const ids: string[] = [];
    for (let n = 0; n < 9; n++) {
      const person = await scene.addPerson({ given: `Many${letters(n)}`, email: `many${seed}x${n}@post.example` });
      await harness.owner.query(
        "insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at) values ($1, $2, $3, $4, $5, $6, 'finished', 'by hand', $6)",
        [newId(), scene.client.id, person.id, scene.client.branchId, scene.client.serviceId, new Date(TUESDAY - DAY)],
      );
      ids.push(person.id);
    }
    const { asked: said } = await withClient(scene.scope, (tx) => foretellMany(tx, scene.scope, ids, TUESDAY));
    expect(said.length).toBeGreaterThan(0);
    await withClient(scene.scope, (tx) =>
      askMany(tx, scene.scope, { ids, who: "Maud", requestKey: newId(), now: TUESDAY }),
    );
    await skipAhead(town, TUESDAY, TUESDAY + 140 * DAY, 60 * DAY);
    const { rows } = await harness.owner.query(
      "select person_id, min(sent_at) as at from messages where client_id = $1 and direction = 'out' group by 1",
      [scene.client.id],
    );
    const at = new Map(rows.map((row) => [row.person_id, new Date(row.at).getTime()]));
    expect(said.map(({ name, leavesAt }) => `${name} ${leavesAt}`)).toEqual(
      said.map(({ name, personId }) => `${name} ${at.get(personId)}`),
    );
  });
});
