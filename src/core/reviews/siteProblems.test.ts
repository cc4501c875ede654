import fc from "fast-check";
import { isPassing, readSiteStatus, remedyOf, SITE_PROBLEM, type SiteProblem, siteBackoff } from "./siteProblems";
import { sitesInNeed, TOLD_AFTER } from "./sites";

test("what passes by itself asks nobody for anything", () => {
  const statuses = fc.integer({ min: 400, max: 599 }).map(readSiteStatus);
  const codes = SITE_PROBLEM.options.map((option) => option.shape.code.value);
  const any = fc.constantFrom(...codes).map((code) => SITE_PROBLEM.parse({ code, at: 0, status: 503, why: "" }));
  fc.assert(fc.property(fc.oneof(statuses, any), (problem) => !isPassing(problem) || remedyOf(problem) === "wait"));
});

test("a remedy is what ends the problem", () => {
  expect([401, 403, 404, 410, 418, 429, 500].map((status) => remedyOf(readSiteStatus(status)))).toEqual([
    ...["connect", "connect", "address", "address"],
    ...["wait", "wait", "wait"],
  ]);
  expect(remedyOf({ code: "sign-in ended", at: 0 })).toBe("sign in");
});

test("a failing site is left alone longer each time, half an hour at most, and never less than it asks for", () => {
  const minutes = [1, 2, 3, 4, 5, 6, 7, 500].map((failures) => siteBackoff(failures, null) / 60_000);
  expect(minutes).toEqual([1, 2, 4, 8, 16, 30, 30, 30]);
  fc.assert(
    fc.property(fc.nat(), fc.nat(10_000_000), (failures, asked) => {
      expect(siteBackoff(failures, asked)).toBe(Math.max(asked, siteBackoff(failures, null)));
      expect(siteBackoff(failures + 1, asked)).toBeGreaterThanOrEqual(siteBackoff(failures, asked));
    }),
  );
});

test("a site needs somebody once: at once where only somebody can end it, else when it has lasted", () => {
  const now = 10 * TOLD_AFTER;
  const page = (site: string, collectError: SiteProblem | null, minutes: number) => ({
    site,
    collectError,
    failingSince: collectError && now - minutes * 60_000,
  });
  const ended: SiteProblem = { code: "sign-in ended", at: 0 };
  const away: SiteProblem = { code: "not reached" };
  const pages = [
    page("Waypost", away, 59),
    page("Commons", null, 0),
    page("Commons", ended, 0),
    page("Commons", ended, 5),
    page("Tenfold", { code: "asks for patience", until: "14:20" }, 0),
    page("Pawprint Guide", away, 60),
    page("Waypost", { code: "not there" }, 1),
  ];
  expect(sitesInNeed(pages, now)).toEqual([
    { site: "Commons", problem: ended },
    { site: "Pawprint Guide", problem: away },
    { site: "Waypost", problem: { code: "not there" } },
  ]);
});
