import { spawn } from "node:child_process";

/**
 * Draws an SVG in a process of its own, which is ended when it takes too long or says too much: the library that draws
 * it cannot be told to stop.
 */

/** Milliseconds; a logo takes a few. */
const LONGEST = 5_000;
const MOST_BYTES = 4 * 1024 * 1024;
/** Drawn at the same time by this process; the others wait. */
const AT_ONCE = 2;

/** Reads the SVG from its input, and writes a PNG that fits the box of its arguments. */
const PROGRAM = `
const [width, height] = process.argv.slice(1).map(Number);
const parts = [];
process.stdin.on("data", (part) => parts.push(part)).on("end", () => {
  require("sharp")(Buffer.concat(parts), { limitInputPixels: 40e6, failOn: "error" })
    .resize({ width, height, fit: "inside" }).png().toBuffer()
    .then((png) => process.stdout.write(png), () => { process.exitCode = 1; });
});`;

let running = 0;
const waiting: (() => void)[] = [];

/** The PNG; null where it cannot be drawn, or not in time. */
export async function drawSvg(svg: string, box: { width: number; height: number }): Promise<Buffer | null> {
  if (running >= AT_ONCE) await new Promise<void>((next) => waiting.push(next));
  running += 1;
  try {
    return await drawApart(svg, box);
  } finally {
    running -= 1;
    waiting.shift()?.();
  }
}

function drawApart(svg: string, { width, height }: { width: number; height: number }): Promise<Buffer | null> {
  return new Promise((done) => {
    const child = spawn(process.execPath, ["--max-old-space-size=128", "-e", PROGRAM, String(width), String(height)], {
      env: { PATH: process.env.PATH, NODE_ENV: process.env.NODE_ENV },
      stdio: ["pipe", "pipe", "ignore"],
    });
    const parts: Buffer[] = [];
    let size = 0;
    const timer = setTimeout(() => child.kill("SIGKILL"), LONGEST);
    child.stdout.on("data", (part: Buffer) => {
      size += part.length;
      if (size > MOST_BYTES) child.kill("SIGKILL");
      else parts.push(part);
    });
    child.on("error", () => done(null));
    child.on("close", (code) => {
      clearTimeout(timer);
      done(code === 0 && size > 0 ? Buffer.concat(parts) : null);
    });
    child.stdin.on("error", () => {});
    child.stdin.end(svg);
  });
}
