import fc from "fast-check";
import { NEED, needKey, needPath, parted, sortNeeds, urgencyOf } from "./needs";

const PLAN = "01a0d8e2-3ae0-7000-842b-000000000001";
const HELD = { code: "plan on hold" as const, plan: "After a visit", planId: PLAN, waiting: 23 };

test("a need keeps its key while its figures change, and is another one elsewhere", () => {
  expect(needKey(HELD)).toBe(needKey({ ...HELD, waiting: 4, plan: "After a visit, renamed" }));
  expect(needKey(HELD)).not.toBe(needKey({ ...HELD, planId: PLAN.replace(/1$/, "2") }));
  expect(needKey({ code: "unhappy overdue", count: 1, since: 5 })).toBe("unhappy overdue");
  expect(needKey({ code: "allowance near", channel: "text", used: 9, most: 10 })).not.toBe(
    needKey({ code: "allowance near", channel: "email", used: 9, most: 10 }),
  );
});

test("what is set aside counts for nothing, the rest stays in its order", () => {
  const needs = sortNeeds([HELD, { code: "no plan runs", paused: 1 }, { code: "unhappy overdue", count: 2, since: 7 }]);
  const aside = [{ key: needKey(HELD), reason: "Closed for August", by: "Iris", at: 3 }];
  const { open, aside: shown } = parted(needs, [...aside, { key: "feed silent x", reason: "Old", by: "Iris", at: 1 }]);
  expect(open.map(({ code }) => code)).toEqual(["unhappy overdue", "no plan runs"]);
  expect(shown).toEqual([{ ...aside[0], need: HELD }]);
  expect(urgencyOf(open)).toBe(0);
  expect(urgencyOf(parted([HELD], aside).open)).toBeNull();
});

test("every need has a page that puts it right", () => {
  const some = fc.constantFrom(...NEED.options.map(({ shape }) => shape.code.value));
  fc.assert(
    fc.property(some, (code) => {
      const need = { code, planId: PLAN, feedId: PLAN, listId: PLAN } as unknown as Parameters<typeof needPath>[0];
      expect(needPath(need)).toMatch(/^[a-z]/);
    }),
  );
});
