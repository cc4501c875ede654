import { sql } from "drizzle-orm";
import { rowsIn, rowsOf, type Tx } from "./database";

/**
 * Hands a job to the worker. `key` keeps a second one of the same kind from being queued; with `tx` the job is there
 * when that is committed.
 */
export async function addJob(task: string, payload: unknown, key?: string, tx?: Tx): Promise<void> {
  const statement = sql`select graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, job_key => ${key ?? null}, max_attempts => 3)`;
  await (tx ? rowsIn(tx, statement) : rowsOf(statement));
}
