import { permissionFor } from "./paths";

test.each([
  ["/c/vets/today", "see today"],
  ["/c/vets/people", "see people"],
  ["/c/vets/people?tag=x", "see people"],
  ["/c/vets/people/0199-a/why#x", "see people"],
  ["/c/vets/people/import/0199", "import lists"],
  ["/c/vets/people/addresses?after=1", "edit people"],
  ["/c/vets/asking/plans/1/rehearsal", "see asking"],
  ["/c/vets/heard/concerns/1", "see heard"],
  ["/c/vets/set-up", "set up"],
  ["/c/vets/set-up/names", "edit people"],
  ["/c/vets", null],
  ["/c/vets/unheard-of", null],
  ["/agency/larkspur", null],
  ["https://elsewhere.example/c/vets/today", null],
  ["#part", null],
])("%s needs %s", (address, needs) => {
  expect(permissionFor(address)).toBe(needs);
});
