import { EventEmitter } from "node:events";
import { createServer } from "node:http";
import { setTimeout as sleep } from "node:timers/promises";
import { Logger, run, type Task, type TaskList, type WorkerEvents } from "graphile-worker";
import { Client, Pool } from "pg";
import { replanPortions } from "@/features/asks";
import { claimReminders, remindOf } from "@/features/concerns";
import {
  claimFeeds,
  claimInboundEvents,
  claimStalledLists,
  fetchFeed,
  forgetInLongLists,
  processEventsOf,
  runListTask,
} from "@/features/intake";
import { claimDue, claimPictures, deliver, fetchPicture } from "@/features/messaging";
import { claimNotices, claimTellings, deliverNotice, deliverTellings } from "@/features/notices";
import { claimDeletions, deleteClient } from "@/features/offboarding";
import { claimOutlooks, claimSummaries, mailSummary, refreshOutlook } from "@/features/outlook";
import { findMatches } from "@/features/people-admin";
import { claimListings, claimReplies, collect, postDueReply } from "@/features/reviews";
import { clientsToRead, clientsToReadAnew, readAllAnew, readThemesOf } from "@/features/themes";
import { closeApart } from "@/platform/apart";
import { now as clockNow, demoClockState, setDemoClock } from "@/platform/clock";
import { checkRole, closeDatabase, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import {
  addJob,
  countWaitingJobs,
  holdWorkerLock,
  readPayload,
  releaseJobsOfDeadWorkers,
  type TaskName,
  type TaskPayload,
} from "@/platform/jobs";
import { describeError, log } from "@/platform/log";
import { closeMail } from "@/platform/mail";
import {
  BATCH,
  claimTriggers,
  claimVisits,
  duePlans,
  examineClaimed,
  JOBS_AT_ONCE,
  lookWithDuePlan,
  runClaimedTriggers,
} from "./due";
import { skipAhead, townOverHttp } from "./skip";
import { sweep } from "./sweep";

/**
 * The job process. A tick every second claims what is due and hands it to the queue in batches; any number of these
 * processes may run against one database. In demo mode it also moves the demo clock and tells the town the time.
 */

type Work = { [Name in TaskName]: (payload: TaskPayload<Name>, signal?: AbortSignal) => Promise<unknown> };

const WORK: Work = {
  send: deliver,
  examine: examineClaimed,
  triggers: runClaimedTriggers,
  plan: lookWithDuePlan,
  notice: deliverNotice,
  collect: ({ clientId, listingId }) => collect(clientId, listingId),
  reply: postDueReply,
  tell: deliverTellings,
  remind: remindOf,
  picture: fetchPicture,
  themes: ({ clientId }, signal) => readThemesOf(clientId, signal),
  anew: ({ clientId }, signal) => readAllAnew(clientId, signal),
  inbound: processEventsOf,
  fetch: fetchFeed,
  list: runListTask,
  replan: replanPortions,
  matches: ({ clientId }) => findMatches(workFor(clientId)),
  forget: ({ clientId }) => forgetInLongLists(workFor(clientId)),
  outlook: ({ clientId }) => refreshOutlook(clientId),
  summary: mailSummary,
  delete: async ({ clientId }, signal) => deleteClient(clientId, await clockNow(), signal),
  skip: async ({ to }) => {
    // A worker that was killed on the way goes on from where the clock stands.
    const state = await demoClockState();
    if (state.skippingTo === null) return;
    await skipAhead(townOverHttp, state.now, to);
    log.info({ to }, "demo clock skipped ahead");
  },
};

const taskOf = <Name extends TaskName>(name: Name): Task => {
  return async (payload, helpers) => {
    await WORK[name](readPayload(name, payload), helpers.abortSignal);
  };
};
const taskList: TaskList = Object.fromEntries((Object.keys(WORK) as TaskName[]).map((name) => [name, taskOf(name)]));

/**
 * The queue's own words, as lines of our log: which task and what kind of error, never a job's payload or an error's
 * message.
 */
const queueLog = new Logger((scope) => (level, _words, meta) => {
  if (level === "info" || level === "debug") return;
  const cause = meta?.error ?? meta?.reason;
  log[level === "warning" ? "warn" : "error"](
    { task: scope.taskIdentifier, ...(cause ? { failure: describeError(cause) } : {}) },
    "queue",
  );
});

/** A release that reads otherwise for themes has everything read once more, client by client. */
async function readAnewWhatIsOld(): Promise<void> {
  for (const clientId of await clientsToReadAnew()) await addJob("anew", { clientId }, `anew ${clientId}`);
}

async function main(): Promise<void> {
  const env = environment();
  // Heard from the first job on: whoever says stop while this still starts is answered when it has started.
  let isTold = false;
  let stop: (() => Promise<void>) | null = null;
  for (const signal of ["SIGTERM", "SIGINT"])
    process.on(signal, () => {
      isTold = true;
      void stop?.();
    });
  await checkRole();
  const pool = new Pool({ connectionString: env.DATABASE_APP_URL, max: 6, options: "-c timezone=UTC" });
  pool.on("error", () => {});
  pool.on("connect", (client) => client.on("error", () => {}));
  const events: WorkerEvents = new EventEmitter();
  const locks = new WorkerLocks(env.DATABASE_APP_URL);
  events.on("worker:create", ({ worker }) => locks.hold(worker.workerId));
  const runner = await run({
    pgPool: pool,
    events,
    taskList,
    concurrency: JOBS_AT_ONCE,
    pollInterval: 1000,
    noHandleSignals: true,
    logger: queueLog,
  });

  // A skip that a killed worker left half way goes on; its job would stay locked for hours.
  const half = env.ESTIMA_DEMO ? await demoClockState() : null;
  if (half?.skippingTo) await addJob("skip", { from: half.now, to: half.skippingTo }, "skip");

  let lastTick = Date.now();
  let stopping = false;
  const tick = async () => {
    if (env.ESTIMA_DEMO) {
      const state = await demoClockState();
      if (state.skippingTo !== null) return;
      // Noted as it runs, so that a demo that was off for a night goes on where it stood.
      await setDemoClock(state.now);
      await townOverHttp.advance(state.now, false).catch(() => null);
    }
    await handOut(() => stopping);
  };
  const resting = new AbortController();
  const loop = (async () => {
    while (!stopping) {
      try {
        await tick();
        lastTick = Date.now();
      } catch (error) {
        log.error(describeError(error), "tick failed; trying again");
      }
      await sleep(1000, undefined, { signal: resting.signal }).catch(() => {});
    }
  })();
  const sweepAll = () =>
    clockNow()
      .then(sweep)
      .then(readAnewWhatIsOld)
      .catch((error) => log.error(describeError(error), "sweep failed"));
  await sweepAll();
  const sweeping = setInterval(sweepAll, 300_000);
  const missing = new Set<string>();
  const releasing = setInterval(
    () =>
      void releaseJobsOfDeadWorkers(missing)
        .then((count) => count > 0 && log.warn({ count }, "jobs of workers that are gone were released"))
        .catch((error) => log.error(describeError(error), "release failed")),
    10_000,
  );

  const health = createServer((request, response) => {
    const age = Date.now() - lastTick;
    const ok = age < 30_000;
    response.writeHead(request.url === "/health" ? (ok ? 200 : 503) : 404, { "content-type": "application/json" });
    response.end(JSON.stringify({ ok, lastTickSecondsAgo: Math.round(age / 1000) }));
  }).listen(env.WORKER_PORT, "127.0.0.1");
  log.info({ port: env.WORKER_PORT, demo: env.ESTIMA_DEMO }, "worker started");

  stop = async () => {
    if (stopping) return;
    stopping = true;
    resting.abort();
    log.info("worker stops after what it has begun");
    clearInterval(sweeping);
    clearInterval(releasing);
    health.close();
    await loop;
    await runner.stop();
    await locks.end();
    await pool.end();
    await closeMail();
    closeApart();
    await closeDatabase();
    process.exit(0);
  };
  if (isTold) await stop();
}

/** The advisory locks by which others see that the workers of this process live, on a connection of their own. */
class WorkerLocks {
  private readonly names = new Set<string>();
  private client: Client | null = null;
  private isEnded = false;
  private last: Promise<void> = Promise.resolve();
  private again: NodeJS.Timeout | null = null;

  constructor(private readonly url: string) {}

  /** One after the other: a connection runs one statement at a time. */
  hold(name: string): void {
    this.names.add(name);
    this.last = this.last.then(() => (this.client ? this.lock(this.client, name) : this.connect()));
  }

  private async lock(client: Client, name: string): Promise<void> {
    await client.query(holdWorkerLock, [name]).catch(() => this.connectAgain());
  }

  private async connect(): Promise<void> {
    const client = new Client({ connectionString: this.url });
    client.on("error", () => {});
    client.on("end", () => this.connectAgain());
    try {
      await client.connect();
      this.client = client;
      for (const name of this.names) await client.query(holdWorkerLock, [name]);
    } catch {
      this.connectAgain();
    }
  }

  /** A second after the connection was lost, or could not be made. */
  private connectAgain(): void {
    this.client = null;
    if (this.isEnded || this.again) return;
    this.again = setTimeout(() => {
      this.again = null;
      this.last = this.last.then(() => (this.client ? undefined : this.connect()));
    }, 1000);
  }

  async end(): Promise<void> {
    this.isEnded = true;
    if (this.again) clearTimeout(this.again);
    await this.client?.end().catch(() => {});
  }
}

/** Send jobs that may wait in the queue: enough to keep workers busy, few enough for a client's first to come soon. */
const MOST_WAITING = 4 * JOBS_AT_ONCE;

/** Claims what is due now and hands it to the queue, for five seconds at most: then the clock is told again. */
async function handOut(isStopping: () => boolean): Promise<void> {
  for (const until = Date.now() + 5000; Date.now() < until && !isStopping(); ) {
    const now = await clockNow();
    for (const claim of await claimInboundEvents(now, 500)) await addJob("inbound", claim);
    const visits = await claimVisits(now, 500);
    for (const claim of visits) await addJob("examine", claim);
    for (const claim of await claimTriggers(now, 500)) await addJob("triggers", claim);
    for (const due of await duePlans(now)) await addJob("plan", due, `plan ${due.planId}`);
    // The job of a worker that was killed may still be locked; a new one takes its key over.
    for (const claim of await claimStalledLists()) await addJob("list", claim, `list ${claim.intakeId}`);
    const mayClaim = (await countWaitingJobs("send")) < MOST_WAITING;
    const claims = mayClaim ? await claimDue(now, BATCH) : [];
    for (const claim of claims) await addJob("send", claim);
    for (const claim of await claimNotices(now)) await addJob("notice", claim);
    for (const claim of await claimTellings(now)) await addJob("tell", claim);
    for (const claim of await claimReminders(now)) await addJob("remind", claim);
    for (const claim of await claimPictures(now)) await addJob("picture", claim);
    for (const claim of await claimFeeds(now)) await addJob("fetch", claim);
    for (const claim of await claimListings(now)) await addJob("collect", claim);
    for (const claim of await claimReplies(now)) await addJob("reply", claim);
    for (const clientId of await clientsToRead(20)) await addJob("themes", { clientId }, `themes ${clientId}`);
    for (const claim of await claimOutlooks(now)) await addJob("outlook", claim);
    for (const claim of await claimSummaries(now)) await addJob("summary", claim);
    for (const clientId of await claimDeletions(now)) await addJob("delete", { clientId });
    if (mayClaim && claims.length === 0 && visits.length === 0) return;
    // What is claimed fills the queue as fast as it empties.
    if (!mayClaim) await new Promise((next) => setTimeout(next, 100));
  }
}

main().catch((error) => {
  log.fatal({ problem: (error as Error).message }, "worker could not start");
  process.exit(1);
});
