import { setImmediate as nextTurn } from "node:timers/promises";
import fc from "fast-check";
import { inChunks } from "./readAhead";

async function all<Row>(chunks: AsyncIterable<Row[]>): Promise<Row[][]> {
  const found: Row[][] = [];
  for await (const chunk of chunks) found.push(chunk);
  return found;
}

test("every row comes once, in order, in chunks that are full but for the last", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(), { maxLength: 300 }), fc.integer({ min: 1, max: 120 }), async (rows, size) => {
      const chunks = await all(inChunks(rows, size));
      expect(chunks.flat()).toEqual(rows);
      expect(chunks.every((chunk, index) => chunk.length === size || index === chunks.length - 1)).toBe(true);
      expect(chunks.every((chunk) => chunk.length > 0)).toBe(true);
    }),
  );
});

/** Rows that tell how many of them were read. */
function counted(most: number, failsAt = Number.POSITIVE_INFINITY) {
  const seen = { read: 0 };
  function* rows() {
    while (seen.read < most) {
      if (seen.read === failsAt) throw new Error("unreadable");
      yield seen.read++;
    }
  }
  return { seen, rows: rows() };
}

test("one chunk is read ahead while somebody waits, and no more", async () => {
  const { seen, rows } = counted(10_000);
  const chunks = inChunks(rows, 100);
  await chunks.next();
  for (let turn = 0; turn < 50; turn++) await nextTurn();
  expect(seen.read).toBe(200);
  await chunks.return();
  for (let turn = 0; turn < 50; turn++) await nextTurn();
  expect(seen.read).toBe(200);
});

test("an error comes where its chunk would, after all that could be read before it", async () => {
  const { rows } = counted(1000, 250);
  const found: number[] = [];
  await expect(
    (async () => {
      for await (const chunk of inChunks(rows, 100)) {
        found.push(...chunk);
        for (let turn = 0; turn < 20; turn++) await nextTurn();
      }
    })(),
  ).rejects.toThrow("unreadable");
  expect(found).toHaveLength(200);
});
