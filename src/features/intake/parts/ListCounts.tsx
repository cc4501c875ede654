import type { IntakeCounts } from "@/schema/intake";

/** What became or would become of the rows, in one sentence whose numbers add up. */
export function ListCounts({ counts, kept = false }: { counts: IntakeCounts; kept?: boolean }) {
  const n = (value: number) => <b>{value.toLocaleString("en-GB")}</b>;
  return (
    <p className="lead">
      {n(counts.new)} new
      {counts.changed > 0 ? <>, {n(counts.changed)} known with something new</> : null}
      {counts.unchanged > 0 ? <>, {n(counts.unchanged)} known as they are</> : null}
      {counts.refused > 0 ? <>, {n(counts.refused)} not usable</> : null}.{" "}
      {counts.visits > 0 ? (
        <>
          {n(counts.visits)} {counts.visits === 1 ? "visit" : "visits"} {kept ? "came in" : "would come in"}.{" "}
        </>
      ) : null}
      {counts.doubtful > 0 ? (
        <>
          {n(counts.doubtful)} {kept ? "have" : "would have"} something to look at.
        </>
      ) : null}
    </p>
  );
}
