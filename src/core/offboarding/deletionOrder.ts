/** One table refers to another: its rows must go first. */
export type Reference = { from: string; to: string };

/**
 * The tables in an order in which their rows can be deleted: each before those that it refers to. References of a table
 * to itself count for nothing.
 *
 * @throws where tables refer to one another in a circle.
 */
export function deletionOrder(tables: readonly string[], references: readonly Reference[]): string[] {
  const order: string[] = [];
  const waiting = new Set(tables);
  const among = references.filter(({ from, to }) => from !== to && waiting.has(from) && waiting.has(to));
  while (waiting.size > 0) {
    const free = [...waiting].filter((table) => !among.some(({ from, to }) => to === table && waiting.has(from)));
    if (free.length === 0) throw new Error(`Tables refer to one another: ${[...waiting].join(", ")}.`);
    for (const table of free.sort()) {
      order.push(table);
      waiting.delete(table);
    }
  }
  return order;
}
