import { type ChildProcess, spawn } from "node:child_process";
import { bundle } from "../../scripts/bundle";
import { freePort, ROOT } from "../../scripts/local";
import type { Harness } from "./harness";

/** Worker processes of a test, which it kills or stops in the middle of their work. */
export class WorkerProcesses {
  private readonly running: ChildProcess[] = [];

  private constructor(
    private readonly harness: Harness,
    private readonly program: string,
    private readonly env: Record<string, string>,
  ) {}

  /** `env` is what these workers have beyond the harness's environment. */
  static async of(harness: Harness, env: Record<string, string> = {}): Promise<WorkerProcesses> {
    return new WorkerProcesses(harness, await bundle("src/worker/main.ts"), env);
  }

  async start(): Promise<ChildProcess> {
    const worker = spawn("node", ["--enable-source-maps", this.program], {
      cwd: ROOT,
      stdio: "ignore",
      env: {
        ...process.env,
        ...this.harness.env,
        ...this.env,
        NODE_OPTIONS: "",
        WORKER_PORT: String(await freePort()),
      } as NodeJS.ProcessEnv,
    });
    this.running.push(worker);
    return worker;
  }

  /** Kills all that were started. */
  killAll(): void {
    for (const worker of this.running.splice(0)) worker.kill("SIGKILL");
  }
}
