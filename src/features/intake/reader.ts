import { type ChildProcess, spawn } from "node:child_process";
import { log } from "@/platform/log";
import { Unreadable } from "./files";
import type { ReaderAnswer } from "./readerProcess";

/**
 * Reads lists in a process of their own, one after the other, each within so much memory and time: a file that is made
 * to be slow or huge costs that process, and web and worker go on answering. The process stays for the next list, and
 * goes when none comes.
 */

/** Heap of the reading process, in megabytes; a list of 25 MB needs about half. */
const HEAP_MB = 512;
/** How long one list may take, in milliseconds. */
const LONGEST = 30_000;
const IDLE = 60_000;

const PROGRAM = ["src", "features", "intake", "readerProcess.ts"];

type Job = { bytes: Uint8Array; done: (list: Uint8Array) => void; fail: (error: Error) => void };

const waiting: Job[] = [];
let current: Job | null = null;
let child: ChildProcess | null = null;
let timer: NodeJS.Timeout | undefined;

/** The list as compressed JSON of `ReadyList`. Throws `Unreadable`. */
export function readListApart(bytes: Uint8Array): Promise<Uint8Array> {
  return new Promise((done, fail) => {
    waiting.push({ bytes, done, fail });
    next();
  });
}

/** Ends the process; for shutting down and for tests. */
export function closeReader(): void {
  clearTimeout(timer);
  child?.removeAllListeners();
  child?.kill("SIGKILL");
  child = null;
}

function next(): void {
  if (current) return;
  current = waiting.shift() ?? null;
  clearTimeout(timer);
  if (!current) {
    timer = setTimeout(closeReader, IDLE);
    timer.unref();
    return;
  }
  child ??= begin();
  child.ref();
  child.channel?.ref();
  child.send(current.bytes);
  timer = setTimeout(() => give({ ok: false, problem: { code: "too slow" } }, true), LONGEST);
}

/** Gives the waiting caller an answer; `broken` when the process is of no further use. */
function give(answer: ReaderAnswer, broken: boolean): void {
  clearTimeout(timer);
  const job = current;
  current = null;
  if (broken) closeReader();
  else {
    // A process that only waits keeps nobody from ending.
    child?.unref();
    child?.channel?.unref();
  }
  if (answer.ok) job?.done(answer.list);
  else job?.fail(new Unreadable(answer.problem));
  next();
}

function begin(): ChildProcess {
  // Started as a program of its own, by its place in the project: the framework's bundle has no part in it.
  const made = spawn(process.execPath, [`--max-old-space-size=${HEAP_MB}`, "--import", "tsx", PROGRAM.join("/")], {
    // It needs no secret, and no variable of ours.
    env: { PATH: process.env.PATH, NODE_ENV: process.env.NODE_ENV },
    serialization: "advanced",
    stdio: ["ignore", "ignore", "ignore", "ipc"],
  });
  made.on("message", (answer: ReaderAnswer | "ready") => {
    if (answer !== "ready" && made === child) give(answer, false);
  });
  made.on("exit", (code, signal) => {
    if (made !== child) return;
    log.warn({ code, signal }, "the process that reads lists ended");
    give({ ok: false, problem: { code: "too much memory" } }, true);
  });
  made.on("error", () => {
    if (made === child) give({ ok: false, problem: { code: "not now" } }, true);
  });
  return made;
}
