import { createWriteStream, existsSync, mkdirSync, readFileSync, rmSync, type WriteStream } from "node:fs";
import { dirname } from "node:path";

/**
 * What happened at a stand-in, one JSON object a line, so that a restarted town remembers. Without a file it forgets.
 */
export class Journal<Event> {
  private stream: WriteStream | null = null;

  constructor(private readonly file: string | null) {}

  /** Tells everything that happened before, oldest first. A line cut off by a killed process is passed over. */
  replay(apply: (event: Event) => void): void {
    if (!this.file || !existsSync(this.file)) return;
    for (const line of readFileSync(this.file, "utf8").split("\n")) {
      if (!line) continue;
      let event: Event;
      try {
        event = JSON.parse(line) as Event;
      } catch {
        continue;
      }
      apply(event);
    }
  }

  append(event: Event): void {
    if (!this.file) return;
    if (!this.stream) {
      mkdirSync(dirname(this.file), { recursive: true });
      this.stream = createWriteStream(this.file, { flags: "a" });
    }
    this.stream.write(`${JSON.stringify(event)}\n`);
  }

  async close(): Promise<void> {
    const { stream } = this;
    this.stream = null;
    if (stream) await new Promise<void>((done) => stream.end(done));
  }

  forget(): void {
    this.stream?.end();
    this.stream = null;
    if (this.file) rmSync(this.file, { force: true });
  }
}
