import { sql } from "drizzle-orm";
import { z } from "zod";
import { rowsIn, rowsOf, type Tx } from "./database";

/** What the worker can be asked to do: the payload of each task and how it is queued. Edit this to add a task. */

const ids = z.array(z.uuid()).max(1000);

/** A payload holds identifiers only, never what a person said or is called. */
const PAYLOADS = {
  /** Sends claimed messages of one client. */
  send: z.object({ clientId: z.uuid(), claimId: z.uuid(), messageIds: ids }),
  /** Decides about visits that have ended. */
  examine: z.object({ clientId: z.uuid(), visitIds: ids }),
  /** Decides about triggers that are due. */
  triggers: z.object({ clientId: z.uuid(), triggerIds: ids }),
  /** Does what a plan has to do by itself. */
  plan: z.object({ clientId: z.uuid(), planId: z.uuid() }),
  /** Mails a notice to those who look after a client. */
  notice: z.object({ clientId: z.uuid(), noticeId: z.uuid() }),
  /** Reads what is new on a listing. */
  collect: z.object({ clientId: z.uuid(), listingId: z.uuid() }),
  /** Reads what a client's customers said for what it names. */
  themes: z.object({ clientId: z.uuid() }),
  /** Has all that a client's customers said read again. */
  anew: z.object({ clientId: z.uuid() }),
  /** Tells somebody what is due for them. */
  tell: z.object({ clientId: z.uuid(), userId: z.string().max(64) }),
  /** Reminds of a concern that nobody has answered. */
  remind: z.object({ clientId: z.uuid(), concernId: z.uuid() }),
  /** Fetches a picture that came with a message. */
  picture: z.object({ clientId: z.uuid(), pictureId: z.uuid() }),
  /** Posts a reply whose time has come. */
  reply: z.object({ clientId: z.uuid(), reviewId: z.uuid() }),
  /** Works on events that a webhook feed brought in. */
  inbound: z.object({ clientId: z.uuid(), ids }),
  /** Fetches a feed. */
  fetch: z.object({ clientId: z.uuid(), feedId: z.uuid() }),
  /** Reads, previews or keeps a long list. */
  list: z.object({ clientId: z.uuid(), intakeId: z.uuid(), action: z.enum(["read", "check", "import"]) }),
  /** Plans the next messages of a plan's open asks anew, or of all of the client's. */
  replan: z.object({ clientId: z.uuid(), planId: z.uuid().nullable() }),
  /** Looks for people who may be the same. */
  matches: z.object({ clientId: z.uuid() }),
  /** Empties what long lists keep of erased people. */
  forget: z.object({ clientId: z.uuid() }),
  /** Works out how a client is doing, for its agency. */
  outlook: z.object({ clientId: z.uuid() }),
  /** Mails somebody of an agency how its clients are doing. */
  summary: z.object({ agencyId: z.uuid(), userId: z.string().max(64), day: z.iso.date() }),
  /** Deletes all that is kept of a client. */
  delete: z.object({ clientId: z.uuid() }),
  /** Moves the demo clock. Milliseconds since the epoch. */
  skip: z.object({ from: z.number().int(), to: z.number().int() }),
};

export type TaskName = keyof typeof PAYLOADS;
export type TaskPayload<Name extends TaskName> = z.output<(typeof PAYLOADS)[Name]>;

/**
 * How often a task is tried at most. What is claimed by a lease is tried once: when the lease runs out it is claimed
 * again by itself.
 */
const MOST_TRIES: Record<TaskName, number> = {
  send: 1,
  examine: 3,
  triggers: 3,
  plan: 1,
  notice: 1,
  collect: 1,
  reply: 1,
  tell: 1,
  remind: 1,
  picture: 1,
  themes: 3,
  anew: 3,
  inbound: 3,
  fetch: 1,
  list: 3,
  replan: 3,
  matches: 3,
  forget: 3,
  outlook: 1,
  summary: 5,
  delete: 1,
  skip: 3,
};

/** The payload of a task, checked; throws a ZodError for any other. */
export function readPayload<Name extends TaskName>(task: Name, payload: unknown): TaskPayload<Name> {
  return PAYLOADS[task].parse(payload) as TaskPayload<Name>;
}

/**
 * Queues a job. `key` keeps a second one with the same key from being queued; a job with that key which somebody works
 * on already is not held up by it. With `tx` the job is there when that is committed.
 */
export async function addJob<Name extends TaskName>(
  task: Name,
  payload: TaskPayload<Name>,
  key?: string,
  tx?: Tx,
): Promise<void> {
  const statement = sql`select graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, job_key => ${key ?? null}, max_attempts => ${MOST_TRIES[task]})`;
  await (tx ? rowsIn(tx, statement) : rowsOf(statement));
}

/** How many jobs of a task wait for a worker. */
export async function countWaitingJobs(task: TaskName): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    sql`select count(*)::int as n from graphile_worker.jobs where task_identifier = ${task} and locked_at is null`,
  );
  return row.n;
}

/**
 * Lets jobs be worked on again whose worker is gone. A worker holds an advisory lock for as long as it lives (see
 * `holdWorkerLock`); the queue itself would wait for four hours. A worker counts as gone when its lock was missing at
 * the look before, too: `missing` holds the names of those, and is changed. Gives how many were let go.
 */
export async function releaseJobsOfDeadWorkers(missing: Set<string>): Promise<number> {
  const rows = await rowsOf<{ worker: string }>(
    sql`select distinct j.locked_by as worker from graphile_worker.jobs j where j.locked_by is not null and not exists (
          select 1 from pg_locks l where l.locktype = 'advisory' and l.classid = ${WORKER_LOCKS}
            and l.objid = hashtext(j.locked_by)::bit(32)::bigint::oid
            and l.database = (select oid from pg_database where datname = current_database()))`,
  );
  const now = rows.map(({ worker }) => worker);
  const dead = now.filter((worker) => missing.has(worker));
  missing.clear();
  for (const worker of now) if (!dead.includes(worker)) missing.add(worker);
  if (dead.length > 0) await rowsOf(sql`select graphile_worker.force_unlock_workers(${sql.param(dead)}::text[])`);
  return dead.length;
}

/** The first half of the advisory locks that living workers hold; the second is a hash of the worker's name. */
const WORKER_LOCKS = 20_261;

/** The statement with which a worker says, on a connection of its own, that it lives; its parameter is its name. */
export const holdWorkerLock = `select pg_advisory_lock(${WORKER_LOCKS}, hashtext($1))`;
