import fc from "fast-check";
import { type Absence, concernOwner, type OwnerRule } from "./owner";

const rule = (userId: string, branchId: string | null = null, teamMemberId: string | null = null): OwnerRule => ({
  userId,
  branchId,
  teamMemberId,
});
const concern = { branchId: "fenwick", teamMemberId: "hale" };
const all = () => true;
const TODAY = "2026-11-24";

test("the rule of the team member comes before that of the branch, and that before the one for all others", () => {
  const rules = [rule("all"), rule("branch", "fenwick"), rule("member", null, "hale")];
  const ownerOf = (list: OwnerRule[]) => concernOwner(concern, list, [], TODAY, all)?.userId ?? null;
  expect(ownerOf(rules)).toBe("member");
  expect(ownerOf(rules.slice(0, 2))).toBe("branch");
  expect(ownerOf(rules.slice(0, 1))).toBe("all");
  expect(ownerOf([rule("other", "old mill")])).toBeNull();
  expect(ownerOf([])).toBeNull();
});

test("whoever is away is stood in for up to and with that day, and that person again", () => {
  const away: Absence[] = [
    { userId: "a", until: TODAY, standInId: "b" },
    { userId: "b", until: "2026-12-01", standInId: "c" },
  ];
  expect(concernOwner(concern, [rule("a")], away, TODAY, all)).toEqual({ userId: "c", how: "stand-in" });
  expect(concernOwner(concern, [rule("a")], away, "2026-11-25", all)).toEqual({ userId: "a", how: "rule" });
});

test("a circle of people who are away, and somebody who may not answer there, leave it to nobody", () => {
  const circle: Absence[] = [
    { userId: "a", until: TODAY, standInId: "b" },
    { userId: "b", until: TODAY, standInId: "a" },
  ];
  expect(concernOwner(concern, [rule("a")], circle, TODAY, all)).toBeNull();
  expect(concernOwner(concern, [rule("a")], [], TODAY, () => false)).toBeNull();
});

test("it is never somebody who is away, or may not answer", () => {
  const person = fc.constantFrom("a", "b", "c", "d");
  const day = fc.constantFrom("2026-11-20", "2026-11-24", "2026-11-30");
  fc.assert(
    fc.property(
      fc.array(fc.record({ userId: person, until: day, standInId: fc.option(person) }), { maxLength: 4 }),
      person,
      fc.array(person),
      (absences, first, able) => {
        const list = absences.filter(({ userId }, at) => absences.findIndex((one) => one.userId === userId) === at);
        const owner = concernOwner(concern, [rule(first)], list, TODAY, (userId) => able.some((one) => one === userId));
        if (!owner) return;
        expect(able).toContain(owner.userId);
        expect(list.some(({ userId, until }) => userId === owner.userId && until >= TODAY)).toBe(false);
      },
    ),
  );
});
