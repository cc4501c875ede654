import fc from "fast-check";
import { isDeskSearch, isFoundAtDesk } from "./deskSearch";

const odette = { given: "Odette", family: "Marsh", phone: "+447700900123", email: "odette@post.example" };
const li = { given: "Li", family: "Wu", phone: "+447700900777", email: null };

test.each([
  ["odet", true],
  ["ODETTE", true],
  ["marsh odette", true],
  ["odette m", true],
  ["Ödette", true],
  ["ode", false],
  ["o", false],
  ["o m", false],
  ["ette", false],
  ["0123", true],
  ["900123", true],
  ["07700 900123", true],
  ["+44 7700 900123", true],
  ["123", false],
  ["odette@post.example", true],
  ["@post.example", false],
  ["post", false],
  ["", false],
  ["   ", false],
])("%s finds Odette Marsh: %s", (typed, is) => expect(isFoundAtDesk(odette, typed)).toBe(is));

test.each([
  ["li", true],
  ["Li Wu", true],
  ["wu", true],
  ["l", false],
  ["li w", false],
])("%s finds Li Wu: %s", (typed, is) => expect(isFoundAtDesk(li, typed)).toBe(is));

test("of three characters or fewer, only a whole name finds anyone", () => {
  const name = fc.stringMatching(/^[a-z]{4,12}$/);
  fc.assert(
    fc.property(name, name, fc.stringMatching(/^[a-z0-9]{0,3}$/), (given, family, typed) => {
      expect(isFoundAtDesk({ given, family, phone: "+447700900123", email: null }, typed)).toBe(false);
    }),
  );
});

test("spaces and signs alone are no search", () => {
  for (const typed of ["", " ", "--", "()", "+", "  12 3"]) expect(isDeskSearch(typed)).toBe(false);
});
