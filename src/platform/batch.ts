/** The last id (uuid) of a batch of at most `most` rows in any order, to go on after; null where no more follow. */
export function lastOfBatch(rows: readonly { id: string }[], most: number): string | null {
  if (rows.length < most) return null;
  return (
    rows
      .map(({ id }) => id)
      .sort()
      .at(-1) ?? null
  );
}
