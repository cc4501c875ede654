import fc from "fast-check";
import { PLAIN_RULES, type PlanRules, type PlanStep } from "../plans/planRules";
import { STARTERS, starterRules } from "../plans/starters";
import { weekOf } from "../time/sendHours";
import { DAY, HOUR, MINUTE } from "../time/zone";
import { EventQueue } from "./eventQueue";
import type {
  Reaction,
  RehearsedClient,
  RehearsedMessage,
  RehearsedPerson,
  RehearsedPlan,
  RehearsedVisit,
} from "./rehearsal";
import { rehearse } from "./rehearse";
import { homeOf, joinable } from "./sharedDay";

/** Tue 24 Nov 2026, 9:00 in Merrow Bay. */
const NINE = Date.UTC(2026, 10, 24, 9);
const week = weekOf([0, 1, 2, 3, 4, 5], 9 * 60, 19 * 60);
const calendar = { zone: "Europe/London", hours: { text: week, email: week }, closedDays: new Set<number>() };

const person = (id: string, change: Partial<RehearsedPerson> = {}): RehearsedPerson => ({
  id,
  name: id,
  doNotAsk: null,
  tags: [],
  addresses: {
    email: `${id}@post.example`,
    emailBounced: false,
    emailOptedOut: false,
    phone: `+44770090${id.length}${id.charCodeAt(0)}`,
    phoneTakesTexts: true,
    textBounced: false,
    textOptedOut: false,
    prefers: null,
  },
  toId: id,
  isMinor: false,
  hasGuardian: false,
  home: id,
  zones: [],
  consent: null,
  restUntil: null,
  lastAskedAt: null,
  lastAskedByHandAt: null,
  lastAskedByPlan: {},
  lastReviewedAt: null,
  lastMessageAt: null,
  goesFirst: false,
  ...change,
});

const visit = (personId: string, endsAt: number, change: Partial<RehearsedVisit> = {}): RehearsedVisit => ({
  id: `${personId} ${endsAt}`,
  personId,
  branchId: "quay",
  serviceId: "check",
  kind: "appointment",
  fromList: false,
  isSpread: false,
  endsAt,
  examineAt: endsAt,
  outcome: "finished",
  tags: [],
  ...change,
});

const client = (change: Partial<RehearsedClient> = {}): RehearsedClient => ({
  zone: "Europe/London",
  restDays: 0,
  needsConsent: false,
  gapMinutes: 0,
  bookedCountsAsFinished: true,
  neverTags: [],
  services: { check: { name: "Check-up", neverAsk: false } },
  ceilings: { text: null, email: null },
  allowances: { text: null, email: null },
  used: { text: 0, email: 0 },
  recentSends: { text: [], email: [] },
  leavesOutWhenUsedUp: false,
  calendars: { quay: calendar },
  ...change,
});

const plan = (rules: Partial<PlanRules> = {}, id = "plan"): RehearsedPlan => ({
  id,
  name: id,
  state: "running",
  rules: { ...starterRules(), ...rules },
});

const step = (change: Partial<PlanStep>): PlanStep => ({
  ...starterRules().steps[0],
  key: "x",
  name: "X",
  others: [],
  ...change,
});

function play(it: {
  people: RehearsedPerson[];
  visits: RehearsedVisit[];
  plans?: RehearsedPlan[];
  client?: Partial<RehearsedClient>;
  react?: (message: RehearsedMessage) => Reaction[];
  until?: number;
}) {
  return rehearse({
    plans: it.plans ?? [plan()],
    visits: it.visits,
    people: new Map(it.people.map((one) => [one.id, one])),
    client: client(it.client),
    underWay: [],
    now: NINE,
    until: it.until ?? NINE + 90 * DAY,
    partsOf: ({ channel }) => (channel === "text" ? 1 : null),
    react: it.react,
  });
}

const at = (branch: string): PlanRules["begins"] => ({ kind: "visit", services: [], branches: [branch], kinds: [] });

const brief = ({ messages }: ReturnType<typeof play>) =>
  messages.map(({ personId, at, channel }) => `${personId} ${channel} ${new Date(at).toISOString().slice(5, 16)}`);

