import { articleAt, placeOf } from "./offeredAt";

const ARTICLES = [
  { slug: "story", at: ["people/*"] },
  { slug: "lists", at: ["people/import", "people/import/*"] },
  { slug: "roles", at: ["agency/people"] },
];

test.each([
  ["/c/vets/people/import", "lists"],
  ["/c/vets/people/import/01a2", "lists"],
  ["/c/vets/people/01a2", "story"],
  ["/c/vets/people", undefined],
  ["/c/vets/people/01a2/why", undefined],
  ["/agency/larkspur/people", "roles"],
  ["/account", undefined],
])("%s offers %s", (path, slug) => {
  expect(articleAt(ARTICLES, path)?.slug).toBe(slug);
});

test("a page that is nobody’s has no place", () => {
  expect([placeOf("/"), placeOf("/sign-in"), placeOf("/c/vets")]).toEqual([null, null, ""]);
});
