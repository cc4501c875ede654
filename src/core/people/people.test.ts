import fc from "fast-check";
import { likelyPairs, likeness, pairKey } from "./duplicates";
import { householdOffers, isMinor } from "./households";
import { compareNames, editDistance, slippedDigits } from "./sameness";

const person = (id: string, name: string, change: Partial<Parameters<typeof likeness>[0]> = {}) => {
  const [given, family = ""] = name.split(" ");
  return { id, given, family, email: null, phone: null, postalAddress: null, householdId: null, ...change };
};

describe("names", () => {
  test.each([
    ["Odette Marsh", "odette MARSH", "same"],
    ["Zoé Lefèvre", "Zoe Lefevre", "same"],
    ["Katherine Marsh", "Kate Marsh", "close"],
    ["Odette Marsh", "Odete Marsh", "close"],
    ["O Marsh", "Odette Marsh", "close"],
    ["Odette", "Odette Marsh", "close"],
    ["Odette Marsh-Pike", "Odette Pike", "close"],
    ["Marsh Odette", "Odette Marsh", "swapped"],
    ["Odette Marsh", "Jun Marsh", "different"],
    ["Odette Marsh", "Odette Albrecht", "different"],
    ["Al Pike", "Li Pike", "different"],
  ])("%s and %s are %s", (a, b, wanted) => {
    const [one, other] = [person("1", a), person("2", b)];
    expect(compareNames(one, other)).toBe(wanted);
    expect(compareNames(other, one)).toBe(wanted);
  });

  test("the distance counts as by the book: symmetric, zero for the same, one for each slip, never above its limit", () => {
    const word = fc.stringMatching(/^[a-d]{0,6}$/);
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(editDistance(a, b)).toBe(editDistance(b, a));
        expect(editDistance(a, a)).toBe(0);
        expect(editDistance(a, `${a}x`)).toBe(1);
        expect(editDistance(a, b)).toBeLessThanOrEqual(4);
        if (a !== b) expect(editDistance(a, b)).toBeGreaterThan(0);
      }),
    );
    expect(editDistance("marsh", "masrh")).toBe(1);
  });

  test("numbers slip by one digit or two neighbours", () => {
    expect(slippedDigits("+447700900123", "+447700900132")).toBe(true);
    expect(slippedDigits("+447700900123", "+447700900124")).toBe(true);
    expect(slippedDigits("+447700900123", "+447700900123")).toBe(false);
    expect(slippedDigits("+447700900123", "+447700900321")).toBe(false);
  });
});

describe("duplicates", () => {
  test("what speaks for one person is said; a namesake elsewhere is none", () => {
    const why = (
      a: Partial<Parameters<typeof likeness>[0]>,
      b: Partial<Parameters<typeof likeness>[0]>,
      names: [string, string] = ["Odette Marsh", "Odette Marsh"],
    ) => likeness(person("1", names[0], a), person("2", names[1], b))?.why ?? null;
    expect(why({ email: "o@post.example" }, { email: "o@post.example" })).toEqual({ names: "same", by: "email" });
    expect(why({ phone: "+447700900123" }, { phone: "+447700900132" })).toEqual({
      names: "same",
      by: "phone slip",
    });
    expect(why({ email: "odette@post.example" }, { email: "odete@post.example" })).toMatchObject({ by: "email slip" });
    expect(why({ email: "odette@post.example" }, { email: "odette5@post.example" })).toBeNull();
    expect(
      why({ postalAddress: "8 Lantern Hill, Merrow Bay" }, { postalAddress: "8, lantern hill merrow bay" }, [
        "Kate Marsh",
        "Katherine Marsh",
      ]),
    ).toEqual({ names: "close", by: "postal address" });
    expect(why({ email: "o@post.example" }, { email: "o@post.example" }, ["Odette Marsh", "Jun Marsh"])).toBeNull();
    expect(why({}, {})).toBeNull();
  });

  test("pairs are found once, likeliest first, whatever the order; those set apart stay apart", () => {
    const records = [
      person("a", "Odette Marsh", { email: "o@post.example" }),
      person("b", "O Marsh", { email: "o@post.example" }),
      person("c", "Jun Pike", { phone: "+447700900123" }),
      person("d", "Jun Pike", { phone: "+447700900132" }),
      person("e", "Ines Crane"),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(records, { minLength: 5 }), (shuffled) => {
        expect(likelyPairs(shuffled).map(({ a, b }) => `${a} ${b}`)).toEqual(["c d", "a b"]);
      }),
    );
    expect(likelyPairs(records, new Set([pairKey("d", "c")])).map(({ a }) => a)).toEqual(["a"]);
  });
});

describe("households", () => {
  test("share a phone, a mailbox or an address, and are not one person, nor already one household", () => {
    const home = { email: "home@post.example", postalAddress: "1 Quay Street" };
    expect(
      householdOffers([person("a", "Odette Marsh", home), person("b", "Jun Marsh", home), person("c", "Ines Pike")]),
    ).toEqual([{ members: ["a", "b"], why: ["mailbox", "postal address"] }]);
    expect(householdOffers([person("a", "Odette Marsh", home), person("b", "O Marsh", home)])).toEqual([]);
    expect(
      householdOffers([
        person("a", "Odette Marsh", { ...home, householdId: "h" }),
        person("b", "Jun Marsh", { ...home, householdId: "h" }),
      ]),
    ).toEqual([]);
    expect(
      householdOffers([person("a", "Odette Marsh", home), person("b", "Jun Marsh", home)], new Set(["a b"])),
    ).toEqual([]);
    expect(
      householdOffers(
        Array.from({ length: 9 }, (_, n) => person(`${n}`, `Given${n}x Marsh`, { phone: "+441134960000" })),
      ),
    ).toEqual([]);
  });

  test.each([
    ["2010-11-25", "2028-11-24", true],
    ["2010-11-25", "2028-11-25", false],
    ["2008-02-29", "2026-02-28", true],
    ["2008-02-29", "2026-03-01", false],
    [null, "2026-11-24", false],
  ])("born %s is a minor on %s: %s", (born, today, wanted) => expect(isMinor(born, today)).toBe(wanted));
});