describe("one person", () => {
  test("gets the text two hours later and the email two days after it at ten, and nothing else", () => {
    expect(brief(play({ people: [person("ada")], visits: [visit("ada", NINE)] }))).toEqual([
      "ada text 11-24T11:00",
      "ada email 11-26T10:00",
    ]);
  });

  test("who answers gets nothing more; who is asked again too soon is left out with the reason", () => {
    const played = play({
      people: [person("ada")],
      visits: [visit("ada", NINE), visit("ada", NINE + 30 * DAY)],
      react: ({ at, leg }) => (leg === 0 ? [{ kind: "answered", rating: 5, at: at + HOUR }] : []),
    });
    expect(brief(played)).toEqual(["ada text 11-24T11:00"]);
    expect(played.verdicts.map(({ reason }) => reason)).toEqual([null, "resting"]);
    expect(played.stops).toHaveLength(1);
  });

  test("with no address that works is left out, and told so", () => {
    const mute = person("ada", { addresses: { ...person("ada").addresses, email: null, phone: null } });
    const played = play({ people: [mute], visits: [visit("ada", NINE)] });
    expect(played.messages).toEqual([]);
    expect(played.verdicts[0].reason).toBe("no reachable address");
  });

  test("booked visits count as finished when they end, where the client says so", () => {
    const booked = [visit("ada", NINE, { outcome: "booked" })];
    expect(play({ people: [person("ada")], visits: booked }).messages).toHaveLength(2);
    expect(
      play({ people: [person("ada")], visits: booked, client: { bookedCountsAsFinished: false } }).verdicts[0].reason,
    ).toBe("not finished");
  });
});

describe("a household's day", () => {
  const home = (id: string) => person(id, { home: "the Marshes" });

  test("becomes one ask that waits for the last visit", () => {
    const played = play({
      people: [home("ada"), home("ben")],
      visits: [visit("ada", NINE), visit("ben", NINE + HOUR)],
    });
    expect(brief(played)).toEqual(["ada text 11-24T12:00", "ada email 11-26T10:00"]);
    expect(played.verdicts.map(({ joins }) => joins)).toEqual([false, true]);
    expect(played.messages[0].visitIds).toHaveLength(2);
  });

  test("what comes when the first message has left is left out, and so is everyone else where the plan says one only", () => {
    const late = play({
      people: [home("ada"), home("ben")],
      visits: [visit("ada", NINE), visit("ben", NINE + 5 * HOUR)],
    });
    expect(late.verdicts.map(({ reason }) => reason)).toEqual([null, "household asked"]);
    const one = play({
      people: [home("ada"), home("ben")],
      visits: [visit("ada", NINE), visit("ben", NINE + HOUR)],
      plans: [plan({ households: "one only" })],
    });
    expect(one.verdicts.map(({ reason }) => reason)).toEqual([null, "household asked"]);
    const each = play({
      people: [home("ada"), home("ben")],
      visits: [visit("ada", NINE), visit("ben", NINE + HOUR)],
      plans: [plan({ households: "each" })],
    });
    expect(each.verdicts.map(({ reason }) => reason)).toEqual([null, null]);
  });

  test("an ask is joined only while it is open, of the same plan, not by hand, and nothing of it has left", () => {
    const ask = (change: object) => ({
      open: true,
      soFar: { done: 0, byHand: false },
      plan: { id: "plan" },
      person: { id: "ada", name: "Ada" },
      ...change,
    });
    expect(joinable([ask({})], "plan")).not.toBeNull();
    for (const change of [
      { open: false },
      { soFar: { done: 1, byHand: false } },
      { soFar: { done: 0, byHand: true } },
      { plan: { id: "other" } },
    ])
      expect(joinable([ask(change)], "plan")).toBeNull();
    // Whoever has an ask about another day does not join; an ask that ended unsent asked nobody.
    expect(homeOf([ask({})], "plan", "ben", ask({ person: { id: "ben", name: "Ben" } }))).toMatchObject({
      canJoin: false,
    });
    expect(homeOf([ask({ open: false })], "plan", "ben", null)).toBeNull();
    expect(homeOf([ask({ soFar: { done: 1, byHand: false } })], "plan", "ada", null)).toMatchObject({
      canJoin: false,
      isOwn: true,
    });
  });
});

