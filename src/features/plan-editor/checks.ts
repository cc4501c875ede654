import { type CheckFacts, checkPlan, type PlanFinding } from "@/core/plans/check";
import type { PlanRules } from "@/core/plans/planRules";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import { DAY } from "@/core/time/zone";
import { type Listing, loadSetting, type Setting, setListingProblem } from "@/features/clients";
import { siteProblemWords } from "@/locales/operations";
import { now as clockNow } from "@/platform/clock";
import { answerLink } from "@/platform/customerLinks";
import { type Scope, withClient } from "@/platform/database";
import { callOutside, RefusedAddress } from "@/platform/outbound";

/** What is wrong with a plan before it runs, by the client's setting. */
export function findingsOf(
  setting: Setting,
  rules: PlanRules,
  before: readonly { name: string; rules: PlanRules }[] = [],
): PlanFinding[] {
  const facts: CheckFacts = {
    rules,
    before,
    business: setting.client.name,
    postalAddress: setting.client.postalAddress,
    link: answerLink("k7q2m9wx4tzr3n", 0),
    sendHours: setting.client.sendHours,
    branches: setting.branches,
    services: setting.services,
    listings: setting.listings.map((one) => ({ ...one, problem: one.problem && siteProblemWords(one.problem) })),
    tags: setting.tags.map(({ name, effect }) => ({ name, neverAsks: effect === "do not ask" })),
  };
  return checkPlan(facts);
}

/** Follows the review links nobody looked at for a day, or all of them, and keeps which lead nowhere. */
export async function lookAtLinks(scope: Scope, everyone = false): Promise<void> {
  const now = await clockNow();
  const stale = await withClient(scope, async (tx) =>
    (await loadSetting(tx)).listings.filter(({ lookedAt }) => everyone || lookedAt === null || lookedAt < now - DAY),
  );
  if (stale.length === 0) return;
  const seen = await Promise.all(stale.map(async (listing) => ({ listing, problem: await problemWith(listing) })));
  await withClient(scope, async (tx) => {
    for (const { listing, problem } of seen) await setListingProblem(tx, scope, listing.id, problem, now);
  });
}

async function problemWith({ url }: Listing): Promise<SiteProblem | null> {
  try {
    const response = await Promise.race([
      callOutside(url, { method: "GET" }),
      new Promise<null>((done) => setTimeout(() => done(null), 3000)),
    ]);
    if (response === null) return { code: "not reached" };
    await response.body?.cancel();
    return response.status < 400 || response.status === 401 || response.status === 403 || response.status === 429
      ? null
      : { code: "answered", status: response.status };
  } catch (error) {
    return error instanceof RefusedAddress ? { code: "private network" } : { code: "not reached" };
  }
}
