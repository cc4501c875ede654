import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { narrowed, type Permission, PLACES, type PlacePermission } from "../src/core/access/permissions";

/** Every page and file of a client: what it asks for is gone for those who are not shown the place it is in. */

const ROOT = join(import.meta.dirname, "../src/app/c/[client]");
const OF_FOLDER: Record<string, PlacePermission> = {
  today: "see today",
  people: "see people",
  asking: "see asking",
  heard: "see heard",
};

const files = readdirSync(ROOT, { recursive: true, encoding: "utf8" }).filter((file) =>
  /(?:^|\/)(?:page\.tsx|route\.ts)$/.test(file),
);

test("there are pages in every place", () => {
  expect(new Set(files.map((file) => OF_FOLDER[file.split("/")[0]]).filter(Boolean))).toEqual(new Set(PLACES));
  expect(files.length).toBeGreaterThan(40);
});

test.each(files)("%s asks for a permission of its place", (file) => {
  const text = readFileSync(join(ROOT, file), "utf8");
  const asked = [...text.matchAll(/requireAccess\((?:[^()]|\([^()]*\))*?"([a-z ]+)"/g)].map(
    ([, one]) => one as Permission,
  );
  expect(asked.length).toBeGreaterThan(0);
  const place = OF_FOLDER[file.split("/")[0]];
  if (!place) return;
  const others = PLACES.filter((one) => one !== place);
  for (const permission of asked) expect([permission, narrowed([permission], others)]).toEqual([permission, []]);
});
