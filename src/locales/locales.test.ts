import fc from "fast-check";
import type { z } from "zod";
import { ACCOUNT_ACTIONS, ACCOUNT_SUBJECTS } from "@/core/access/accountActions";
import { PERMISSIONS, STARTER_ROLES } from "@/core/access/permissions";
import { NEED } from "@/core/activity/needs";
import { SITE_REASON } from "@/core/answers/siteMix";
import { FINDING, OUTCOMES, REASONS, TRACE_LINE } from "@/core/asks/findings";
import { MESSAGE_REASON, SCHEDULED } from "@/core/asks/messageReasons";
import { ASK_ENDS, STOPS, WHYS } from "@/core/asks/nextStep";
import { ASK_STAGES } from "@/core/asks/stages";
import { AUDIT_ACTIONS, AUDIT_SUBJECTS } from "@/core/audit/actions";
import { CONCERN_OUTCOMES } from "@/core/concerns/outcomes";
import { GATEWAY_CODES, GATEWAY_REPLY } from "@/core/contacts/gatewayReply";
import { OPT_OUT_WAY } from "@/core/contacts/optOut";
import { EVENT_RESULT, FETCH_PROBLEM, FETCH_REPORT } from "@/core/intake/feedReports";
import { FILE_PROBLEM } from "@/core/intake/fileProblems";
import { FORECAST_VERDICT } from "@/core/intake/forecast";
import { REMARK } from "@/core/intake/remarks";
import { REMINDER_STAGES } from "@/core/notices/choices";
import { NOTICE } from "@/core/notices/notice";
import { HOUSEHOLD_SIGNS, LIKENESS_SIGNS } from "@/core/people/likeness";
import { PAUSE_REASON } from "@/core/plans/pauseReason";
import { GRAVITIES } from "@/core/replies/gravity";
import { HIDDEN_REASONS } from "@/core/reviews/ownReviews";
import { SITE_PROBLEM, SITE_REMEDIES } from "@/core/reviews/siteProblems";
import { THEMES } from "@/core/themes/themes";
import { DELAY_UNITS } from "@/core/time/delay";
import { runs } from "../../tests/support/size";
import * as asking from "./asking";
import * as intake from "./intake";
import { needWords } from "./needs";
import * as operations from "./operations";
import { CATALOGUES, type Catalogue } from "./translate";

const ZONE = "Europe/London";
const NOW = Date.UTC(2026, 10, 24, 14);

/** The codes of a union that is told apart by `code`. */
const codesOf = (union: { options: readonly unknown[] }) =>
  union.options.map((option) => (option as { shape: { code: { value: string } } }).shape.code.value);
const without = (codes: readonly string[], ...others: string[]) => codes.filter((code) => !others.includes(code));

/** Which codes each part of a catalogue has words for. */
const ACCOUNT_MAILS = [
  "invitation",
  "password",
  "address",
  "address taken",
  "address changed",
  "client deleted",
  "digits locked",
  "sender",
];