describe("pace", () => {
  const many = Array.from({ length: 6 }, (_, n) => `person ${n}`);

  test("a ceiling gives each its moment, and those that go first come first", () => {
    const played = play({
      people: many.map((id, n) => person(id, { goesFirst: n === 5 })),
      visits: many.map((id) => visit(id, NINE)),
      client: { ceilings: { text: 2, email: null } },
      plans: [plan({ steps: starterRules().steps.slice(0, 1) })],
    });
    expect(played.messages[0].personId).toBe("person 5");
    expect(played.messages.map(({ at }) => (at - NINE) / HOUR)).toEqual([2, 2, 3, 3, 4, 4]);
  });

  test("a moment that the texts kept lets no email past the ceiling of the emails", () => {
    const hour = { amount: 1, unit: "hours" } as const;
    // Ben's text waits for eleven behind Ann's; by then it is no longer wanted, and an email is, like Cat's.
    const played = play({
      people: ["ann", "ben", "cat"].map((id) => person(id, { tags: [id] })),
      visits: [
        visit("ann", NINE - HOUR, { branchId: "ann" }),
        visit("ben", NINE),
        visit("cat", NINE, { branchId: "cat" }),
      ],
      client: { ceilings: { text: 1, email: 1 }, calendars: { quay: calendar, ann: calendar, cat: calendar } },
      plans: [
        plan({ begins: at("ann"), steps: [step({ channel: "text" })] }, "ann"),
        plan({ begins: at("cat"), steps: [step({ channel: "email" })] }, "cat"),
        plan({
          steps: [
            step({ channel: "email", delay: { amount: 0, unit: "minutes" } }),
            step({ key: "y", channel: "text", delay: hour, onlyIf: "not opened" }),
            step({ key: "z", channel: "email", delay: hour }),
          ],
        }),
      ],
      react: ({ personId, leg, at }) =>
        personId === "ben" && leg === 0 ? [{ kind: "opened", at: at + 90 * MINUTE }] : [],
    });
    const emails = brief(played).filter((line) => line.includes("email"));
    expect(emails).toEqual(["ben email 11-24T09:00", "ben email 11-24T11:00", "cat email 11-24T12:00"]);
  });

  test("an allowance holds the rest until the month turns, and then as many again", () => {
    const played = play({
      people: many.map((id) => person(id)),
      visits: many.map((id) => visit(id, NINE)),
      client: { allowances: { text: 4, email: 0 } },
      plans: [plan({ steps: starterRules().steps.slice(0, 1) })],
    });
    expect(played.messages.map(({ at }) => new Date(at).toISOString().slice(0, 10))).toEqual([
      ...Array(4).fill("2026-11-24"),
      ...Array(2).fill("2026-12-01"),
    ]);
  });

  test("used up, new visits are left out where the client wants nobody held", () => {
    const played = play({
      people: many.map((id) => person(id)),
      visits: many.map((id, n) => visit(id, NINE + n * DAY)),
      client: { allowances: { text: 1, email: 1 }, leavesOutWhenUsedUp: true },
    });
    expect(played.messages.filter(({ at }) => at < Date.UTC(2026, 11, 1))).toHaveLength(2);
    expect(played.verdicts.some(({ reason }) => reason === "allowance used up")).toBe(true);
  });

  test("an old list is asked in daily portions, newest first, and two lists of one day share it", () => {
    const old = (id: string, daysAgo: number) =>
      visit(id, NINE - daysAgo * DAY, { fromList: true, isSpread: true, examineAt: NINE });
    const rules = { ...PLAIN_RULES, ...(STARTERS.find(({ key }) => key === "reawaken")?.rules([]) as PlanRules) };
    const portions = { perDay: 2, mostBounced: 5, mostOptedOut: 3 };
    const played = play({
      people: many.map((id) => person(id)),
      visits: many.map((id, n) => old(id, 100 + ((n * 5) % 6))),
      plans: [plan({ ...rules, portions, steps: [step({ channel: "email", delay: { amount: 0, unit: "minutes" } })] })],
    });
    const newest = [...many].sort((a, b) => ((many.indexOf(a) * 5) % 6) - ((many.indexOf(b) * 5) % 6));
    const asked = played.verdicts.map(({ personId }) => personId);
    expect(asked).toEqual(newest);
    const days = played.messages.map(({ at }) => new Date(at).toISOString().slice(0, 10));
    expect(days).toEqual(["2026-11-24", "2026-11-24", "2026-11-25", "2026-11-25", "2026-11-26", "2026-11-26"]);
    expect(played.waiting).toBe(0);
    expect(
      play({
        people: many.map((id) => person(id)),
        visits: many.map((id) => old(id, 100)),
        plans: [plan({ ...rules, portions })],
        until: NINE + HOUR,
      }).waiting,
    ).toBe(4);
  });
});

