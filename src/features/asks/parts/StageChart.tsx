import { ASK_STAGES, type AskStage } from "@/core/asks/stages";
import { stageWords } from "@/locales/asking";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

/** How many asks came how far, each stage a column that opens who they are. */
export function StageChart({
  counts,
  stage,
  href,
}: {
  counts: Record<AskStage, number>;
  stage: AskStage;
  href: (stage: AskStage) => string;
}) {
  const of = (part: number, whole: number) => (whole === 0 ? "" : `${Math.round((100 * part) / whole)}%`);
  return (
    <ol aria-label="Stages" className="mt-5 grid grid-cols-2 gap-y-3 min-[560px]:grid-cols-4 min-[1040px]:grid-cols-8">
      {ASK_STAGES.map((name, index) => {
        const share = counts.planned === 0 ? 0 : counts[name] / counts.planned;
        const here = name === stage;
        return (
          <li key={name} className="min-w-0">
            <Link
              href={href(name)}
              aria-current={here ? "true" : undefined}
              className={`block h-full border-b-[3px] px-2 py-2 no-underline ${here ? "border-mulberry bg-mulberry-tint" : "border-rule hover:bg-sheet"}`}
            >
              <span aria-hidden="true" className="flex h-[44px] items-end">
                <span
                  className="bg-mulberry w-full max-w-[52px] rounded-t-[3px]"
                  style={{ height: `${Math.max(share > 0 ? 4 : 0, share * 100)}%` }}
                />
              </span>
              <b className="block text-[20px] leading-[1.4]">{counts[name]}</b>
              <span className="block text-[14px] leading-[1.3]">{stageWords(name)}</span>
              <span className="text-second block min-h-[18px] text-[13px]">
                {index > 1 ? `${of(counts[name], counts.asked)}${counts.asked > 0 ? " of those asked" : ""}` : ""}
              </span>
            </Link>
          </li>
        );
      })}
    </ol>
  );
}
