import fc from "fast-check";
import { turnsOf } from "./portions";

const DAY = 24 * 3_600_000;
const tomorrow = (at: number) => at + DAY;

test("the newest visits come first, so many a day, after those of today", () => {
  const pool = [3, 1, 4, 2, 5].map((endsAt) => ({ id: `v${endsAt}`, endsAt }));
  expect([...turnsOf(pool, 2, { first: 100, asked: 1 }, tomorrow)]).toEqual([
    ["v5", 100],
    ["v4", 100 + DAY],
    ["v3", 100 + DAY],
    ["v2", 100 + 2 * DAY],
    ["v1", 100 + 2 * DAY],
  ]);
  expect(turnsOf(pool, 2, { first: null, asked: 0 }, tomorrow).size).toBe(0);
  expect(turnsOf(pool, 2, { first: 0, asked: 2 }, () => null).size).toBe(0);
});

test("nobody is left without a turn, no day has more than a portion, and nobody newer waits longer", () => {
  const visit = fc.record({ endsAt: fc.integer({ min: 0, max: 50 }) });
  fc.assert(
    fc.property(
      fc.array(visit, { maxLength: 60 }),
      fc.integer({ min: 1, max: 9 }),
      fc.nat(9),
      (visits, perDay, asked) => {
        const pool = visits.map(({ endsAt }, index) => ({ id: String(index).padStart(3, "0"), endsAt }));
        const turns = turnsOf(pool, perDay, { first: 0, asked }, tomorrow);
        expect(turns.size).toBe(pool.length);
        const perTurn = new Map<number, number>();
        for (const at of turns.values()) perTurn.set(at, (perTurn.get(at) ?? 0) + 1);
        for (const [at, count] of perTurn)
          expect(count).toBeLessThanOrEqual(at === 0 ? Math.max(0, perDay - asked) : perDay);
        for (const a of pool)
          for (const b of pool)
            if (a.endsAt > b.endsAt) expect(turns.get(a.id) as number).toBeLessThanOrEqual(turns.get(b.id) as number);
      },
    ),
    { numRuns: 60 },
  );
});
