import type { TraceLine } from "@/core/asks/findings";
import { capital, sayCount } from "@/core/time/say";
import { findingWords, remedySentence, traceSentence } from "@/locales/asking";

/**
 * A trace in plain sentences, with the value that decided: what spoke against it first, and what passed folded away beside
 * it. Where nothing did, every rule that was tried, in order.
 */
export function Trace({ lines }: { lines: readonly TraceLine[] }) {
  const against = lines.filter(({ objects }) => objects);
  const passed = lines.filter(({ objects }) => !objects);
  if (against.length === 0) return <Lines lines={passed} />;
  return (
    <>
      <Lines lines={against} />
      {passed.length > 0 ? (
        <details className="mt-3">
          <summary className="text-second min-h-[32px] cursor-pointer">
            {capital(sayCount(passed.length, "rule"))} before it {passed.length === 1 ? "was" : "were"} no problem
          </summary>
          <Lines lines={passed} />
        </details>
      ) : null}
    </>
  );
}

function Lines({ lines }: { lines: readonly TraceLine[] }) {
  return (
    <ol className="space-y-1">
      {lines.map((line, index) => (
        <li key={index} className="flex gap-2.5">
          <span aria-hidden="true" className={line.objects ? "text-vermilion-deep" : "text-leaf"}>
            {line.objects ? "✕" : "✓"}
          </span>
          <span className={line.objects ? "font-semibold" : ""}>{traceSentence(line)}</span>
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
          {remedySentence(line.rule)} <span className="text-second">({findingWords(line.finding)})</span>
        </li>
      ))}
    </ul>
  );
}
