import { setImmediate as nextTurn } from "node:timers/promises";

/** So many rows are read between two looks at whether the database has answered. */
const A_TURN = 40;

/**
 * Rows in chunks of `size`, the next chunk read in small turns while whoever works on one waits for the database. An
 * error of the rows is thrown where its chunk would come.
 *
 * @example for await (const rows of inChunks(readRows(list, choice, setting, now), 2500)) await keep(rows);
 */
export async function* inChunks<Row>(rows: Iterable<Row>, size: number): AsyncGenerator<Row[], void> {
  const source = rows[Symbol.iterator]();
  let isLeft = false;
  const read = async (): Promise<Row[]> => {
    const chunk: Row[] = [];
    while (chunk.length < size && !isLeft) {
      const next = source.next();
      if (next.done) break;
      chunk.push(next.value);
      if (chunk.length % A_TURN === 0) await nextTurn();
    }
    return chunk;
  };
  const begin = () => {
    const chunk = read();
    // It is thrown when it is awaited; until then nobody else is to hear of it.
    chunk.catch(() => undefined);
    return chunk;
  };
  try {
    for (let ahead = begin(); ; ) {
      const chunk = await ahead;
      if (chunk.length === 0) return;
      ahead = begin();
      yield chunk;
    }
  } finally {
    isLeft = true;
  }
}
