import pg from "pg";
import { z } from "zod";
import { SITE_REASON } from "@/core/answers/siteMix";
import { TRACE_LINE } from "@/core/asks/findings";
import { MESSAGE_REASON } from "@/core/asks/messageReasons";
import { AUDIT_ACTIONS } from "@/core/audit/actions";
import { GATEWAY_REPLY } from "@/core/contacts/gatewayReply";
import { OPT_OUT_WAY } from "@/core/contacts/optOut";
import { EVENT_RESULT, FETCH_PROBLEM, FETCH_REPORT } from "@/core/intake/feedReports";
import { FILE_PROBLEM } from "@/core/intake/fileProblems";
import { FORECAST_VERDICT } from "@/core/intake/forecast";
import { REMARK } from "@/core/intake/remarks";
import { NOTICE } from "@/core/notices/notice";
import { PAUSE_REASON } from "@/core/plans/pauseReason";
import { SITE_PROBLEM } from "@/core/reviews/siteProblems";
import { messageSentence, siteWords, traceSentence } from "@/locales/asking";
import { fetchProblemSentence, fetchSentence, fileSentence, remarkSentence } from "@/locales/intake";
import { pauseWords } from "@/locales/operations";
import { newId } from "@/schema/columns";
import { latestMigration, migrateUpTo, recreateDatabase } from "../../../scripts/database";

/**
 * A database of the time when rows kept English sentences, brought up to date: each becomes a code that says the same,
 * and fits its schema.
 */
