import { sql } from "drizzle-orm";
import { rowsOf } from "./database";

/** Hands a job to the worker. `key` keeps a second one of the same kind from being queued. */
export async function addJob(task: string, payload: unknown, key?: string): Promise<void> {
  await rowsOf(sql`select graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, job_key => ${key ?? null}, max_attempts => 3)`);
}