const PARTS: Record<keyof Catalogue, readonly string[] | "words"> = {
  reason: REASONS,
  passed: REASONS,
  remedy: REASONS,
  outcome: OUTCOMES,
  finding: codesOf(FINDING),
  overruled: "words",
  delay: DELAY_UNITS,
  schedule: [
    "sendNow",
    "at once",
    ...SCHEDULED.shape.after.options.flatMap((of) => [`after ${of}`, `soon after ${of}`]),
  ],
  moved: without(WHYS, "delay", "at once", "sendNow"),
  message: without(codesOf(MESSAGE_REASON), "scheduled", "ask ended", "ask stopped"),
  ended: ASK_ENDS,
  stopped: STOPS,
  gateway: GATEWAY_CODES,
  optOut: codesOf(OPT_OUT_WAY),
  site: [...codesOf(SITE_REASON), "passed over"],
  toldLine: [
    "concern",
    "note",
    ...REMINDER_STAGES.map((stage) => `reminder ${stage}`),
    "review",
    "urgent concern",
    "urgent review",
    "approval",
    "conversation",
    "site",
  ],
  gravity: [...GRAVITIES, "visit"],
  toldMany: "words",
  toldChoices: "words",
  theme: THEMES,
  siteProblem: codesOf(SITE_PROBLEM),
  siteRemedy: SITE_REMEDIES,
  siteRemedyButton: SITE_REMEDIES,
  pause: codesOf(PAUSE_REASON),
  noticeSubject: codesOf(NOTICE),
  notice: codesOf(NOTICE),
  remark: codesOf(REMARK),
  file: codesOf(FILE_PROBLEM),
  fetched: [...codesOf(FETCH_REPORT), "added", "changed", "gone", "nobody", "unreadable", "zones", "not whole"],
  fetchProblem: without(codesOf(FETCH_PROBLEM), "file"),
  event: [
    ...without(codesOf(EVENT_RESULT), "unusable", "taken in"),
    ...["nobody", "nameless", "is new", "no visit", "new", "changed", "unchanged"],
  ],
  likeness: LIKENESS_SIGNS.shape.names.options,
  likenessBy: LIKENESS_SIGNS.shape.by.options,
  householdSign: HOUSEHOLD_SIGNS,
  stage: ASK_STAGES,
  concernOutcome: CONCERN_OUTCOMES,
  hiddenReason: HIDDEN_REASONS,
  auditAction: AUDIT_ACTIONS,
  auditSubject: AUDIT_SUBJECTS,
  forecast: [...codesOf(FORECAST_VERDICT), "asked at once"],
  permission: PERMISSIONS,
  roleName: STARTER_ROLES,
  roleSays: STARTER_ROLES,
  summary: ["subject", "lead", "rest", "end"],
  accountMailSubject: ACCOUNT_MAILS,
  accountMail: ACCOUNT_MAILS,
  needTitle: codesOf(NEED),
  // What is wrong with a site, and what ends it, are its problem's words.
  needSays: without(codesOf(NEED), "site unreadable"),
  needButton: without(codesOf(NEED), "site unreadable"),
  accountAction: ACCOUNT_ACTIONS,
  accountSubject: ACCOUNT_SUBJECTS,
};

describe.each(Object.entries(CATALOGUES))("the catalogue %s", (_language, catalogue) => {
  test("has just the parts that codes have", () => {
    expect(Object.keys(catalogue).sort()).toEqual(Object.keys(PARTS).sort());
  });
  test.each(Object.entries(PARTS))("has words for every code of %s, and no others", (part, codes) => {
    const words = catalogue[part as keyof Catalogue];
    if (codes === "words") expect(words).toEqual(expect.any(String));
    else expect(Object.keys(words).sort()).toEqual([...codes].sort());
  });
});

/** Any value of a schema: what rows may hold. */
function anyOf(schema: z.core.$ZodType): fc.Arbitrary<unknown> {
  const { def } = schema._zod;
  const kind = def as unknown as { type: string } & Record<string, never>;
  const it = def as unknown as {
    options: z.core.$ZodType[];
    shape: Record<string, z.core.$ZodType>;
    element: z.core.$ZodType;
    innerType: z.core.$ZodType;
    entries: Record<string, string>;
    values: unknown[];
    format?: string;
  };
  switch (kind.type) {
    case "union":
      return fc.oneof(...it.options.map(anyOf));
    case "object":
      return fc.record(Object.fromEntries(Object.entries(it.shape).map(([key, value]) => [key, anyOf(value)])));
    case "array":
      return fc.array(anyOf(it.element), { maxLength: 4 });
    case "nullable":
      return fc.option(anyOf(it.innerType), { nil: null });
    case "optional":
      return fc.option(anyOf(it.innerType), { nil: undefined });
    case "enum":
      return fc.constantFrom(...Object.values(it.entries));
    case "literal":
      return fc.constantFrom(...it.values);
    case "boolean":
      return fc.boolean();
    case "number":
      return fc.oneof(fc.constantFrom(0, 1, 2), fc.integer({ min: 0, max: 1439 }));
    case "string":
      if (it.format === "uuid") return fc.uuid();
      if (it.format === "regex") return fc.constantFrom("5.1.1", "4.2.2");
      return fc.oneof(
        fc.constantFrom("Odette Marsh", "{", "'", "<b>", "", "}{{"),
        fc.string({ maxLength: 12 }).map((text) => text.replaceAll("{", "")),
      );
    default:
      throw new Error(`No values for a schema of the type ${kind.type}`);
  }
}

