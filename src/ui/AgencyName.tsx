import { inkOn } from "@/core/words/contrast";

/** An agency as its clients' people see it: its logo, or its name on its colour. */
export function AgencyName({ name, colour, logoId }: { name: string; colour: string; logoId: string | null }) {
  if (logoId)
    return (
      // biome-ignore lint/performance/noImgElement: it is drawn to its size when it is uploaded
      <img src={`/images/${logoId}.webp`} alt={name} className="max-h-[36px] max-w-[180px] object-contain" />
    );
  return (
    <span
      className="font-title inline-block max-w-full truncate rounded-[8px] px-2 py-0.5 text-[19px] font-bold"
      style={{ background: colour, color: inkOn(colour) }}
    >
      {name}
    </span>
  );
}
