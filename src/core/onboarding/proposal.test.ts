import { draftFor } from "./draft";
import { differences, takenOver } from "./proposal";

const draft = { ...draftFor("vets", null), name: "Osprey Vets", textNumber: "+447700900123", colour: "#123456" };

test("only what differs is told, and only what a client is asked is taken over", () => {
  expect(differences(draft, draft)).toEqual([]);
  const proposed = {
    ...draft,
    name: "Osprey Ridge Vets",
    colour: "#ffffff",
    textNumber: "+447700900999",
    plan: "job",
    opens: 8 * 60 + 30,
    days: [0, 1],
    team: "Dr Hale\nDr Amari",
    branches: [{ name: "Ridge", address: "1 Lane", site: "", url: "" }],
    services: [
      { name: "Check-up", neverAsk: false },
      { name: "Goodbye", neverAsk: true },
    ],
  };
  expect(differences(draft, proposed).map(({ field, after }) => `${field}: ${after}`)).toEqual([
    "name: Osprey Ridge Vets",
    "branches: Ridge, 1 Lane",
    "services: Check-up, Goodbye (never ask)",
    "team: Dr Hale, Dr Amari",
    "days: Monday, Tuesday",
    "opens: 8:30",
  ]);
  const taken = takenOver(draft, proposed);
  expect([taken.name, taken.colour, taken.textNumber, taken.plan]).toEqual([
    "Osprey Ridge Vets",
    "#123456",
    "+447700900123",
    draft.plan,
  ]);
  expect(differences(taken, proposed)).toEqual([]);
});
