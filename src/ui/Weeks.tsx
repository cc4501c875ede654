/** A line through a few numbers, the oldest first, with a table's words for whoever cannot see it. */
export function Weeks({ counts, says }: { counts: readonly number[]; says: string }) {
  const most = Math.max(1, ...counts);
  const [width, height] = [112, 26];
  const points = counts.map(
    (count, index) =>
      `${((index / Math.max(1, counts.length - 1)) * (width - 4) + 2).toFixed(1)},${(height - 3 - (count / most) * (height - 6)).toFixed(1)}`,
  );
  return (
    <span>
      <svg
        aria-hidden="true"
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        className="text-leaf block"
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinejoin="round"
        strokeLinecap="round"
      >
        <polyline points={points.join(" ")} />
      </svg>
      <span className="sr-only">{says}</span>
    </span>
  );
}
