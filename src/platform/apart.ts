import { type ChildProcess, spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { setPriority } from "node:os";
import { log } from "./log";

/**
 * Work on files from outside, in a small pool of processes beside web and worker (`src/apart/main.ts`). A file that is
 * made to be slow or huge costs the process that reads it, which is ended from outside; web and worker go on answering.
 * Each owner of files (a client, mostly) has one process at a time, so that one client's bombs keep no other's file
 * waiting. Processes stay for the next file, and go when none comes.
 */

/** At the same time, for all owners together. */
const PROCESSES = 4;
/** Heap of a process in megabytes; a list of 25 MB needs about half. */
const HEAP_MB = 512;
/** What a process may hold in memory altogether, what libraries hold outside the heap included. */
const MEMORY_MB = 1100;
/** How many files of one owner wait at most; beyond that, "not now". */
const WAITING = 50;
const IDLE = 60_000;

const PROGRAM = ["src", "apart", "main.ts"];

/** How much longer than its processor time a job may take on a busy machine before it is given up for now. */
const PATIENCE = 10;

/**
 * Why there is no answer. "too slow" and "too much memory" are the file's own doing, and come again with it; "not now"
 * is not: too many wait, or the machine had no time for it.
 */
export type ApartProblem = "too slow" | "too much memory" | "not now";

/** A file could not be worked on apart. */
export class ApartFailed extends Error {
  constructor(readonly why: ApartProblem) {
    super(why);
  }
}

/** What the program answers to one job. */
export type ApartAnswer = { value: unknown };

type Job = {
  owner: string;
  kind: string;
  input: unknown;
  seconds: number;
  done: (value: unknown) => void;
  fail: (error: Error) => void;
};

type Helper = { child: ChildProcess; job: Job | null; timer?: NodeJS.Timeout; watch?: NodeJS.Timeout };

const queues = new Map<string, Job[]>();
const helpers = new Set<Helper>();

/**
 * Runs one kind of work of `src/apart/main.ts` on an input that can be cloned, within so many seconds of processor time:
 * what else the machine does meanwhile is not counted against the file.
 *
 * @param owner whose file it is: files of one owner are read one after the other
 * @throws ApartFailed
 */
export function workApart(owner: string, kind: string, input: unknown, seconds = 30): Promise<unknown> {
  return new Promise((done, fail) => {
    const queue = queues.get(owner) ?? [];
    if (queue.length >= WAITING) return fail(new ApartFailed("not now"));
    queue.push({ owner, kind, input, seconds, done, fail });
    queues.set(owner, queue);
    next();
  });
}

/** Ends every process; for shutting down and for tests. */
export function closeApart(): void {
  for (const helper of helpers) endHelper(helper);
}

function endHelper(helper: Helper): void {
  helpers.delete(helper);
  clearTimeout(helper.timer);
  clearInterval(helper.watch);
  helper.child.removeAllListeners();
  // What is still written to it fails, and is nobody's fault.
  helper.child.on("error", () => {});
  helper.child.kill("SIGKILL");
}

/** Gives free processes to owners who wait, in the order in which they began to. */
function next(): void {
  const busy = new Set([...helpers].flatMap(({ job }) => job?.owner ?? []));
  for (const [owner, queue] of queues) {
    if (busy.has(owner)) continue;
    const helper = [...helpers].find(({ job }) => job === null) ?? (helpers.size < PROCESSES ? begin() : null);
    if (!helper) return;
    const job = queue.shift();
    queues.delete(owner);
    // Behind the others who wait.
    if (queue.length > 0) queues.set(owner, queue);
    if (job) start(helper, job);
  }
}

function start(helper: Helper, job: Job): void {
  helper.job = job;
  clearTimeout(helper.timer);
  helper.child.ref();
  helper.child.channel?.ref();
  helper.child.send({ kind: job.kind, input: job.input }, (error) => {
    if (error && helper.job === job) give(helper, new ApartFailed("not now"), true);
  });
  const before = secondsOf(helper.child.pid);
  helper.timer = setTimeout(() => give(helper, new ApartFailed("not now"), true), job.seconds * PATIENCE * 1000);
  helper.watch = setInterval(() => {
    if (memoryOf(helper.child.pid) > MEMORY_MB) give(helper, new ApartFailed("too much memory"), true);
    else if (secondsOf(helper.child.pid) - before > job.seconds) give(helper, new ApartFailed("too slow"), true);
  }, 200);
}

/** Seconds of processor time that a process has used; 0 where the system does not say. */
function secondsOf(pid: number | undefined): number {
  try {
    // Behind the name, which may hold anything: fields 14 and 15, in hundredths of a second.
    const fields = readFileSync(`/proc/${pid}/stat`, "utf8")
      .replace(/^.*\) /s, "")
      .split(" ");
    return (Number(fields[11]) + Number(fields[12])) / 100;
  } catch {
    return 0;
  }
}

/** Megabytes that a process holds; 0 where the system does not say. */
function memoryOf(pid: number | undefined): number {
  try {
    const pages = Number(readFileSync(`/proc/${pid}/statm`, "utf8").split(" ")[1]);
    return (pages * 4096) / 1024 / 1024;
  } catch {
    return 0;
  }
}

/** Gives the waiting caller an answer; `isBroken` when the process is of no further use. */
function give(helper: Helper, answer: ApartAnswer | Error, isBroken: boolean): void {
  const { job } = helper;
  helper.job = null;
  clearTimeout(helper.timer);
  clearInterval(helper.watch);
  if (isBroken) endHelper(helper);
  else {
    // A process that only waits keeps nobody from ending.
    helper.child.unref();
    helper.child.channel?.unref();
    helper.timer = setTimeout(() => endHelper(helper), IDLE);
    helper.timer.unref();
  }
  if (answer instanceof Error) job?.fail(answer);
  else job?.done(answer.value);
  next();
}

function begin(): Helper {
  // Started as a program of its own, by its place in the project: the framework's bundle has no part in it.
  const child = spawn(process.execPath, [`--max-old-space-size=${HEAP_MB}`, "--import", "tsx", PROGRAM.join("/")], {
    // It needs no secret, and no variable of ours.
    env: { PATH: process.env.PATH, NODE_ENV: process.env.NODE_ENV },
    serialization: "advanced",
    stdio: ["ignore", "ignore", "ignore", "ipc"],
  });
  // Answers to people come first: a file that takes long takes the time that is left.
  if (child.pid) setPriority(child.pid, 10);
  const helper: Helper = { child, job: null };
  helpers.add(helper);
  child.on("message", (answer: ApartAnswer) => give(helper, answer, false));
  child.on("exit", (code, signal) => {
    log.warn({ code, signal, kind: helper.job?.kind }, "a process that reads files ended");
    give(helper, new ApartFailed("too much memory"), true);
  });
  child.on("error", () => give(helper, new ApartFailed("not now"), true));
  return helper;
}
