import { segmentsOf } from "@/core/words/segments";

/** A wording to read: words, with a chip for each placeholder. */
export function Template({ words }: { words: string }) {
  return segmentsOf(words).map((segment, index) =>
    "text" in segment ? (
      segment.text
    ) : (
      <span key={index} className="bg-mulberry-tint rounded-[5px] px-1.5 py-0.5">
        {segment.name}
      </span>
    ),
  );
}
