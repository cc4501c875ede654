import { isZone } from "../time/zone";
import { NUMBER_ZONES } from "./numberZones";
import { zoneOfPhone } from "./phoneZone";

test.each([
  ["+442079460123", "Europe/London"],
  ["+447700900123", "Europe/London"],
  ["+12125550123", "America/New_York"],
  ["+13105550123", "America/Los_Angeles"],
  ["+18085550123", "Pacific/Honolulu"],
  ["+33612345678", "Europe/Paris"],
  ["+34612345678", "Europe/Madrid"],
  ["+34922123456", "Atlantic/Canary"],
  ["+48512345678", "Europe/Warsaw"],
  ["+919812345678", "Asia/Kolkata"],
])("%s lies in %s", (number, zone) => expect(zoneOfPhone(number)).toBe(zone));

test("a number that settles no clock gives none, and nonsense neither", () => {
  for (const number of ["+18005550123", "+351912345678", "+999123", "+", "", "07700900123", null])
    expect(zoneOfPhone(number)).toBeNull();
});

test("every zone of the table is one that the platform knows, and no beginning stands twice", () => {
  const prefixes = Object.values(NUMBER_ZONES).flatMap((list) => list.split(" "));
  expect(new Set(prefixes).size).toBe(prefixes.length);
  for (const zone of Object.keys(NUMBER_ZONES)) expect(zone === "" || isZone(zone)).toBe(true);
});
