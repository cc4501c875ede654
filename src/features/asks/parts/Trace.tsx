import { remedy, sayLine, type TraceLine } from "@/core/asks/eligibility";

/** A trace in plain sentences: every rule that was tried, in order, with the value that decided. */
export function Trace({ lines }: { lines: readonly TraceLine[] }) {
  return (
    <ol className="space-y-1">
      {lines.map((line, index) => (
        <li key={index} className="flex gap-2.5">
          <span aria-hidden="true" className={line.objects ? "text-vermilion-deep" : "text-leaf"}>
            {line.objects ? "✕" : "✓"}
          </span>
          <span className={line.objects ? "font-semibold" : ""}>{sayLine(line)}</span>
        </li>
      ))}
    </ol>
  );
}

/** What would have to change for somebody to be asked. */
export function Remedies({ lines }: { lines: readonly TraceLine[] }) {
  return (
    <ul className="list-disc space-y-1 pl-5">
      {lines.map((line) => (
        <li key={line.rule}>
          {remedy(line.rule)} <span className="text-second">({line.value})</span>
        </li>
      ))}
    </ul>
  );
}
