import type { IntakeCounts } from "@/schema/intake";

/** What became or would become of the rows, in one sentence whose numbers add up. */
export function ListCounts({ counts, kept = false }: { counts: IntakeCounts; kept?: boolean }) {
  const n = (value: number) => <b>{value.toLocaleString("en-GB")}</b>;
  return (
    <p className="lead">
      {n(counts.new)} new
      {counts.changed > 0 ? <>, {n(counts.changed)} already known (updated)</> : null}
      {counts.unchanged > 0 ? <>, {n(counts.unchanged)} already known (unchanged)</> : null}
      {counts.refused > 0 ? <>, {n(counts.refused)} can’t be used</> : null}.{" "}
      {counts.visits > 0 ? (
        <>
          {n(counts.visits)} {counts.visits === 1 ? "visit" : "visits"} {kept ? "added" : "would be added"}.{" "}
        </>
      ) : null}
      {counts.doubtful > 0 ? (
        <>
          {n(counts.doubtful)} {kept ? "have" : "would have"} something to check.
        </>
      ) : null}
    </p>
  );
}
