import type {
  Reaction,
  Rehearsal,
  RehearsedClient,
  RehearsedMessage,
  RehearsedPerson,
  RehearsedPlan,
  RehearsedVisit,
} from "@/core/asks/rehearsal";
import { rehearse } from "@/core/asks/rehearse";
import { PLAIN_RULES, type PlanRules } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { stableHash } from "@/core/stableHash";
import { type SendCalendar, weekOf } from "@/core/time/sendHours";
import { DAY, MINUTE, toLocal } from "@/core/time/zone";
import { decide as townsperson } from "../../../standins/townsfolk/decide";
import { breaches, brief, type World } from "../../support/invariants";
import { size } from "../../support/size";

/**
 * A year of four businesses in four zones, each with thousands of visits, through all their clock changes,
 * with townsfolk who open, answer, complain, write back, review and opt out: the very functions that decide and send,
 * one due moment after the other. What must hold whatever happens stands in one table.
 */
describe("year", () => {
  const YEAR = Date.UTC(2026, 0, 1);
  const PEOPLE = size(800, 2500);
  const VISITS = 5 * PEOPLE;
  const ZONES = ["Europe/London", "America/New_York", "Australia/Sydney", "America/St_Johns"];

  const starter = (key: string): PlanRules => STARTERS.find((one) => one.key === key)?.rules(["landlord"]) as PlanRules;

  function worldOf(seed: string, zone: string): World {
    const chance = (...words: (string | number)[]) => stableHash(seed, zone, ...words.map(String));
    const saturdays = weekOf([0, 1, 2, 3, 4, 5], 9 * 60, 18 * 60);
    const calendar: SendCalendar = {
      zone,
      hours: { text: weekOf([0, 1, 2, 3, 4], 8 * 60 + 30, 19 * 60), email: saturdays },
      closedDays: new Set([20447, 20454, 20812, 20813]),
    };
    const plans: RehearsedPlan[] = [
      {
        id: "lists",
        name: "Lists",
        state: "running",
        rules: { ...starter("reawaken"), portions: { perDay: 25, mostBounced: 5, mostOptedOut: 3 } },
      },
      {
        id: "jobs",
        name: "Jobs",
        state: "running",
        rules: { ...starter("job"), goesFirst: true, households: "one only" },
      },
      {
        id: "paid",
        name: "Paid",
        state: "running",
        rules: {
          ...starter("invoice"),
          repeat: { kind: "every visit" },
          steps: [{ ...starter("invoice").steps[0], channel: "both" }, starter("invoice").steps[1]],
        },
      },
      {
        id: "old mill",
        name: "Old Mill",
        state: "running",
        rules: {
          ...starter("feeling"),
          begins: { kind: "visit", services: [], branches: ["mill"], kinds: [] },
          repeat: { kind: "rest", days: 45 },
        },
      },
      {
        id: "all",
        name: "All",
        state: "running",
        rules: { ...PLAIN_RULES, ...starterRules(["landlord"]), repeat: { kind: "rest", days: 30 } },
      },
    ];
    const people = new Map<string, RehearsedPerson>();
    for (let n = 0; n < PEOPLE; n++) {
      const id = `p${n}`;
      const is = (what: string, share: number) => chance(what, n) < share;
      const isMinor = is("minor", 0.05);
      const guardian = isMinor && is("guardian", 0.8) && n > 0 ? `p${n - 1}` : null;
      people.set(id, {
        id,
        name: `Person ${n}`,
        doNotAsk: is("never", 0.01) ? "asked us not to" : null,
        tags: is("landlord", 0.05) ? ["landlord"] : [],
        addresses: {
          email: is("email", 0.8) ? `${id}@post.example` : null,
          emailBounced: is("bounced", 0.02),
          emailOptedOut: is("out", 0.02),
          phone: is("phone", 0.6) ? `+4477${n}` : null,
          phoneTakesTexts: is("mobile", 0.9),
          textBounced: false,
          textOptedOut: false,
          prefers: is("prefers", 0.3) ? "email" : null,
        },
        toId: guardian ?? id,
        isMinor,
        hasGuardian: guardian !== null,
        home: is("home", 0.2) && n > 2 ? `home ${Math.floor(n / 3)}` : (guardian ?? id),
        zones: is("elsewhere", 0.05) ? ["Europe/Lisbon", "Atlantic/Azores"] : [],
        consent: is("refused", 0.01) ? false : is("agreed", 0.5) ? true : null,
        restUntil: is("rests", 0.01) ? YEAR + 100 * DAY : null,
        lastAskedAt: null,
        lastAskedByHandAt: null,
        lastAskedByPlan: {},
        lastReviewedAt: null,
        lastMessageAt: null,
        goesFirst: is("first", 0.02),
      });
    }
    const visits = new Map<string, RehearsedVisit>();
    const kinds = ["appointment", "job", "invoice", "stay"] as const;
    for (let n = 0; n < VISITS; n++) {
      const endsAt =
        YEAR + Math.floor(chance("when", n) * 365) * DAY + Math.floor(chance("hour", n) * 24 * 60) * MINUTE;
      const fromList = chance("list", n) < 0.04;
      const outcome = chance("outcome", n);
      const id = `v${n}`;
      visits.set(id, {
        id,
        personId: `p${Math.floor(chance("who", n) * PEOPLE)}`,
        branchId: chance("branch", n) < 0.3 ? "mill" : "quay",
        serviceId: chance("service", n) < 0.03 ? "care" : "check",
        kind: kinds[Math.floor(chance("kind", n) * kinds.length)],
        fromList,
        isSpread: fromList,
        endsAt,
        examineAt: fromList ? endsAt + 3 * DAY : endsAt,
        outcome: outcome < 0.03 ? "cancelled" : outcome < 0.05 ? "no-show" : outcome < 0.5 ? "booked" : "finished",
        tags: [],
      });
    }
    const client: RehearsedClient = {
      zone,
      restDays: 10,
      needsConsent: false,
      gapMinutes: 240,
      bookedCountsAsFinished: true,
      neverTags: [],
      services: { check: { name: "Check-up", neverAsk: false }, care: { name: "End-of-life care", neverAsk: true } },
      ceilings: { text: 6, email: 9 },
      allowances: { text: Math.round(PEOPLE * 0.168), email: Math.round(PEOPLE * 0.36) },
      used: { text: 0, email: 0 },
      recentSends: { text: [], email: [] },
      leavesOutWhenUsedUp: false,
      calendars: { mill: calendar, quay: calendar },
    };
    return { zone, client, calendar, plans, people, visits };
  }

  /** What townsfolk make of a message: the same people who live in the demo's town. */
  function reactionsTo(message: RehearsedMessage, zone: string): Reaction[] {
    const acts = townsperson({
      seed: 7,
      channel: message.channel,
      address: `${zone} ${message.personId}`,
      link: "x",
      at: message.at,
      trade: "vets",
      it: null,
    });
    return acts.flatMap((act): Reaction[] => {
      if (act.kind === "open") return [{ kind: "opened", at: act.at }];
      if (act.kind === "write back") return [{ kind: "wrote back", at: act.at }];
      if (act.kind === "stop" || act.kind === "unsubscribe") return [{ kind: "opted out", at: act.at }];
      const answered: Reaction = { kind: "answered", rating: act.rating, at: act.at };
      return act.review && act.rating > 3 ? [answered, { kind: "reviewed", at: act.at + 5 * MINUTE }] : [answered];
    });
  }

  function live(world: World): Rehearsal {
    return rehearse({
      plans: world.plans,
      visits: [...world.visits.values()],
      people: world.people,
      client: world.client,
      underWay: [],
      now: YEAR,
      until: YEAR + 500 * DAY,
      partsOf: (message) => (message.channel === "text" ? 1 + (message.step % 2) : null),
      react: (message) => reactionsTo(message, world.zone),
    });
  }

  describe("a year of four businesses in four zones", () => {
    const lived = ZONES.map((zone) => {
      const world = worldOf("merrow bay", zone);
      return { world, rehearsal: live(world) };
    });

    test("a good deal happens", () => {
      const all = lived.flatMap(({ rehearsal }) => rehearsal.messages);
      const stops = lived.flatMap(({ rehearsal }) => rehearsal.stops);
      expect(lived.reduce((sum, { world }) => sum + world.people.size, 0)).toBe(4 * PEOPLE);
      expect(lived.reduce((sum, { world }) => sum + world.visits.size, 0)).toBe(4 * VISITS);
      expect(all.length).toBeGreaterThan(10 * PEOPLE);
      for (const kind of ["answered", "opted out", "wrote back", "reviewed"] as const)
        expect(stops.filter((one) => one.kind === kind).length).toBeGreaterThan(PEOPLE / 60);
      for (const plan of ["lists", "jobs", "paid", "old mill", "all"])
        expect(all.filter(({ planId }) => planId === plan).length).toBeGreaterThan(PEOPLE / 25);
      const why = new Set(all.flatMap((message) => message.why));
      for (const reason of [
        "delay",
        "gap",
        "ceiling",
        "spread",
        "allowance",
        "hours",
        "closed day",
        "recipient hours",
        "other channel",
      ] as const)
        expect(why).toContain(reason);
      const reasons = new Set(lived.flatMap(({ rehearsal }) => rehearsal.verdicts.map(({ reason }) => reason)));
      expect(reasons.size).toBeGreaterThan(12);
      // On the days on which the clocks change something leaves too.
      const changes: Record<string, string[]> = {
        "Europe/London": ["2026-03-30", "2026-10-26"],
        "America/New_York": ["2026-03-09", "2026-11-02"],
      };
      for (const { world, rehearsal } of lived)
        for (const day of changes[world.zone] ?? [])
          expect(
            rehearsal.messages.some(({ at }) => new Date(toLocal(world.zone, at)).toISOString().startsWith(day)),
          ).toBe(true);
    });

    const table = Object.keys(breaches(lived[0].world, lived[0].rehearsal));
    test.each(table)("%s", (name) => {
      for (const { world, rehearsal } of lived)
        expect(
          breaches(world, rehearsal)
            [name].slice(0, 2)
            .map((found) => brief(found)),
        ).toEqual([]);
    });

    test("the same seed gives the same year, another seed another one", () => {
      const digest = ({ messages, verdicts }: Rehearsal) =>
        stableHash(
          JSON.stringify(messages.map(({ at, personId, leg, channel }) => [at, personId, leg, channel])),
          JSON.stringify(verdicts.map(({ reason }) => reason)),
        );
      const first = digest(lived[0].rehearsal);
      expect(digest(live(worldOf("merrow bay", ZONES[0])))).toBe(first);
      expect(digest(live(worldOf("elsewhere", ZONES[0])))).not.toBe(first);
    });
  });
});
