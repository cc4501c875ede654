import { sayBegins } from "@/core/plans/sayRules";
import { sayCount } from "@/core/time/say";
import type { Plan } from "@/features/plans";
import { pauseWords } from "@/locales/operations";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

type Tally = { open: number; asked: number; waiting: number };

/** One plan of a list: what it does, whether it runs, and how many it asked lately. `nameOf` names services and branches. */
export function PlanRow({
  plan,
  slug,
  tally,
  nameOf,
}: {
  plan: Plan;
  slug: string;
  tally: Tally | undefined;
  nameOf: (id: string) => string;
}) {
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-0.5">
      <div className="min-w-0 flex-1 basis-[340px]">
        <Link href={`/c/${slug}/asking/plans/${plan.id}`} className="name-link text-[16.5px] font-semibold">
          {plan.name}
        </Link>{" "}
        <StateTag plan={plan} />
        <p className="text-second [overflow-wrap:anywhere]">{planWords(plan, nameOf)}</p>
        {plan.pausedWhy ? <p className="text-vermilion-deep">Paused itself: {pauseWords(plan.pausedWhy)}.</p> : null}
      </div>
      <p className="text-second text-[14px]">{tallyWords(tally)}</p>
    </div>
  );
}

function planWords({ rules, draft }: Plan, nameOf: (id: string) => string): string {
  const { steps, style } = draft ?? rules;
  return `When ${sayBegins((draft ?? rules).begins, nameOf)}: ${style === "straight away" ? "" : "asks how it went, then asks happy customers for a review; "}${sayCount(steps.length, "message")}.`;
}

function tallyWords(tally: Tally | undefined): string {
  if (!tally) return "";
  const words = [`${tally.asked} asked this week`, `${tally.open} under way`];
  return (tally.waiting > 0 ? [...words, `${tally.waiting} waiting their turn`] : words).join(" · ");
}

function StateTag({ plan }: { plan: Plan }) {
  const tone = {
    draft: "border-rule bg-sheet text-second border",
    running: "bg-leaf-tint text-leaf",
    paused: "bg-ochre-tint text-ochre-deep",
    archived: "border-rule bg-paper text-second border",
  };
  const says = { draft: "not started", running: "running", paused: "paused", archived: "archived" };
  return (
    <>
      <span className={`tag ${tone[plan.state]}`}>{says[plan.state]}</span>
      {plan.draft ? <span className="tag bg-ochre-tint text-ochre-deep ml-1">changes not live</span> : null}
    </>
  );
}
