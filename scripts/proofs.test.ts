import { existsSync } from "node:fs";
import { join } from "node:path";
import { ROOT } from "./local";
import { proofs } from "./proofs";

test("every long proof is found, by the file that a runner can run", () => {
  const found = proofs();
  for (const file of [
    "tests/integration/year.test.ts",
    "tests/integration/stopping.test.ts",
    "tests/integration/actions.test.ts",
    "tests/browser/places.spec.ts",
    "src/core/time/time.test.ts",
  ])
    expect(found).toContain(file);
  expect(found.filter((file) => !existsSync(join(ROOT, file)))).toEqual([]);
});
