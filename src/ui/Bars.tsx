/** A rating inside Estima: five rising bars and the figure in words. */
export function Bars({ rating, words }: { rating: number; words?: string }) {
  const tone = rating <= 2 ? "bg-vermilion" : rating === 3 ? "bg-ochre" : "bg-leaf";
  return (
    <span className="inline-flex items-end gap-2 whitespace-nowrap">
      <span aria-hidden="true" className="mb-[5px] inline-flex items-end gap-[3px]">
        {[1, 2, 3, 4, 5].map((bar) => (
          <span
            key={bar}
            style={{ height: 2 + bar * 2.4 }}
            className={`w-[5px] rounded-[1px] ${bar <= rating ? tone : "bg-rule"}`}
          />
        ))}
      </span>
      <span>{words ?? `${rating} of 5`}</span>
    </span>
  );
}
