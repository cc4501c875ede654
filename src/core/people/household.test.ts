import fc from "fast-check";
import { type Likeness, likeness } from "./household";

/** "Odette Marsh" as a name: its last word is the family name. */
const named = (text: string) => {
  const words = text.split(" ").filter(Boolean);
  return words.length < 2
    ? { given: text, family: "" }
    : { given: words.slice(0, -1).join(" "), family: words.at(-1) ?? "" };
};

/** Who is known under an address, who arrives with it, and what that makes of them. */
const CASES: [known: string, arriving: string, Likeness][] = [
  // The same name, however it is written.
  ["Odette Marsh", "Odette Marsh", "same"],
  ["Odette Marsh", "odette marsh", "same"],
  ["Zoë Núñez", "Zoe Nunez", "same"],
  ["Łucja Żółw", "Lucja Zolw", "same"],
  ["Odette Marsh", "Marsh Odette", "same"],
  ["Odette Marsh", "Mrs Odette Marsh", "same"],
  ["Odette Marie Marsh", "Odette Marsh", "same"],
  // Short forms and initials.
  ["Robert Pike", "Bob Pike", "same"],
  ["Elizabeth Vane", "Liz Vane", "same"],
  ["Odette Marsh", "O. Marsh", "same"],
  ["O Marsh", "Odette Marsh", "same"],
  ["Odette Marsh", "J. Marsh", "another"],
  ["Odette Marsh", "O. Vane", "unclear"],
  ["Robert Pike", "Bob Vane", "unclear"],
  // Slips of the keys; short names may be sisters'.
  ["Odette Marsh", "Odete Marsh", "same"],
  ["Wilhelmina Thorne", "Wilhelmena Thorne", "same"],
  ["Odette Marsh", "Odette Masrh", "same"],
  ["Lena Marsh", "Lina Marsh", "unclear"],
  ["Anna Marsh", "Anne Marsh", "unclear"],
  ["Marta Marsh", "Maria Marsh", "unclear"],
  // Families.
  ["Odette Marsh", "Jun Marsh", "another"],
  ["Mia Marsh", "Pia Marsh", "another"],
  ["Tim Marsh", "Tom Marsh", "another"],
  ["Odette Marsh", "Jun Pike", "another"],
  ["Odette Marsh", "Ada", "another"],
  // Another family name since, or one part of it.
  ["Odette Marsh", "Odette Vane", "same"],
  ["Odette Marsh", "Odette Marsh-Vane", "same"],
  // A family name alone, no name at all.
  ["Odette Marsh", "Marsh", "same"],
  ["Odette Marsh", "Mrs Marsh", "same"],
  ["Odette Marsh", "Frau Marsh", "same"],
  ["Odette Marsh", "Mr Pike", "another"],
  ["Odette Marsh", "Odette", "same"],
  ["Odette", "Odette Marsh", "same"],
  ["Marsh", "Odette Marsh", "same"],
  ["Odette", "Jun Marsh", "another"],
  ["Odette Marsh", "", "same"],
  ["", "Odette Marsh", "same"],
  ["Odette Marsh", "Mrs", "same"],
  // A child with a parent's number.
  ["Odette Marsh", "Pip Marsh", "another"],
];

test.each(CASES)("known as %j, arriving as %j: %s", (known, arriving, wanted) => {
  expect(likeness(named(known), named(arriving))).toBe(wanted);
});

test("it is the same whoever came first", () => {
  for (const [known, arriving] of CASES)
    expect([known, arriving, likeness(named(arriving), named(known))]).toEqual([
      known,
      arriving,
      likeness(named(known), named(arriving)),
    ]);
});

test("whoever has the same given and family name is the same, and nobody without a letter in common is", () => {
  const name = fc.record({ given: fc.stringMatching(/^[a-m]{3,9}$/), family: fc.stringMatching(/^[a-m]{3,9}$/) });
  const other = fc.record({ given: fc.stringMatching(/^[n-z]{3,9}$/), family: fc.stringMatching(/^[n-z]{3,9}$/) });
  fc.assert(
    fc.property(name, other, (one, two) => {
      expect(likeness(one, { ...one })).toBe("same");
      expect(likeness(one, two)).toBe("another");
    }),
  );
});
