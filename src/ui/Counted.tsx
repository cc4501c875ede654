import { pluralOf } from "@/core/time/say";

/** A figure and what it counts, the figure in bold: "**1** person", "**1,400** people". */
export function Counted({ count, one, many }: { count: number; one: string; many?: string }) {
  return (
    <>
      <b>{count.toLocaleString("en-GB")}</b> {pluralOf(count, one, many)}
    </>
  );
}
