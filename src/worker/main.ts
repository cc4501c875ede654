import { createServer } from "node:http";
import { Logger, type Runner, run, type TaskList } from "graphile-worker";
import { Pool } from "pg";
import { z } from "zod";
import { replanPortions } from "@/features/asks";
import {
  claimFeeds,
  claimInboundEvents,
  claimStalledLists,
  closeReader,
  fetchFeed,
  forgetInLongLists,
  processEventsOf,
  runListTask,
} from "@/features/intake";
import { claimDue, deliver } from "@/features/messaging";
import { claimNotices, deliverNotice } from "@/features/notices";
import { findMatches } from "@/features/people-admin";
import { claimListings, collect } from "@/features/reviews";
import { now as clockNow, demoClockState, setDemoClock } from "@/platform/clock";
import { checkRole, closeDatabase, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
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

const claimJob = z.array(z.object({ clientId: z.uuid(), messageId: z.uuid(), claimId: z.uuid() })).max(500);
const visitJob = z.object({ clientId: z.uuid(), visitIds: z.array(z.uuid()).max(1000) });
const triggerJob = z.object({ clientId: z.uuid(), triggerIds: z.array(z.uuid()).max(1000) });
const planJob = z.object({ clientId: z.uuid(), planId: z.uuid() });
const listingJob = z.object({ clientId: z.uuid(), listingId: z.uuid() });
const noticeJob = z.object({ clientId: z.uuid(), noticeId: z.uuid() });
const deliveriesJob = z.object({ clientId: z.uuid(), ids: z.array(z.uuid()).max(1000) });
const feedJob = z.object({ clientId: z.uuid(), feedId: z.uuid() });
const listJob = z.object({ clientId: z.uuid(), intakeId: z.uuid(), action: z.enum(["read", "look", "keep"]) });
const replanJob = z.object({ clientId: z.uuid(), planId: z.uuid().nullable() });
const clientJob = z.object({ clientId: z.uuid() });
const skipJob = z.object({ from: z.number().int(), to: z.number().int() });

const tasks: TaskList = {
  send: async (payload) => deliver(claimJob.parse(payload)),
  examine: async (payload) => examineClaimed(visitJob.parse(payload)),
  triggers: async (payload) => runClaimedTriggers(triggerJob.parse(payload)),
  plan: async (payload) => lookWithDuePlan(planJob.parse(payload)),
  notice: async (payload) => deliverNotice(noticeJob.parse(payload)),
  collect: async (payload) => {
    const { clientId, listingId } = listingJob.parse(payload);
    await collect(clientId, listingId);
  },
  delivered: async (payload) => processEventsOf(deliveriesJob.parse(payload)),
  fetch: async (payload) => fetchFeed(feedJob.parse(payload)),
  list: async (payload, helpers) => runListTask(listJob.parse(payload), helpers.abortSignal),
  replan: async (payload, helpers) => replanPortions(replanJob.parse(payload), helpers.abortSignal),
  matches: async (payload) => findMatches(workFor(clientJob.parse(payload).clientId)),
  forget: async (payload) => forgetInLongLists(workFor(clientJob.parse(payload).clientId)),
  skip: async (payload) => {
    const { to } = skipJob.parse(payload);
    // A worker that was killed on the way goes on from where the clock stands.
    const state = await demoClockState();
    if (state.skippingTo === null) return;
    await skipAhead(townOverHttp, state.now, to);
    log.info({ to }, "demo clock skipped ahead");
  },
};

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

async function main(): Promise<void> {
  const env = environment();
  await checkRole();
  const pool = new Pool({ connectionString: env.DATABASE_APP_URL, max: 6, options: "-c timezone=UTC" });
  pool.on("error", () => {});
  pool.on("connect", (client) => client.on("error", () => {}));
  const runner = await run({
    pgPool: pool,
    taskList: tasks,
    concurrency: JOBS_AT_ONCE,
    pollInterval: 1000,
    noHandleSignals: true,
    logger: queueLog,
  });

  // A skip that a killed worker left half way goes on; its job would stay locked for hours.
  const half = env.ESTIMA_DEMO ? await demoClockState() : null;
  if (half?.skippingTo) await runner.addJob("skip", { from: half.now, to: half.skippingTo }, { jobKey: "skip" });

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
    await handOut(runner);
  };
  const loop = (async () => {
    while (!stopping) {
      try {
        await tick();
        lastTick = Date.now();
      } catch (error) {
        log.error(describeError(error), "tick failed; trying again");
      }
      await new Promise((next) => setTimeout(next, 1000));
    }
  })();
  const sweepAll = () =>
    clockNow()
      .then(sweep)
      .catch((error) => log.error(describeError(error), "sweep failed"));
  const sweeping = setInterval(sweepAll, 300_000);

  const health = createServer((request, response) => {
    const age = Date.now() - lastTick;
    const ok = age < 30_000;
    response.writeHead(request.url === "/health" ? (ok ? 200 : 503) : 404, { "content-type": "application/json" });
    response.end(JSON.stringify({ ok, lastTickSecondsAgo: Math.round(age / 1000) }));
  }).listen(env.WORKER_PORT, "127.0.0.1");
  log.info({ port: env.WORKER_PORT, demo: env.ESTIMA_DEMO }, "worker started");

  const stop = async () => {
    if (stopping) return;
    stopping = true;
    log.info("worker stops after what it has begun");
    clearInterval(sweeping);
    health.close();
    await loop;
    await runner.stop();
    await pool.end();
    closeMail();
    closeReader();
    await closeDatabase();
    process.exit(0);
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
}

/** Claims what is due now and hands it to the queue. */
async function handOut(runner: Runner): Promise<void> {
  for (;;) {
    const now = await clockNow();
    const delivered = await claimInboundEvents(500);
    for (const claim of delivered) await runner.addJob("delivered", claim, { maxAttempts: 3 });
    const visits = await claimVisits(now, 500);
    for (const claim of visits) await runner.addJob("examine", claim, { maxAttempts: 3 });
    for (const claim of await claimTriggers(now, 500)) await runner.addJob("triggers", claim, { maxAttempts: 3 });
    for (const due of await duePlans(now))
      await runner.addJob("plan", due, { maxAttempts: 1, jobKey: `plan ${due.planId}`, jobKeyMode: "preserve_run_at" });
    // The job of a worker that was killed stays locked for hours; a new one takes its key over.
    for (const claim of await claimStalledLists())
      await runner.addJob("list", claim, { maxAttempts: 3, jobKey: `list ${claim.intakeId}` });
    const messages = await claimDue(now, BATCH);
    if (messages.length > 0) await runner.addJob("send", messages, { maxAttempts: 1 });
    for (const claim of await claimNotices(now)) await runner.addJob("notice", claim, { maxAttempts: 1 });
    for (const claim of await claimFeeds(now)) await runner.addJob("fetch", claim, { maxAttempts: 1 });
    const listings = await claimListings(now);
    for (const claim of listings) await runner.addJob("collect", claim, { maxAttempts: 1 });
    if (visits.length === 0 && messages.length < BATCH) return;
  }
}

main().catch((error) => {
  log.fatal({ problem: (error as Error).message }, "worker could not start");
  process.exit(1);
});
