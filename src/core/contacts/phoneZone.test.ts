import { clocksOfCountry } from "../time/clocks";
import { nextLegal, nextPermitted } from "../time/sendHours";
import { HOUR, isZone, timeOfDay, toLocal } from "../time/zone";
import { zonesOfAddress } from "./addressZone";
import { AREA_ZONES } from "./areaZones";
import { zonesOfPhone } from "./phoneZone";

describe("where a number may be", () => {
  test.each([
    ["+442079460123", ["Europe/London"]],
    ["+447700900123", ["Europe/London"]],
    ["+12125550123", ["America/New_York"]],
    ["+13105550123", ["America/Los_Angeles"]],
    ["+18085550123", ["Pacific/Honolulu"]],
    ["+33612345678", ["Europe/Paris"]],
    ["+48512345678", ["Europe/Warsaw"]],
    ["+5511987654321", ["America/Sao_Paulo"]],
    // Areas over which two clocks go, and those that lie over them.
    ["+12705550123", ["America/Chicago", "America/New_York"]],
    ["+13645550123", ["America/Chicago", "America/New_York"]],
    ["+18505550123", ["America/Chicago", "America/New_York"]],
    ["+14485550123", ["America/Chicago", "America/New_York"]],
    ["+19075550123", ["America/Adak", "America/Anchorage", "Pacific/Honolulu"]],
  ])("%s", (number, zones) => expect(zonesOfPhone(number)).toEqual(zones));

  test("a mobile that belongs to a whole country may be in all of it", () => {
    expect(zonesOfPhone("+61412345678")).toEqual(
      expect.arrayContaining(["Australia/Perth", "Australia/Brisbane", "Australia/Adelaide"]),
    );
    expect(zonesOfPhone("+79123456789")).toEqual(expect.arrayContaining(["Europe/Kaliningrad", "Asia/Anadyr"]));
    expect(zonesOfPhone("+62812345678").length).toBe(3);
    expect(zonesOfPhone("+34612345678")).toEqual(["Africa/Ceuta", "Atlantic/Canary"]);
    expect(zonesOfPhone("+18005550123").length).toBeGreaterThan(5);
  });

  test("nonsense tells nothing", () => {
    for (const number of ["+999123", "+", "", "07700900123", null]) expect(zonesOfPhone(number)).toEqual([]);
  });

  test("every zone of the table is one, and no area stands twice", () => {
    const areas = Object.values(AREA_ZONES).flatMap((list) => list.split(" "));
    expect(new Set(areas).size).toBe(areas.length);
    for (const zones of Object.keys(AREA_ZONES)) for (const zone of zones.split(" ")) expect(isZone(zone)).toBe(true);
  });
});

describe("where an address is", () => {
  test.each([
    ["12 Spruce St, Anchorage, AK 99501", "US", ["America/Anchorage", "America/Adak"]],
    ["12 Spruce St\nPortland, ME 04101\nUSA", "GB", ["America/New_York"]],
    ["5 King St, Perth WA 6000", "AU", ["Australia/Perth", "Australia/Eucla"]],
    ["5 King St, Seattle, WA 98101", "US", ["America/Los_Angeles"]],
    ["1 Rue X, Montréal QC H2X 1Y4, Canada", "GB", ["America/New_York"]],
    ["8 Lantern Hill, Merrow Bay", "GB", ["Europe/London"]],
    ["8 Lantern Hill, London SW1A 1AA", "US", ["Europe/London"]],
    ["Hauptstr. 5, 10115 Berlin, Deutschland", "GB", ["Europe/Berlin"]],
    ["5 Peachtree St, Atlanta, Georgia", "US", []],
    ["5 Peachtree St", "US", []],
    ["", "GB", []],
  ])("%s", (address, country, zones) => expect(zonesOfAddress(address, country)).toEqual(zones));
});

describe("texts and several clocks", () => {
  const always = Array.from({ length: 7 }, () => [{ open: 0, close: 1440 }]);
  const sydney = { zone: "Australia/Sydney", hours: { text: always, email: always }, closedDays: new Set<number>() };

  test("it is day wherever the number may be", () => {
    for (let hour = 0; hour < 48; hour++) {
      const at = Date.UTC(2026, 5, 1) + hour * HOUR;
      for (const number of ["+61412345678", "+12705550123", "+62812345678", "+79123456789", "+18005550123"]) {
        const zones = zonesOfPhone(number);
        for (const found of [nextPermitted(at, "text", sydney, zones), nextLegal(at, "text", zones)]) {
          if (!found) continue;
          for (const zone of zones) {
            const there = timeOfDay(toLocal(zone, found.at));
            expect([number, zone, there >= 8 * HOUR && there < 21 * HOUR]).toEqual([number, zone, true]);
          }
        }
      }
    }
  });

  test("where it is always night somewhere there is no hour", () => {
    // Two days of thirteen hours always meet somewhere; three need not.
    const zones = ["Asia/Shanghai", "Atlantic/Reykjavik"];
    expect(nextPermitted(0, "text", sydney, zones)).not.toBeNull();
    const apart = [...zones, "America/Los_Angeles"];
    expect(nextLegal(0, "text", apart)).toBeNull();
    expect(nextPermitted(0, "text", sydney, apart)).toBeNull();
    expect(nextLegal(0, "email", apart)).toEqual({ at: 0, shifts: [] });
  });

  test("countries have their clocks, once each", () => {
    expect(clocksOfCountry("GB")).toEqual(["Europe/London"]);
    expect(clocksOfCountry("CN")).toEqual(["Asia/Shanghai"]);
    expect(clocksOfCountry("XK")).toEqual(["Europe/Belgrade"]);
    expect(clocksOfCountry("??")).toEqual([]);
  });
});
