import { sql } from "drizzle-orm";
import type { Pool, PoolClient } from "pg";
import { starterRules } from "@/core/plans/starters";
import { saidBeside } from "@/features/answers";
import { countHeld, countStages, peopleAt, tallyPlans, whyPerson, whyVisit } from "@/features/asks";
import { loadSetting, usageOf } from "@/features/clients";
import { concernCounts, listConcerns } from "@/features/concerns";
import { conversationCounts, listConversations, viewConversation } from "@/features/conversations";
import { feedNumbers, feedProblems, listInboundEvents, openNames, recentIntakes } from "@/features/intake";
import { claimDue, countLog, readLog } from "@/features/messaging";
import {
  ASKED,
  countListed,
  countPeople,
  findPerson,
  keyAfter,
  listPeople,
  PEOPLE_STATES,
  searchPeople,
} from "@/features/people";
import {
  countInvalidAddresses,
  findDuplicates,
  findHouseholds,
  findInvalidAddresses,
  recentMerges,
} from "@/features/people-admin";
import { stageRehearsal, tallyWordings } from "@/features/plan-editor";
import { sentInMonth } from "@/features/plan-editor/sentInMonth";
import { listPlans } from "@/features/plans";
import { listPinned, listReviews, namedLately, openDesk, reviewCounts } from "@/features/reviews";
import { timelineOf } from "@/features/timeline";
import * as today from "@/features/today";
import { countWaiting } from "@/features/visits";
import { closeDatabase, rowIn, rowsIn, type Tx, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { claimTriggers, claimVisits, duePlans, nextDue } from "@/worker/due";
import { type Filled, fill } from "../../../scripts/bench/fill";
import { type Harness, startHarness } from "../../support/harness";

/**
 * What every page asks the database, at a tenth of the full scale, with what PostgreSQL really read for it: few rows and
 * few blocks, whatever its plan calls the way there. The server tells its plans as notices (auto_explain), nested ones
 * included.
 */
describe("scale", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const DAY = 86_400_000;

  let harness: Harness;
  let filled: Filled;
  let scope: { clientId: string };
  const plans: Explained[] = [];

  beforeAll(async () => {
    harness = await startHarness("scale");
    filled = await fill(harness.ownerUrl, { people: 20_000, visits: 60_000, messages: 100_000, reviews: 20_000 }, NOW);
    scope = { clientId: filled.clientId };
    await harness.owner.query(
      "alter role estima_app in database estima_scale set session_preload_libraries = 'auto_explain'",
    );
    for (const [name, value] of [
      ["auto_explain.log_min_duration", "0"],
      ["auto_explain.log_nested_statements", "on"],
      ["auto_explain.log_level", "notice"],
      ["auto_explain.log_analyze", "on"],
      ["auto_explain.log_timing", "off"],
      ["auto_explain.log_buffers", "on"],
      ["auto_explain.log_format", "json"],
    ])
      await harness.owner.query(`alter role estima_app in database estima_scale set ${name} = '${value}'`);
    await closeDatabase();
    // The pool is made anew at the next statement; its connections tell what they run.
    await withClient(scope, (tx) => tx.execute(sql`select 1`));
    const pool = (globalThis as unknown as { estimaDatabase: { pool: Pool } }).estimaDatabase.pool;
    const hear = (client: PoolClient) =>
      client.on("notice", ({ message = "" }) => {
        const at = message.indexOf("plan:\n");
        if (at >= 0) plans.push(JSON.parse(message.slice(at + 6)) as Explained);
      });
    pool.on("connect", hear);
    await closeAll(pool);
  }, 240_000);
  afterAll(() => harness.stop());

  /** Ends the idle connections, so that every later one is heard. */
  async function closeAll(pool: Pool): Promise<void> {
    const client = await pool.connect();
    client.release(true);
  }

  const facts = { now: NOW, zone: "Europe/London", restDays: 180 };
  const span = { from: NOW - DAY, to: NOW, branchId: null };
  let personId = "";
  let visitId = "";

  /** Each page with what it asks. */
  const PAGES: [string, (tx: Tx) => Promise<unknown>][] = [
    ["people, first page", (tx) => listPeople(tx, {}, null, facts)],
    [
      "people, a later page",
      async (tx) => {
        const [first] = await listPeople(tx, {}, null, facts, 1);
        return listPeople(tx, {}, keyAfter(first).split("~") as [string, string, string], facts);
      },
    ],
    ["people, counted", (tx) => countPeople(tx)],
    ...[
      "odette",
      "odette mar",
      "07400 12345",
      "post.example",
      "tea number 150",
      "N1234",
      "ma",
      "landlord",
      "nobody at all",
    ].map((q): [string, (tx: Tx) => Promise<unknown>] => [`search “${q}”`, (tx) => searchPeople(tx, q)]),
    ...PEOPLE_STATES.map((state): [string, (tx: Tx) => Promise<unknown>] => [
      `people who are ${state}`,
      async (tx) => [await listPeople(tx, { state }, null, facts), await countListed(tx, { state }, facts)],
    ]),
    ...ASKED.map((asked): [string, (tx: Tx) => Promise<unknown>] => [
      `people asked ${asked}`,
      (tx) => listPeople(tx, { asked }, null, facts),
    ]),
    ["people of a branch", (tx) => listPeople(tx, { branch: filled.branchIds[1] }, null, facts)],
    ["people with a tag", (tx) => listPeople(tx, { tag: "landlord" }, null, facts)],
    ["people left out on a day", (tx) => listPeople(tx, { leftout: "resting", day: "2026-11-20" }, null, facts)],
    ["people of a list", (tx) => listPeople(tx, { list: newId() }, null, facts)],
    [
      "addresses to mend",
      async (tx) => [await countInvalidAddresses(tx, scope), await findInvalidAddresses(tx, scope)],
    ],
    ["duplicates and households", async (tx) => [await findDuplicates(tx, scope), await findHouseholds(tx, scope)]],
    [
      "one person",
      async (tx) => [
        await findPerson(tx, scope, personId),
        await timelineOf(tx, scope, personId),
        await recentMerges(tx, scope),
      ],
    ],
    [
      "lists and names",
      async (tx) => [await recentIntakes(tx, scope), await openNames(tx, scope), await countWaiting(tx, scope)],
    ],
    ["feeds", async (tx) => [await feedNumbers(tx, scope), await listInboundEvents(tx, scope, newId())]],
    [
      "Today",
      async (tx) => [
        await today.marksOfDay(tx, scope, span, NOW),
        await today.goingOutNext(tx, scope, null, 6),
        await rowIn(tx, today.leftOut(scope, span)),
        await today.needing(tx, scope, null, NOW),
        await rowIn(tx, today.problems(scope, NOW - 2 * DAY)),
        await rowIn(tx, today.tally(scope, NOW - 7 * DAY, NOW)),
        await rowIn(
          tx,
          today.answersPerDay(
            scope,
            [
              { day: "before", from: NOW - 21 * DAY },
              { day: "now", from: NOW - DAY },
            ],
            NOW,
          ),
        ),
        await rowIn(tx, today.averages(scope)),
        await today.waitingCount(tx, scope, NOW),
        await feedProblems(tx, scope),
      ],
    ],
    [
      "conversations",
      async (tx) => [
        await rowIn(tx, conversationCounts(scope, NOW)),
        await listConversations(tx, scope, { state: "waiting", assigned: null, branchId: null, before: null }, NOW),
        await listConversations(tx, scope, { state: "all", assigned: null, branchId: null, before: null }, NOW),
        await listConversations(tx, scope, { state: "aside", assigned: "nobody", branchId: null, before: null }, NOW),
        await viewConversation(tx, scope, newId()),
      ],
    ],
    [
      "the log",
      async (tx) => [
        await readLog(tx, scope, { state: null, channel: null, after: null }),
        await readLog(tx, scope, { state: "planned", channel: "text", after: null }),
        await readLog(tx, scope, { state: "bounced", channel: null, after: null }),
        await readLog(tx, scope, {
          state: "planned",
          channel: null,
          planId: filled.planId,
          branchId: filled.branchIds[0],
          between: { from: NOW, to: NOW + DAY },
          after: null,
        }),
        await countLog(tx, scope),
      ],
    ],
    [
      "plans",
      async (tx) => [
        await listPlans(tx, scope),
        await tallyPlans(tx, scope, NOW - 7 * DAY),
        await countHeld(tx, scope),
        await usageOf(tx, scope, "2026-11"),
        await tallyWordings(
          tx,
          scope,
          filled.planId,
          {
            ...starterRules(),
            steps: [
              { ...starterRules().steps[0], others: [{ key: "b", text: "{link}", subject: "b", email: "{link}" }] },
            ],
          },
          NOW,
        ),
      ],
    ],
    [
      "where everyone stands",
      async (tx) => [
        await countStages(tx, scope, { since: NOW - 30 * DAY, planId: null, branchId: null }),
        await peopleAt(
          tx,
          scope,
          { since: NOW - 7 * DAY, planId: filled.planId, branchId: filled.branchIds[0] },
          "opened",
          true,
          null,
        ),
      ],
    ],
    [
      "why",
      async (tx) => [
        await whyVisit(tx, scope, await loadSetting(tx), visitId, NOW),
        await whyPerson(tx, scope, await loadSetting(tx), personId, NOW),
      ],
    ],
    [
      "what a plan sent in a month, and what was said beside words",
      async (tx) => [
        await sentInMonth(tx, scope, filled.planId, starterRules(), NOW),
        await saidBeside(tx, scope, [filled.planId, visitId]),
      ],
    ],
    [
      "a rehearsal",
      async (tx) => {
        const setting = await loadSetting(tx);
        return [
          await stageRehearsal(tx, scope, setting, starterRules(), { kind: "past", from: NOW - 3 * DAY, to: NOW }, NOW),
          await stageRehearsal(tx, scope, setting, starterRules(), { kind: "booked", days: 2 }, NOW),
        ];
      },
    ],
    [
      "Heard",
      async (tx) => [
        await listReviews(tx, scope, { waiting: false, only: "aside", site: null, branchId: null, before: null }),
        await namedLately(tx, scope, null, "en"),
        await namedLately(tx, scope, filled.branchIds[0], "en"),
        await openDesk(
          tx,
          scope,
          await loadSetting(tx),
          (await listReviews(tx, scope, { waiting: true, site: null, branchId: null, before: null })).map(
            ({ review }) => review,
          ),
          "Maud",
        ),
        await listReviews(tx, scope, { waiting: true, site: null, branchId: null, before: null }),
        await listReviews(tx, scope, { waiting: true, order: "date", site: null, branchId: null, before: null }),
        await listPinned(
          tx,
          scope,
          visitId,
          { waiting: true, site: null, branchId: null, before: null },
          await loadSetting(tx),
        ),
        await listReviews(tx, scope, { waiting: false, site: "Waypost", branchId: filled.branchIds[0], before: null }),
        await rowIn(tx, reviewCounts(scope, NOW - 30 * DAY)),
        await listConcerns(tx, scope, { open: true }),
        await rowIn(tx, concernCounts(scope)),
      ],
    ],
  ];

  /** A page reads at most so many rows of one table, and so many blocks of 8 KB, in any statement. */
  const MOST_READ = { rows: 5_000, blocks: 5_000 };

  /** Pages that may read more, each with its own bound and why. */
  const MAY_READ: Record<string, typeof MOST_READ> = {
    // How many there are is counted in an index alone: 100 entries a block.
    "people, counted": { rows: 20_000, blocks: 500 },
    // A third of everybody rests here, and all of them are counted.
    "people who are resting": { rows: 8_000, blocks: 8_000 },
    // The domains of the newest 20,000 addresses tell what a slip is.
    "addresses to mend": { rows: 20_000, blocks: 1_500 },
    // A month's messages, each with its plan.
    "what a plan sent in a month, and what was said beside words": { rows: 5_000, blocks: 15_000 },
  };

  test("what is read shows itself, through a table and through the whole of an index alike", async () => {
    for (const walk of [
      sql`select count(*) from people where note like '%x%'`,
      sql`select count(*) from (select id from people order by id offset 15000) p`,
    ]) {
      plans.length = 0;
      await withClient(scope, async (tx) => {
        await tx.execute(sql`set local enable_seqscan = off`);
        await rowsIn(tx, walk);
      });
      expect(tooMuch(plans)).not.toEqual([]);
    }
    const [one] = await withClient(scope, (tx) => listPeople(tx, {}, null, facts, 1));
    personId = one.id;
    [{ id: visitId }] = await withClient(scope, (tx) =>
      rowsIn<{ id: string }>(tx, sql`select id from visits where person_id = ${personId} limit 1`),
    );
  });

  test.each(PAGES)("%s reads little", async (name, ask) => {
    plans.length = 0;
    await withClient(scope, ask);
    expect(plans.length).toBeGreaterThan(0);
    expect(tooMuch(plans, MAY_READ[name])).toEqual([]);
  });

  test("what is due is found without reading what is not, over all clients", async () => {
    plans.length = 0;
    await claimDue(NOW, 100);
    await claimVisits(NOW, 500);
    await claimTriggers(NOW, 500);
    await duePlans(NOW);
    await nextDue();
    expect(tooMuch(plans)).toEqual([]);
  });

  /** The statements that read more than they may, each with what it read. */
  function tooMuch(explained: readonly Explained[], most = MOST_READ): string[] {
    return explained.flatMap(({ Plan: plan, "Query Text": text }) => {
      const blocks = (plan["Shared Hit Blocks"] ?? 0) + (plan["Shared Read Blocks"] ?? 0);
      const [rows, table] = mostRows(plan);
      return rows > most.rows || blocks > most.blocks
        ? [`${rows} rows of ${table}, ${blocks} blocks: ${text.replace(/\s+/g, " ").slice(0, 300)}`]
        : [];
    });
  }

  /** The rows that a plan took from the table of which it took most, those that it then left out included. */
  function mostRows(node: PlanNode): [rows: number, table: string] {
    const taken = (node["Actual Rows"] ?? 0) + (node["Rows Removed by Filter"] ?? 0);
    const checked = node["Rows Removed by Index Recheck"] ?? 0;
    const table = node["Relation Name"] ?? node["Index Name"];
    const own: [number, string] = table ? [(taken + checked) * (node["Actual Loops"] ?? 1), table] : [0, ""];
    return (node.Plans ?? []).map(mostRows).reduce((most, each) => (each[0] > most[0] ? each : most), own);
  }
});

/** What auto_explain tells of a statement, as far as it is looked at. */
type Explained = { "Query Text": string; Plan: PlanNode };
type PlanNode = {
  "Relation Name"?: string;
  "Index Name"?: string;
  "Actual Rows"?: number;
  "Actual Loops"?: number;
  "Rows Removed by Filter"?: number;
  "Rows Removed by Index Recheck"?: number;
  "Shared Hit Blocks"?: number;
  "Shared Read Blocks"?: number;
  Plans?: PlanNode[];
};
