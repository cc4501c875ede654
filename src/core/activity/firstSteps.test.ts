import fc from "fast-check";
import { FIRST_STEPS, type FirstStepsFacts, firstSteps, isReady } from "./firstSteps";

const NOTHING: FirstStepsFacts = { pages: [], hasSample: false, sources: 0, running: 0, hasRun: false, team: 1 };
const done = (facts: Partial<FirstStepsFacts>) =>
  firstSteps({ ...NOTHING, ...facts }).flatMap(({ step, isDone }) => (isDone ? step : []));

test.each([
  ["nothing was done", {}, []],
  ["a page that nobody has looked at", { pages: [null] }, []],
  ["one page opens, the other doesn’t", { pages: [true, false] }, []],
  ["every page opens", { pages: [true, true] }, ["pages"]],
  ["a sample was sent", { hasSample: true }, ["words"]],
  ["a feed is on", { sources: 1 }, ["visits"]],
  ["a plan runs", { running: 1, hasRun: true }, ["rehearse", "start"]],
  ["a plan ran and is paused", { hasRun: true }, ["rehearse"]],
  ["somebody was invited", { team: 2 }, ["team"]],
] as const)("%s", (_name, facts, steps) => {
  expect(done(facts)).toEqual(steps);
});

const facts = fc.record({
  pages: fc.array(fc.option(fc.boolean()), { maxLength: 3 }),
  hasSample: fc.boolean(),
  sources: fc.nat(2),
  running: fc.nat(2),
  hasRun: fc.boolean(),
  team: fc.integer({ min: 1, max: 3 }),
});

test("every step is there once, in order; asks can go out once visits come in and a plan runs, and not before", () => {
  fc.assert(
    fc.property(facts, (it) => {
      const steps = firstSteps(it);
      expect(steps.map(({ step }) => step)).toEqual([...FIRST_STEPS]);
      expect(isReady(steps)).toBe(it.sources > 0 && it.running > 0);
    }),
  );
});
