import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { permissionsOf, STARTER_ROLES } from "../access/permissions";
import { HOUR, MINUTE, timeOfDay, toLocal } from "../time/zone";
import {
  isRemindedAt,
  isTold,
  outsideQuiet,
  reminderStage,
  startChoice,
  TOLD_CHOICE,
  type ToldChoice,
  toldAt,
} from "./choices";

/** What somebody is told, and when. */

const TUESDAY = Date.UTC(2026, 10, 24, 14, 5);
const BRANCH = "0198a000-0000-7000-8000-000000000001";
const OTHER = "0198a000-0000-7000-8000-000000000002";
const rights = (role: (typeof STARTER_ROLES)[number]) => ({ permissions: permissionsOf(role) });

test.each(STARTER_ROLES)("%s begins with something sensible", (role) => {
  const choice = startChoice(rights(role), role === "agency");
  expect(TOLD_CHOICE.parse(choice)).toEqual(choice);
  const told = (["concern", "approval", "site"] as const).filter((kind) =>
    isTold(choice, rights(role), { kind, branchId: BRANCH }),
  );
  expect(told).toEqual(
    { agency: ["site"], manager: ["concern", "approval", "site"], desk: ["concern"], reader: [] }[role],
  );
  expect(choice.ways).toEqual(role === "manager" || role === "agency" ? ["email"] : []);
});

test("nobody is told of what they may not see, or of another branch than they chose", () => {
  const all: ToldChoice = { ...startChoice(rights("manager"), false), reviewsUpTo: 5 };
  expect(isTold(all, rights("manager"), { kind: "review", branchId: BRANCH, rating: 5 })).toBe(true);
  expect(isTold({ ...all, reviewsUpTo: 3 }, rights("manager"), { kind: "review", branchId: BRANCH, rating: 4 })).toBe(
    false,
  );
  expect(isTold({ ...all, reviewsUpTo: 0 }, rights("manager"), { kind: "review", branchId: BRANCH, rating: 1 })).toBe(
    false,
  );
  expect(isTold({ ...all, branchIds: [OTHER] }, rights("manager"), { kind: "concern", branchId: BRANCH })).toBe(false);
  expect(isTold(all, rights("reader"), { kind: "concern", branchId: BRANCH })).toBe(false);
  expect(isTold(all, rights("desk"), { kind: "approval", branchId: BRANCH })).toBe(false);
  // A reminder is not chosen away.
  const none = { ...all, concerns: false, branchIds: [OTHER] };
  expect(isTold(none, rights("desk"), { kind: "reminder", branchId: BRANCH, stage: "half" })).toBe(true);
});

const minute = fc.integer({ min: 0, max: 24 * 60 - 1 });
const choice = fc
  .record({
    when: fc.constantFrom("at once", "hourly", "daily"),
    dailyAt: minute,
    quiet: fc.option(fc.record({ from: minute, to: minute })),
  })
  .map((parts) => TOLD_CHOICE.parse({ ...startChoice(rights("manager"), false), ...parts }));
const zone = fc.constantFrom("Europe/London", "America/New_York", "Asia/Kolkata", "Australia/Lord_Howe");
const at = fc.integer({ min: 0, max: 500 * 24 * 60 }).map((minutes) => TUESDAY + minutes * MINUTE + 12_345);

const isQuiet = ({ quiet }: ToldChoice, inZone: string, instant: number) => {
  if (!quiet || quiet.from === quiet.to) return false;
  const now = timeOfDay(toLocal(inZone, instant)) / MINUTE;
  return quiet.from < quiet.to ? now >= quiet.from && now < quiet.to : now >= quiet.from || now < quiet.to;
};

test("at once is now, or when the quiet hours end; never in them, never earlier, within a day", () => {
  fc.assert(
    fc.property(choice, zone, at, (one, inZone, now) => {
      const free = outsideQuiet(one, inZone, now);
      expect(free).toBeGreaterThanOrEqual(now);
      expect(free - now).toBeLessThanOrEqual(25 * HOUR);
      if (!isQuiet(one, inZone, now)) expect(free).toBe(now);
      // Where clocks jump the quiet hours may end inside what is skipped.
      else expect(isQuiet(one, inZone, free + HOUR) && isQuiet(one, inZone, free)).toBe(false);
    }),
    { numRuns: runs(2000) },
  );
});

test("hourly is within the hour, daily at its time, and both later than now", () => {
  fc.assert(
    fc.property(choice, zone, at, (one, inZone, now) => {
      const told = toldAt(one, inZone, now);
      expect(told).toBeGreaterThanOrEqual(now);
      expect(told - now).toBeLessThanOrEqual(27 * HOUR);
      if (one.when === "daily") {
        const local = timeOfDay(toLocal(inZone, told)) / MINUTE;
        // A time that clocks jump over in spring is said an hour later.
        expect([one.dailyAt, one.dailyAt + 60, one.dailyAt + 30]).toContain(local);
      }
    }),
    { numRuns: runs(2000) },
  );
});

test.each([
  [12, "half"],
  [23.9, "half"],
  [24, "due"],
  [47.9, "due"],
  [48, "late"],
] as const)("after %d of 24 hours a concern is %s", (hours, stage) => {
  expect(reminderStage(TUESDAY + 24 * HOUR, TUESDAY + hours * HOUR)).toBe(stage);
});

test("each stage is for whoever can do something about it", () => {
  const who = (role: (typeof STARTER_ROLES)[number], isOwner = false, hasOwner = false) => ({
    isOwner,
    hasOwner,
    isOfAgency: role === "agency",
    rights: rights(role),
  });
  const roles = (stage: "half" | "due" | "late") => STARTER_ROLES.filter((role) => isRemindedAt(stage, who(role)));
  expect([roles("half"), roles("due"), roles("late")]).toEqual([["manager", "desk"], ["manager"], ["agency"]]);
  expect(isRemindedAt("half", who("desk", true, true))).toBe(true);
  expect(isRemindedAt("half", who("manager", false, true))).toBe(false);
});