const SENTENCES: [string, z.core.$ZodType, (value: never) => string][] = [
  ["findings", TRACE_LINE, (line: z.infer<typeof TRACE_LINE>) => asking.traceSentence(line)],
  ["schedules", SCHEDULED, asking.scheduleSentence],
  ["reasons of messages", MESSAGE_REASON, asking.messageSentence],
  ["answers of gateways", GATEWAY_REPLY, asking.gatewayWords],
  ["ways to opt out", OPT_OUT_WAY, asking.optOutWords],
  ["reasons for a site", SITE_REASON, asking.siteWords],
  ["remarks", REMARK, intake.remarkSentence],
  ["problems of files", FILE_PROBLEM, intake.fileSentence],
  ["reports of feeds", FETCH_REPORT, intake.fetchSentence],
  ["problems of feeds", FETCH_PROBLEM, intake.fetchProblemSentence],
  ["results of deliveries", EVENT_RESULT, (it: z.infer<typeof EVENT_RESULT>) => intake.eventSentence(it, ZONE, NOW)],
  ["forecasts", FORECAST_VERDICT, (it: z.infer<typeof FORECAST_VERDICT>) => intake.forecastWords(it, ZONE, NOW)],
  ["signs of one person", LIKENESS_SIGNS, intake.likenessWords],
  ["pauses", PAUSE_REASON, operations.pauseWords],
  ["problems of sites", SITE_PROBLEM, operations.siteProblemWords],
  ["needs", NEED, (it: z.infer<typeof NEED>) => Object.values(needWords(it, ZONE, NOW)).join(" ")],
  [
    "notices",
    NOTICE,
    (it: z.infer<typeof NOTICE>) => {
      const { subject, words } = operations.noticeMail(it, { name: "Fenwick Vets", zone: ZONE }, NOW);
      return `${subject} ${words}`;
    },
  ],
];

test.each(SENTENCES)("%s are said whatever their parameters, with every value in its place", (_name, schema, say) => {
  fc.assert(
    fc.property(anyOf(schema), (value) => {
      const words = say(value as never);
      // What a message could not fill in would stand there as its placeholder.
      expect(words).not.toMatch(/\{[a-z]+(?:,|\})/i);
      expect(words).not.toContain("undefined");
      expect(words).not.toContain("[object");
    }),
    { numRuns: runs(400) },
  );
});

test("sentences read as people say them", () => {
  const line = (rule: string, objects: boolean, finding: object, more: object = {}) =>
    asking.traceSentence(TRACE_LINE.parse({ rule, objects, finding, ...more }));
  expect([
    line("too late", true, { code: "ended", days: 0, most: 1 }),
    line("too late", false, { code: "ended", days: 3, most: 7 }),
    line("plan paused", false, { code: "plan running" }),
    line("resting", false, { code: "rest", since: "asked", days: 1, rest: 60, everywhere: true }, { overruled: true }),
    line("no plan", false, { code: "plan takes it", plan: "A", before: ["B", "C"] }),
    asking.gatewayWords({ code: "mailbox full", status: 552, enhanced: "5.2.2" }),
    intake.fetchSentence({
      ...{
        code: "calendar read",
        events: 12,
        added: 1,
        changed: 0,
        gone: 2,
        nobody: 0,
        unreadable: 0,
        zones: ["Office"],
      },
      isWhole: true,
    }),
    operations.pauseWords({ code: "came back", share: 12.5, count: 5, of: 40, most: 10 }),
  ]).toEqual([
    "Too late after the visit: ended less than a day ago; the plan asks within 1 day.",
    "The visit is recent enough (ended 3 days ago; the plan asks within 7 days).",
    "The plan is running.",
    "They aren’t resting (asked 1 day ago; the rest is 60 days across all plans; asked by hand anyway).",
    "A plan applies (“A” covers it, because it comes before “B” and “C”).",
    "the mailbox is full (552, 5.2.2)",
    "12 events checked, one new visit, 0 changed, 2 removed, the time zone “Office” is unknown, so set one like Europe/London in the calendar.",
    "12.5% of its messages bounced (5 of 40), over its limit of 10%",
  ]);
});