describe("codes migration", () => {
  let owner: pg.Pool;

  /** What messages said. The words of the last ones have changed since: what they became is written beside them. */
  const MESSAGES: [string, string?][] = [
    ["2 hours after the visit ended."],
    [
      "2 hours after the visit ended; there is no mobile, so an email goes.",
      "2 hours after the visit ended; no mobile on file, so it goes by email.",
    ],
    [
      "3 days at 10:00 after the message before; the hours open at 9:30; there is no mobile, so an email goes.",
      "3 days after the previous message, at 10:00; send hours start at 9:30; no mobile on file, so it goes by email.",
    ],
    [
      "1 week after they had answered; its list is spread over the send hours; no more may leave within the hour.",
      "1 week after they answered; the list is spread over the send hours; this hour’s limit has been reached.",
    ],
    [
      "As soon as the hours allow; the hours open at 9:00.",
      "As soon as the send hours allow; send hours start at 9:00.",
    ],
    [
      "As soon as the message before left; another message went to this person shortly before.",
      "As soon as the previous message went out; another message had just gone to this person.",
    ],
    [
      "Sent on before its time by hand; texts wait until it is 8:00 where the person is.",
      "Sent early, by hand; texts wait until 8:00 where the person is.",
    ],
    [
      "As soon as the visit ended; this month’s allowance is used up, so it waits for the next; it could not leave on time.",
      "As soon as the visit ended; this month’s allowance is used up, so it waits for the next; it couldn’t go out on time.",
    ],
    ["Not needed: they answered."],
    [
      "Too late: it could not leave while the visit was fresh.",
      "Too late: it couldn’t go out while the visit was fresh.",
    ],
    ["Not needed: what it depended on has changed.", "No longer needed: the condition it depended on has changed."],
    [
      "It was being handed over when the ask ended, and was not repeated.",
      "It was on its way out when the ask ended, so it wasn’t sent again.",
    ],
    ["Held by Maud O’Brien.", "Put on hold by Maud O’Brien."],
    ["The plan is paused."],
    ["A personal answer leaves at once.", "Personal answers go out straight away."],
    ["They asked for no more texts.", "They opted out of texts."],
    ["The person was erased.", "This person was erased."],
    [""],
    [
      "The address refused it: 550 No such mailbox here",
      "Rejected by their mailbox or phone network: the address doesn’t exist (550).",
    ],
    ["It came back: 552 5.2.2 Quota", "It bounced: the mailbox is full (552, 5.2.2)."],
    ["Given up after 48 tries: Out of order (500)", "Failed after 48 attempts: our sending service is down (500)."],
    [
      "To be tried again: The gateway did not answer in time.",
      "We’ll try again: our sending service didn’t answer in time.",
    ],
    ["Something nobody ever wrote", "No reason was recorded."],
  ];

  /** A rule, whether it objected, what it said, and what is said of it now. */
  const TRACE: [string, boolean, string, string][] = [
    ["cancelled", false, "outcome: finished", "It wasn’t cancelled."],
    ["not finished", true, "the visit has not ended", "The visit isn’t over yet: the visit isn’t over."],
    [
      "service never asked about",
      true,
      "service: Farewell",
      "We never ask about this service: the service is Farewell.",
    ],
    ["do not ask", true, "Asked us: not to", "Marked “never ask”: marked on the person."],
    ["do not ask", true, "of the guardian: no", "Marked “never ask”: marked on the guardian."],
    [
      "no plan",
      false,
      "“A” takes it, being before “B” and “C” in the order of plans",
      "“A” covers it, because it comes before “B” and “C”",
    ],
    ["no plan", true, "no plan begins with a visit like this", "no plan covers a visit like this"],
    [
      "excluding tag",
      true,
      "the guardian is tagged staff, family",
      "One of their tags leaves them out: the guardian is tagged staff and family.",
    ],
    ["lacks the tag", true, "not tagged vip or gold", "no vip or gold tag"],
    [
      "minor without guardian",
      false,
      "under age: the guardian is written to",
      "under age, so we write to the guardian",
    ],
    ["opted out", true, "by email and text", "by email and text"],
    ["consent missing", true, "the guardian did not agree to be written to", "the guardian said no to messages"],
    ["consent missing", false, "nobody noted whether they agreed", "no consent recorded"],
    ["no reachable address", false, "reachable by email", "reachable by email"],
    ["too late", true, "ended 9 days ago, asked up to 1 day after", "ended 9 days ago; the plan asks within 1 day"],
    [
      "too late",
      false,
      "ended less than a day ago, asked up to 7 days after",
      "ended less than a day ago; the plan asks within 7 days",
    ],
    ["household asked", true, "Odette Marsh is asked for this day", "Odette Marsh is asked about that day"],
    ["once only", true, "asked 40 days ago, and the plan asks once", "asked 40 days ago, and the plan asks once"],
    ["resting", true, "the guardian is let rest for 3 days more", "the guardian is resting for another 3 days"],
    ["resting", true, "reviewed 2 days ago, rests 90 days", "reviewed 2 days ago; the rest is 90 days"],
    [
      "resting",
      false,
      "asked less than a day ago, rests 60 days from every plan; asked by hand all the same",
      "asked less than a day ago; the rest is 60 days across all plans; asked by hand anyway",
    ],
    [
      "allowance used up",
      true,
      "the month’s messages are used up, and the client wants nobody held",
      "this month’s messages are used up, and people are left out rather than made to wait",
    ],
  ];

  /** What was wrong with a row, and what is said of it now. */
  const REMARKS: [string, string][] = [
    ["“wrong” is not an email address.", "“wrong” isn’t an email address."],
    [
      "“4.4E+11” was rounded by a spreadsheet: its last digits are lost. Format the column as text there and bring it again.",
      "A spreadsheet has rounded “4.4E+11”, so its last digits are lost. Format that column as text and import it again.",
    ],
    [
      "Two addresses: a@post.example is used, the rest is in the note.",
      "Two addresses: we use a@post.example and keep the other in the note.",
    ],
    ["“x” is not a date like 24/11/2026.", "“x” isn’t a date like 24/11/2026."],
    ["Cut to 120 characters.", "Shortened to 120 characters."],
    [
      "The service “Claws” is not known yet: the visit waits until it is assigned.",
      "We don’t know the service “Claws” yet. The visit waits until you match it.",
    ],
    [
      "This address belongs to Odette Marsh too; it is taken to be another person of one household.",
      "Odette Marsh has this address too, so we treat them as two people in one household.",
    ],
    ["They asked to be erased, and are not taken in again.", "They asked to be erased, so we don’t add them again."],
  ];

  const FETCHED: [string, string][] = [
    ["Nothing new.", "Nothing new."],
    [
      "12 events looked at, one new visit, 0 changed, 3 gone.",
      "12 events checked, one new visit, 0 changed, 3 removed.",
    ],
    ["40 rows: 3 new, 38 visits, 1 not usable.", "40 rows: 3 new, 38 visits, 1 we couldn’t use."],
  ];
  const UNFETCHED: [string, string][] = [
    ["The other side answered 503.", "The other server answered with error 503."],
    ["It is larger than 25 MB.", "It’s bigger than 25 MB."],
    ["There are no rows in it.", "It has no rows."],
  ];
  const SITES: [string, string][] = [
    [
      "Waypost first: their mailbox is an account there; Commons, Tenfold passed over, reviewed already",
      "Waypost first: their email address suggests they have an account there; we skipped Commons and Tenfold, where they’ve already left a review",
    ],
    ["Commons first in the plan’s order", "Commons first: it’s top of the plan’s list"],
    ["no site is left to offer", "there’s no site left to offer"],
  ];
  const saidNow = (pairs: readonly (readonly [string, string])[]) => pairs.map(([, now]) => now).sort();

  const client = newId();
  const person = newId();

  /** Adds a row of the old form, whatever else it would refer to. */
  async function add(table: string, row: Record<string, unknown>): Promise<void> {
    const names = Object.keys(row);
    await owner.query(
      `insert into ${table} (${names.map((name) => `"${name}"`).join(", ")}) values (${names.map((_, n) => `$${n + 1}`).join(", ")})`,
      Object.values(row).map((value) => (value && typeof value === "object" ? JSON.stringify(value) : value)),
    );
  }

  const column = async (sql: string) => (await owner.query<{ it: unknown }>(sql)).rows.map(({ it }) => it);

  beforeAll(async () => {
    const url = await recreateDatabase(process.env.TEST_DATABASE_URL ?? "", "estima_codes");
    await migrateUpTo(url, "0011_events");
    owner = new pg.Pool({ connectionString: url, max: 1 });
    // What rows refer to does not matter here, neither to us nor to the migration.
    await owner.query("alter database estima_codes set session_replication_role = replica");
    await owner.query("set session_replication_role = replica");
    await fill();
    await migrateUpTo(url, latestMigration());
  }, 60_000);
  afterAll(async () => {
    await owner.end();
  });

  async function fill(): Promise<void> {
    const at = "2026-11-24T14:00:00Z";
    const own = () => ({ id: newId(), client_id: client });
    await add("clients", {
      ...{
        id: client,
        agency_id: newId(),
        slug: "old",
        name: "Old",
        country: "GB",
        zone: "Europe/London",
        sender_email: "a@b.example",
      },
      ...{ postal_address: "x", text_number: "+447700900001", send_hours: {} },
    });
    for (const [n, [reason]] of MESSAGES.entries())
      await add("messages", {
        ...{ ...own(), person_id: person, direction: "out", channel: "email", state: "sent", created_at: at },
        ...{ reason, step: n },
      });
    const trace = JSON.stringify(TRACE.map(([rule, objects, value]) => ({ rule, objects, value })));
    const visit = { ...own(), person_id: person, branch_id: newId(), source: "file", outcome: "finished" };
    await add("visits", { ...visit, ends_at: at, created_at: at, trace });
    for (const [n, [siteWhy]] of SITES.entries())
      await add("asks", {
        ...{ ...own(), plan_id: newId(), person_id: newId(), visit_id: visit.id, branch_id: newId(), anchor_at: at },
        ...{ token: `t${n}`, created_at: at, site_why: siteWhy, trace },
      });
    const feed = { ...own(), kind: "calendar", created_at: at };
    for (const [said] of FETCHED) await add("feeds", { ...feed, id: newId(), name: said, said });
    for (const [error] of UNFETCHED) await add("feeds", { ...feed, id: newId(), name: error, error });
    for (const [what, state] of [
      ["Odette Marsh is new: a visit today at 14:05, finished.", "done"],
      ["Odette Marsh: nothing new about the visit.", "done"],
      ["Nobody; no visit.", "done"],
      ["“12” is not a phone number.", "failed"],
      ["“odd” is no event that Estima knows. Say what it means in the feed's setting.", "ignored"],
      ["Visit A7 is not known yet; tried again shortly.", "waiting"],
      ["The person was erased.", "done"],
    ])
      await add("inbound_events", {
        ...own(),
        feed_id: feed.id,
        body: {},
        at,
        event_id: what,
        what,
        state,
        visit_id: visit.id,
      });
    const list = { ...own(), at, source: "file", brought_by: "Maud" };
    const asked = (what: string) => ({ row: 1, name: "x", what, endsAt: 0 });
    await add("intakes", { ...list, state: "failed", name: "a", error: "There are no rows in it." });
    const kept = "Nobody kept it within 30 days, so its contents were removed.";
    await add("intakes", { ...list, id: newId(), state: "failed", name: "c", error: kept });
    await add("intakes", {
      ...{ ...list, id: newId(), state: "ready", name: "b" },
      forecast: { visits: ["asked at once", "asked tomorrow at 9:00", "resting", "looked at when it ends"].map(asked) },
    });
    const problems = JSON.stringify(REMARKS.map(([message]) => ({ field: "email", message })));
    await add("intake_rows", { client_id: client, intake_id: list.id, row: 1, state: "doubtful", problems });
    const why = "12.5 % of its messages came back (5 of 40), more than the 10 % it may";
    const plan = { ...own(), name: "Lists", state: "paused", rules: {}, running_since: at };
    await add("plans", { ...plan, paused_why: why });
    const notice = { client_id: client, subject: "x", created_at: at };
    await add("notices", { ...notice, id: newId(), about: "allowance 2026-11 text 500", words: "…", path: "/asking" });
    await add("notices", {
      ...{ ...notice, id: newId(), about: `plan ${plan.id} paused 1`, path: `/asking/plans/${plan.id}` },
      words: `“Lists” paused by itself: ${why}. What it had planned is held, nothing is lost.`,
    });
    const listing = { client_id: client, branch_id: newId(), url: "https://a.example" };
    await add("listings", { ...listing, id: newId(), site: "A", problem: "the site answers 404" });
    await add("listings", { ...listing, id: newId(), site: "B", collect_error: "Waypost refused: Out of order (500)" });
    await add("people", {
      ...{ ...own(), id: person, given: "Odette", created_at: at, email_bounced_why: "550 5.1.1 Unknown" },
      ...{ text_opted_out_how: "wrote “STOP”", email_opted_out_how: "by the link in an email" },
    });
    const entry = { client_id: client, at, who: "Maud" };
    for (const [subject, action] of [
      ["visit", "set to no-show"],
      ["list", "kept and began asking"],
      ["people", "took out"],
      ["plan", "set running"],
      ["person", "undid a merge of"],
    ])
      await add("audit_entries", { ...entry, id: newId(), subject, action });
    await add("audit_entries", { ...entry, id: newId(), subject: "plan", action: "paused", details: { why } });
  }

  const read = async <T>(schema: z.ZodType<T>, sql: string): Promise<T[]> => z.array(schema).parse(await column(sql));

  test("why messages are as they are", async () => {
    const reasons = await read(MESSAGE_REASON.nullable(), "select reason as it from messages order by step");
    expect(reasons.map(messageSentence)).toEqual(MESSAGES.map(([before, after]) => after ?? before));
    expect(
      await column("select gateway_said as it from messages where gateway_said is not null order by step"),
    ).toEqual(["550 No such mailbox here", "552 5.2.2 Quota", "Out of order (500)"]);
  });

  test.each(["visits", "asks"])("what decided, in %s", async (table) => {
    const [trace] = await read(z.array(TRACE_LINE), `select trace as it from ${table}`);
    expect(trace.map(({ finding }) => finding.code)).not.toContain("not recorded");
    for (const [n, line] of trace.entries()) {
      expect(traceSentence(line)).toContain(TRACE[n][3]);
    }
  });

  test("what came in and what was wrong with it", async () => {
    const remarks = await read(z.array(REMARK), "select problems as it from intake_rows");
    expect(remarks[0].map(remarkSentence)).toEqual(REMARKS.map(([, now]) => now));
    const byName = "from feeds order by name";
    const fetched = await read(
      FETCH_REPORT,
      `select report as it ${byName.replace("order", "where report is not null order")}`,
    );
    expect(fetched.map(fetchSentence).sort()).toEqual(saidNow(FETCHED));
    const failed = await read(
      FETCH_PROBLEM,
      `select problem as it ${byName.replace("order", "where problem is not null order")}`,
    );
    expect(failed.map(fetchProblemSentence).sort()).toEqual(saidNow(UNFETCHED));
    expect(
      (await read(EVENT_RESULT, "select result as it from inbound_events order by event_id"))
        .map(({ code }) => code)
        .sort(),
    ).toEqual(["erased", "taken in", "taken in", "taken in", "unknown event", "unusable", "visit not known"]);
    expect(await read(EVENT_RESULT, "select result as it from inbound_events where event_id like '%is new%'")).toEqual([
      {
        ...{ code: "taken in", name: "Odette Marsh", isNew: true, remark: null },
        visit: { change: "new", endsAt: Date.UTC(2026, 10, 24, 14), outcome: "finished" },
      },
    ]);
    expect(
      (await read(FILE_PROBLEM, "select error as it from intakes where error is not null order by name")).map(
        fileSentence,
      ),
    ).toEqual(["It has no rows.", "Nobody imported it within 30 days, so we deleted its contents."]);
    const verdicts = "select v -> 'what' as it from intakes, jsonb_array_elements(forecast -> 'visits') v";
    expect((await read(FORECAST_VERDICT, verdicts)).map(({ code }) => code)).toEqual([
      "asked",
      "not recorded",
      "left out",
      "decided later",
    ]);
  });

  test("sites, pauses, notices, people and the trail", async () => {
    const sites = await read(SITE_REASON, "select site_why as it from asks order by token");
    expect(sites.map(siteWords)).toEqual(SITES.map(([, now]) => now));
    expect((await read(PAUSE_REASON, "select paused_why as it from plans")).map(pauseWords)).toEqual([
      "12.5% of its messages bounced (5 of 40), over its limit of 10%",
    ]);
    expect(await read(NOTICE, "select content as it from notices order by about")).toMatchObject([
      { code: "allowance used up", channel: "text", most: 500, renewedAt: Date.UTC(2026, 11, 1) },
      { code: "plan paused", plan: "Lists", why: { code: "came back", share: 12.5 } },
    ]);
    expect(
      await read(SITE_PROBLEM, "select coalesce(problem, collect_error) as it from listings order by site"),
    ).toEqual([
      { code: "answered", status: 404 },
      { code: "answered", status: 500 },
    ]);
    expect(await read(GATEWAY_REPLY, "select email_bounced_why as it from people")).toEqual([
      { code: "no such address", status: 550, enhanced: "5.1.1" },
    ]);
    expect(
      await read(OPT_OUT_WAY, "select unnest(array[text_opted_out_how, email_opted_out_how]) as it from people"),
    ).toEqual([{ code: "wrote back", word: "STOP" }, { code: "link in an email" }]);
    const trail = await read(z.enum(AUDIT_ACTIONS), "select action as it from audit_entries");
    expect(trail.sort()).toEqual(["exported", "imported and asked", "paused", "set outcome", "started", "undid merge"]);
    expect(await column("select details as it from audit_entries where details is not null order by action")).toEqual([
      { why: { code: "came back", share: 12.5, count: 5, of: 40, most: 10 } },
      { outcome: "no-show" },
    ]);
  });
});