describe("what people do", () => {
  test("STOP ends the asks of everybody who is written to at that address", () => {
    const ward = (id: string) => person(id, { toId: "mum", isMinor: true, hasGuardian: true });
    const played = play({
      people: [ward("ada"), ward("ben")],
      visits: [visit("ada", NINE), visit("ben", NINE + 3 * HOUR), visit("ben", NINE + 20 * DAY)],
      react: ({ personId, at }) => (personId === "ada" ? [{ kind: "opted out", at: at + 30 * MINUTE }] : []),
    });
    expect(brief(played)).toEqual(["ada text 11-24T11:00"]);
    expect(played.verdicts.map(({ reason }) => reason)).toEqual([null, "opted out", "opted out"]);
  });

  test("the happy go on to the review, the unhappy do not, and a changed mind is heard", () => {
    const feeling = STARTERS.find(({ key }) => key === "feeling")?.rules([]) as PlanRules;
    const answers: Record<string, number[]> = { happy: [5], unhappy: [1], turned: [1, 5] };
    const played = play({
      people: Object.keys(answers).map((id) => person(id)),
      visits: Object.keys(answers).map((id) => visit(id, NINE)),
      plans: [plan(feeling)],
      react: ({ personId, at, leg }) =>
        leg === 0
          ? answers[personId].map((rating, n): Reaction => ({ kind: "answered", rating, at: at + (n + 1) * HOUR }))
          : [],
    });
    const parts = (id: string) =>
      played.messages.filter(({ personId }) => personId === id).map(({ step: index }) => feeling.steps[index].part);
    expect(parts("unhappy")).toEqual(["first"]);
    expect(parts("happy")).toContain("review");
    expect(parts("turned")).toEqual(parts("happy"));
  });

  test("a reminder for those who have not opened passes over whoever has", () => {
    const steps = [
      step({ key: "a", name: "A" }),
      step({ key: "b", name: "B", onlyIf: "not opened", delay: { amount: 1, unit: "days" } }),
    ];
    const played = play({
      people: [person("opens"), person("sleeps")],
      visits: [visit("opens", NINE), visit("sleeps", NINE)],
      plans: [plan({ steps })],
      react: ({ personId, at }) => (personId === "opens" ? [{ kind: "opened", at: at + HOUR }] : []),
    });
    expect(played.messages.filter(({ personId }) => personId === "opens")).toHaveLength(1);
    expect(played.messages.filter(({ personId }) => personId === "sleeps")).toHaveLength(2);
  });

  test("whoever writes back is left alone, and a review rests them", () => {
    for (const kind of ["wrote back", "reviewed"] as const) {
      const played = play({
        people: [person("ada")],
        visits: [visit("ada", NINE), visit("ada", NINE + 10 * DAY)],
        react: ({ at, leg }) => (leg === 0 ? [{ kind, at: at + HOUR }] : []),
      });
      expect(played.messages).toHaveLength(1);
      expect(played.verdicts[1].reason).toBe("resting");
    }
  });
});

test("events come in the order of time, round, rank and tie, whatever the order they were added in", () => {
  const event = fc.record({
    at: fc.integer({ min: 0, max: 9 }),
    round: fc.integer({ min: 0, max: 2 }),
    rank: fc.integer({ min: 0, max: 3 }),
    tie: fc.string({ maxLength: 2 }),
  });
  fc.assert(
    fc.property(fc.array(event, { maxLength: 80 }), fc.nat({ max: 30 }), (events, early) => {
      const queue = new EventQueue();
      const key = ({ at, round, rank, tie }: (typeof events)[number]) => [at, round, rank, tie] as const;
      const isBefore = (a: (typeof events)[number], b: (typeof events)[number]) => {
        const [x, y] = [key(a), key(b)];
        for (let index = 0; index < 4; index++) if (x[index] !== y[index]) return x[index] < y[index];
        return false;
      };
      for (const one of events) queue.push({ ...one, run: () => {} });
      const out: (typeof events)[number][] = [];
      for (let n = 0; n < Math.min(early, events.length); n++) out.push(queue.pop() as (typeof events)[number]);
      for (const one of out) queue.push({ ...one, run: () => {} });
      const all: (typeof events)[number][] = [];
      for (let next = queue.pop(); next; next = queue.pop()) all.push(next);
      expect(all).toHaveLength(events.length);
      for (let index = 1; index < all.length; index++) expect(isBefore(all[index], all[index - 1])).toBe(false);
    }),
  );
});
