import type { PlanFinding } from "@/core/plans/check";
import { loadSetting } from "@/features/clients";
import { listPlans } from "@/features/plans";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { findingsOf, lookAtLinks } from "../checks";

type Props = { access: Access; planId: string; looks: boolean; stepHref: (index: number) => string };

/**
 * What is wrong with a plan before it runs; each finding opens its place. With `looks`, links that nobody followed for
 * a day are followed first, which takes its time: the page around it need not wait.
 */
export async function Findings({ access, planId, looks, stepHref }: Props) {
  if (looks) await lookAtLinks(access);
  const { slug } = access.seat;
  const findings = await withClient(access, async (tx) => {
    const all = await listPlans(tx, access);
    const plan = all.find(({ id }) => id === planId);
    if (!plan) return [];
    const before = all.filter(
      ({ id, state, position }) => id !== planId && state === "running" && position < plan.position,
    );
    return findingsOf(await loadSetting(tx), plan.draft ?? plan.rules, before);
  });
  if (findings.length === 0)
    return (
      <p>
        ✓ All good: review links work, every text says how to opt out, every placeholder has a fallback, and no rules
        conflict.
      </p>
    );
  return (
    <ul className="space-y-1.5">
      {findings.map((finding) => (
        <li key={finding.says} className={finding.level === "error" ? "text-vermilion-deep" : "text-ochre-deep"}>
          <span aria-hidden="true">{finding.level === "error" ? "✕ " : "! "}</span>
          <span className="sr-only">{finding.level === "error" ? "Can’t run: " : "Check this: "}</span>
          <a href={placeOf(finding, slug, stepHref)} className="!text-inherit">
            {finding.says}
          </a>
        </li>
      ))}
    </ul>
  );
}

function placeOf(finding: PlanFinding, slug: string, stepHref: (index: number) => string): string {
  const { place, step = 0, channel } = finding;
  if (place === "order") return `/c/${slug}/asking`;
  if (place === "branches") return `/c/${slug}/set-up/pages`;
  if (place === "address") return `/c/${slug}/set-up/pages#address`;
  if (place === "hours") return `#hours-${channel ?? "text"}`;
  if (place === "words") return `${stepHref(step)}#words-a`;
  if (place === "step") return `${stepHref(step)}#step`;
  return `#${place}`;
}
