import { z } from "zod";
import type { PlanRules } from "../plans/planRules";

export type SiteRules = PlanRules["sites"];

/** Why a site comes first, and which sites were passed over because the person has reviewed them. Names of sites. */
const reviewed = z.array(z.string());
export const SITE_REASON = z.discriminatedUnion("code", [
  z.object({ code: z.literal("mailbox account"), site: z.string(), reviewed }),
  z.object({ code: z.literal("mailbox of no site"), site: z.string(), reviewed }),
  z.object({ code: z.literal("behind its share"), site: z.string(), reviewed }),
  z.object({ code: z.literal("plan order"), site: z.string(), reviewed }),
  z.object({ code: z.literal("none left"), reviewed }),
  z.object({ code: z.literal("not recorded") }),
]);
export type SiteReason = z.infer<typeof SITE_REASON>;

/** What decides which site comes first for one person. */
export type SiteFacts = {
  /** Sites of the branch, in the branch's own order. */
  sites: readonly string[];
  /** How often each came first so far under this plan at this branch. */
  turns: Readonly<Record<string, number>>;
  /** The sites that hold the account behind the person's mailbox. */
  mailboxSites: readonly string[];
  /** Sites the person has reviewed already: not offered. */
  reviewed: readonly string[];
};

/** The sites offered to a person, first one first, and why that one is first. */
export function orderSites(rules: SiteRules, facts: SiteFacts): { sites: string[]; why: SiteReason } {
  // A name that stands twice, in the plan's order or at the branch, is one site.
  const left = [...new Set(facts.sites)].filter(
    (site) => !facts.reviewed.includes(site) && !rules.leftOut?.includes(site),
  );
  const named = [...new Set(rules.order)].filter((site) => left.includes(site));
  const order = [...named, ...left.filter((site) => !named.includes(site))];
  const passedOver = [...facts.reviewed];
  const lead = (first: string, code: Exclude<SiteReason["code"], "none left" | "not recorded">) => ({
    sites: [first, ...order.filter((site) => site !== first)].slice(0, rules.most),
    why: { code, site: first, reviewed: passedOver },
  });
  if (order.length === 0) return { sites: [], why: { code: "none left", reviewed: passedOver } };
  if (rules.mix === "mailbox") {
    const match = order.find((site) => facts.mailboxSites.includes(site));
    if (match) return lead(match, "mailbox account");
    return lead(order[0], "mailbox of no site");
  }
  if (rules.mix === "shares") {
    // A site without a page at this branch leaves its share to the others.
    const here = <T>(all: Readonly<Record<string, T>>) =>
      Object.fromEntries(
        Object.entries(all).filter(([site]) => facts.sites.includes(site) && !rules.leftOut?.includes(site)),
      );
    const turn = shareTurn(order, here(rules.shares), here(facts.turns));
    if (turn) return lead(turn, "behind its share");
  }
  return lead(order[0], "plan order");
}

/**
 * Whose turn it is: the site furthest behind its wanted share of all turns so far, so that the realised shares
 * converge on the wanted ones. Sites that are not among `order` get no turn; null when none has a share.
 */
export function shareTurn(
  order: readonly string[],
  shares: Readonly<Record<string, number>>,
  turns: Readonly<Record<string, number>>,
): string | null {
  const total = Object.values(shares).reduce((sum, share) => sum + share, 0);
  // Turns of sites that have no share (any more) are nobody's loss.
  const given = Object.entries(turns).reduce((sum, [site, count]) => sum + ((shares[site] ?? 0) > 0 ? count : 0), 0);
  let best: { site: string; behind: number } | null = null;
  for (const site of order) {
    const share = shares[site] ?? 0;
    if (share <= 0) continue;
    const behind = (share / total) * (given + 1) - (turns[site] ?? 0);
    if (!best || behind > best.behind + 1e-9) best = { site, behind };
  }
  return best?.site ?? null;
}

/** Which sites hold the accounts of a mailbox: by its own domain, or by the host that a look-up named for it. */
export function mailboxSites(
  email: string | null,
  host: string | null,
  accounts: Readonly<Record<string, readonly string[]>>,
): string[] {
  const domain = email?.slice(email.lastIndexOf("@") + 1).toLowerCase() ?? null;
  const under = (name: string | null, suffix: string) =>
    name !== null && (name === suffix || name.endsWith(`.${suffix}`));
  return Object.entries(accounts).flatMap(([site, domains]) =>
    domains.some((each) => under(domain, each) || under(host, each)) ? [site] : [],
  );
}
