/** Where the bars of a rating stand, the lowest first: 5 wide, 3 apart, their corners rounded by the stroke around them. */
const BARS = [1, 2, 3, 4, 5].map((bar) => {
  const height = 2 + bar * 2.4;
  return `M${(bar - 1) * 8 + 0.5} ${(14.5 - height).toFixed(1)}h4v${(height - 1).toFixed(1)}h-4z`;
});

/** A rating inside Estima: five rising bars and the figure in words. */
export function Bars({ rating, words }: { rating: number; words?: string }) {
  const tone = rating <= 2 ? "text-vermilion" : rating === 3 ? "text-ochre" : "text-leaf";
  return (
    <span className="inline-flex items-end gap-2 whitespace-nowrap">
      <svg className="bars" viewBox="0 0 37 14" aria-hidden="true">
        <path className={tone} d={BARS.slice(0, rating).join("")} />
        {rating < 5 ? <path className="text-rule" d={BARS.slice(rating).join("")} /> : null}
      </svg>
      <span>{words ?? `${rating} of 5`}</span>
    </span>
  );
}
