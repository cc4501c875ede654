import { getExample, getSupportedRegionCodes } from "awesome-phonenumber";
import { normalisePhone } from "./phone";

/** A mobile and a landline of every country, in the ways in which people and spreadsheets write them. */

const KINDS = ["mobile", "fixed-line"] as const;

/** Its numbering plan is another in the two packages' metadata. */
const DISPUTED = ["ZW fixed-line"];

function exampleOf(country: string, kind: (typeof KINDS)[number]) {
  try {
    const example = getExample(country, kind);
    return example.valid ? example.number : null;
  } catch {
    return null;
  }
}

const examples = getSupportedRegionCodes().flatMap((country) =>
  KINDS.flatMap((kind) => {
    const number = exampleOf(country, kind);
    return number && !DISPUTED.includes(`${country} ${kind}`) ? [{ country, kind, ...number }] : [];
  }),
);

type Example = (typeof examples)[number];
const digitsOf = (text: string) => text.replace(/\D/g, "");

const WAYS: [string, (it: Example) => string][] = [
  ["with a plus", ({ e164 }) => e164],
  ["without the plus", ({ e164 }) => e164.slice(1)],
  ["without the plus, in groups", ({ international }) => international.slice(1)],
  ["with 00", ({ e164 }) => `00${e164.slice(1)}`],
  ["as at home", ({ national }) => national],
  ["as at home, digits alone", ({ national }) => digitsOf(national)],
  ["as at home, with dots", ({ national }) => national.replace(/[\s()-]+/g, ".").replace(/^\.|\.$/g, "")],
  ["as a spreadsheet's number", ({ e164 }) => `${e164.slice(1)}.0`],
  ["as at home, as a spreadsheet's text", ({ national }) => `'${digitsOf(national)}`],
  ["as at home, a spreadsheet's number", ({ national }) => `${digitsOf(national)}.0`],
  ["as at home, its zero taken for nothing", ({ national }) => digitsOf(national).replace(/^0/, "")],
];

/** Without its zero this one is another number of the same country. */
const AMBIGUOUS = ["GA mobile as at home, its zero taken for nothing"];

test("there is an example of nearly every country", () => {
  expect(examples.length).toBeGreaterThan(450);
});

test.each(WAYS)("%s", (way, write) => {
  const wrong = examples
    .filter(({ country, kind }) => !AMBIGUOUS.includes(`${country} ${kind} ${way}`))
    .map((it) => ({
      written: `${it.country} ${write(it)}`,
      e164: it.e164,
      read: normalisePhone(write(it), it.country),
    }))
    .filter(({ e164, read }) => read?.number !== e164);
  expect(wrong).toEqual([]);
});

test.each([
  ["DE", "4915112345678", "+4915112345678"],
  ["ID", "62812254488", "+62812254488"],
  ["XK", "38343242297", "+38343242297"],
  ["IT", "3912345678", "+393912345678"],
  ["DK", "45123456", "+4545123456"],
  ["US", "12125550123", "+12125550123"],
])("in %s %s is %s", (country, typed, e164) => {
  expect(normalisePhone(typed, country)?.number).toBe(e164);
});

test.each([
  ["AT", "0660.123.00"],
  ["DE", "1.234.00"],
  ["FR", "447700900123"],
  ["GB", "4915112345678"],
])("in %s %s is no phone", (country, typed) => {
  expect(normalisePhone(typed, country)).toBeNull();
});
