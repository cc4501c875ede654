import fc from "fast-check";
import { stableHash } from "../stableHash";
import type { PlanStep } from "./planRules";
import { starterRules } from "./starters";
import { chancesOfBest, confidence, judgeTrial, type Tally, wordingFor } from "./trial";

const [modelStep] = starterRules().steps;

describe("wordings on trial", () => {
  const step: PlanStep = { ...modelStep, others: [{ key: "b", text: "B {link}", subject: "B", email: "B {link}" }] };

  test("each person always gets the same wording, and each wording about as many people", () => {
    const counts: Record<string, number> = {};
    for (let n = 0; n < 4000; n++) {
      const { key } = wordingFor(step, "plan", `person ${n}`);
      expect(wordingFor(step, "plan", `person ${n}`).key).toBe(key);
      counts[key] = (counts[key] ?? 0) + 1;
    }
    expect(Math.abs(counts.a - 2000)).toBeLessThan(130);
  });

  test("the chances of being best sum to one and follow the evidence", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: 300 }), fc.nat({ max: 300 })), { minLength: 1, maxLength: 4 }),
        (list) => {
          const tallies = list.map(([a, b], index): Tally => ({ key: String(index), sent: a + b, answered: a }));
          const sum = chancesOfBest(tallies).reduce((total, chance) => total + chance, 0);
          expect(sum).toBeCloseTo(1, 6);
        },
      ),
    );
    // Beta(11, 91) against Beta(21, 81): the second is better with a chance of about 0.974.
    expect(
      chancesOfBest([
        { key: "a", sent: 100, answered: 10 },
        { key: "b", sent: 100, answered: 20 },
      ])[1],
    ).toBeCloseTo(0.974, 2);
  });

  test("two equal wordings, looked at again and again, are called different in at most one trial of twenty", () => {
    let wrong = 0;
    const trials = 200;
    for (let trial = 0; trial < trials; trial++) {
      const tallies = [
        { key: "a", sent: 0, answered: 0 },
        { key: "b", sent: 0, answered: 0 },
      ];
      for (let n = 0; n < 400; n++) {
        const tally = tallies[n % 2];
        tally.sent += 1;
        if (stableHash("trial", String(trial), String(n)) < 0.3) tally.answered += 1;
        if (n % 10 === 9 && judgeTrial(tallies).done) {
          wrong += 1;
          break;
        }
      }
    }
    expect(wrong / trials).toBeLessThanOrEqual(0.05);
  });

  test("a real difference is found in the end", () => {
    expect(
      judgeTrial([
        { key: "a", sent: 600, answered: 120 },
        { key: "b", sent: 600, answered: 240 },
      ]),
    ).toEqual({ done: true, best: "b" });
    const { low, high } = confidence(120, 600, 0.025);
    expect(low).toBeLessThan(0.2);
    expect(high).toBeGreaterThan(0.2);
  });
});

test("the chance of being best agrees with drawing from the posteriors, for ten messages and for a hundred thousand", () => {
  // Marsaglia and Tsang's way to draw from a gamma distribution; two of them make a beta.
  let seed = 12345;
  const random = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return (seed + 0.5) / 4294967296;
  };
  const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const gamma = (shape: number): number => {
    const [d, c] = [shape - 1 / 3, 1 / Math.sqrt(9 * (shape - 1 / 3))];
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v > 0 && Math.log(random()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
    }
  };
  const beta = (a: number, b: number) => {
    const x = gamma(a);
    return x / (x + gamma(b));
  };
  const cases: [number, number][][] = [
    [
      [10, 3],
      [12, 4],
    ],
    [
      [100_000, 30_100],
      [100_000, 30_000],
    ],
    [
      [100_000, 2_000],
      [100_000, 2_060],
    ],
    [
      [100_000, 50],
      [90_000, 55],
    ],
    [
      [200, 60],
      [100_000, 30_050],
    ],
    [
      [1_000, 0],
      [1_000, 1],
    ],
    [
      [5_000, 1_500],
      [5_000, 1_490],
      [5_000, 1_530],
      [20, 8],
    ],
    [
      [3, 3],
      [40, 38],
    ],
  ];
  for (const list of cases) {
    const draws = 40_000;
    const wins = list.map(() => 0);
    for (let n = 0; n < draws; n++) {
      let best = 0;
      let most = -1;
      list.forEach(([sent, answered], index) => {
        const share = beta(answered + 1, sent - answered + 1);
        if (share > most) [most, best] = [share, index];
      });
      wins[best] += 1;
    }
    const chances = chancesOfBest(list.map(([sent, answered], index) => ({ key: String(index), sent, answered })));
    for (const [index, chance] of chances.entries()) expect(Math.abs(chance - wins[index] / draws)).toBeLessThan(0.01);
  }
});
