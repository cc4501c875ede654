import type { Finding } from "@/core/plans/check";

/** What the check before running found; each finding opens its place. */
export function Findings({ findings, slug, stepHref }: { findings: Finding[]; slug: string; stepHref: (index: number) => string }) {
  if (findings.length === 0) return <p>✓ Review links open, every text says how to stop, every placeholder has a fallback, and the rules agree with each other.</p>;
  return (
    <ul className="space-y-1.5">
      {findings.map((finding) => (
        <li key={finding.says} className={finding.level === "stops" ? "text-vermilion-deep" : "text-ochre-deep"}>
          <span aria-hidden="true">{finding.level === "stops" ? "✕ " : "! "}</span>
          <span className="sr-only">{finding.level === "stops" ? "It cannot run: " : "Look at this: "}</span>
          <a href={placeOf(finding, slug, stepHref)} className="!text-inherit">
            {finding.says}
          </a>
        </li>
      ))}
    </ul>
  );
}

function placeOf(finding: Finding, slug: string, stepHref: (index: number) => string): string {
  const { place, step = 0, channel } = finding;
  if (place === "order") return `/c/${slug}/asking`;
  if (place === "branches") return `/c/${slug}/set-up/pages`;
  if (place === "address") return `/c/${slug}/set-up/pages#address`;
  if (place === "hours") return `#hours-${channel ?? "text"}`;
  if (place === "words") return `${stepHref(step)}#words-a`;
  if (place === "step") return `${stepHref(step)}#step`;
  return `#${place}`;
}
