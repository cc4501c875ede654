import pg from "pg";

/** The statements that `work` has the database run, but for those that only begin and end a transaction. */
export async function statementsOf(work: () => Promise<unknown>): Promise<string[]> {
  const seen: string[] = [];
  const { query } = pg.Client.prototype;
  pg.Client.prototype.query = function (this: pg.Client, ...given: unknown[]) {
    const [first] = given;
    const text = typeof first === "string" ? first : ((first as { text?: string; name?: string } | null)?.text ?? "");
    if (text && !/^\s*(?:begin|commit|rollback)\b|set_config\('estima/i.test(text)) seen.push(text);
    return (query as (...given: unknown[]) => unknown).apply(this, given);
  } as typeof query;
  try {
    await work();
  } finally {
    pg.Client.prototype.query = query;
  }
  return seen;
}
