import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { mailboxSites, orderSites, type SiteRules, shareTurn } from "./siteMix";

describe("which site comes first", () => {
  const rules = (change: Partial<SiteRules>): SiteRules => ({
    order: [],
    most: 3,
    mix: "order",
    shares: {},
    ...change,
  });
  const facts = {
    sites: ["Waypost", "Commons", "Tenfold", "Pawprint Guide"],
    turns: {},
    mailboxSites: [] as string[],
    reviewed: [] as string[],
  };

  test("realised shares lie within two points of the wanted ones after two hundred asks, whatever the shares", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 2, maxLength: 6 }), (wanted) => {
        const sites = wanted.map((_, index) => `site ${index}`);
        const shares = Object.fromEntries(sites.map((site, index) => [site, wanted[index]]));
        const total = wanted.reduce((sum, share) => sum + share, 0);
        const turns: Record<string, number> = {};
        for (let n = 0; n < 200; n++) {
          const site = shareTurn(sites, shares, turns) as string;
          turns[site] = (turns[site] ?? 0) + 1;
        }
        sites.forEach((site, index) => {
          expect(Math.abs((turns[site] ?? 0) / 200 - wanted[index] / total)).toBeLessThanOrEqual(0.02);
        });
      }),
    );
  });

  test("where a branch has no page on a site, the others share what it would have had", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 3, maxLength: 5 }), (weights) => {
        const names = weights.map((_, index) => `site${index}`);
        const rules: SiteRules = {
          order: names,
          most: 6,
          mix: "shares",
          shares: Object.fromEntries(names.map((name, index) => [name, weights[index]])),
        };
        const here = names.slice(1);
        const turns: Record<string, number> = { site0: 7 };
        for (let n = 0; n < 400; n++) {
          const [first] = orderSites(rules, { sites: here, turns, mailboxSites: [], reviewed: [] }).sites;
          turns[first] = (turns[first] ?? 0) + 1;
        }
        const total = weights.slice(1).reduce((sum, weight) => sum + weight, 0);
        for (const [index, name] of here.entries())
          expect(Math.abs((turns[name] ?? 0) / 400 - weights[index + 1] / total)).toBeLessThan(0.02);
      }),
    );
  });

  test("a site already reviewed is passed over, at most as many are offered as the plan says, none twice", () => {
    fc.assert(
      fc.property(
        fc.subarray(facts.sites),
        fc.integer({ min: 1, max: 6 }),
        fc.constantFrom("order" as const, "shares" as const, "mailbox" as const),
        (reviewed, most, mix) => {
          const { sites } = orderSites(rules({ most, mix, shares: { Commons: 2, Tenfold: 1 } }), {
            ...facts,
            reviewed,
            mailboxSites: ["Tenfold"],
          });
          expect(sites.length).toBe(Math.min(most, facts.sites.length - reviewed.length));
          expect(new Set(sites).size).toBe(sites.length);
          expect(sites.filter((site) => reviewed.includes(site))).toEqual([]);
        },
      ),
    );
  });

  test("the mailbox decides by its own domain or by who hosts it", () => {
    const accounts = { Waypost: ["waypost-mail.example"], Commons: ["commons.example"] };
    expect(mailboxSites("a@commons.example", null, accounts)).toEqual(["Commons"]);
    expect(mailboxSites("a@harbour.example", "mx1.waypost-mail.example", accounts)).toEqual(["Waypost"]);
    expect(mailboxSites("a@notcommons.example", null, accounts)).toEqual([]);
    expect(mailboxSites(null, null, accounts)).toEqual([]);
    expect(orderSites(rules({ mix: "mailbox" }), { ...facts, mailboxSites: ["Commons"] })).toMatchObject({
      sites: ["Commons", "Waypost", "Tenfold"],
      why: { code: "mailbox account", site: "Commons" },
    });
  });
});

test("turns of sites without a share, and names that stand twice, distort nobody's share and offer nothing twice", () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 4 }),
      fc.array(fc.nat(500), { minLength: 2, maxLength: 4 }),
      fc.boolean(),
      (weights, odd, twice) => {
        const sites = weights.map((_, n) => `s${n}`);
        fc.pre(weights.some((weight) => weight > 0));
        const shares = Object.fromEntries(sites.map((site, n) => [site, weights[n]]));
        // Turns that sites got before they lost their share.
        const turns: Record<string, number> = Object.fromEntries(
          odd.map((count, n) => [n < sites.length && weights[n] === 0 ? `s${n}` : `gone${n}`, count]),
        );
        const rules = { order: twice ? [...sites, ...sites] : sites, most: 6, mix: "shares" as const, shares };
        const rounds = 600;
        for (let n = 0; n < rounds; n++) {
          const { sites: offered } = orderSites(rules, {
            sites: twice ? [...sites, ...sites] : sites,
            turns,
            mailboxSites: [],
            reviewed: [],
          });
          expect(new Set(offered).size).toBe(offered.length);
          turns[offered[0]] = (turns[offered[0]] ?? 0) + 1;
        }
        const total = weights.reduce((sum, weight) => sum + weight, 0);
        sites.forEach((site, n) => {
          if (weights[n] > 0) expect(Math.abs(turns[site] / rounds - weights[n] / total)).toBeLessThan(0.01);
        });
      },
    ),
    { numRuns: runs(100) },
  );
});
