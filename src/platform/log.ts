import pino from "pino";
import { isUnreadPost } from "./requestState";

/** Structured logs, one JSON object a line. Customers' addresses and words never go into them. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  base: { name: "estima" },
  timestamp: pino.stdTimeFunctions.isoTime,
});

export type Failure = {
  error: string;
  code?: string;
  constraint?: string;
  table?: string;
  stack: string[];
  cause?: Failure;
};

/**
 * What may be logged of an error: what kind it is, the database's code, and where in the program it happened. Its
 * message is left out, since messages quote what somebody typed or a query's parameters.
 */
export function describeError(error: unknown): Failure {
  if (!(error instanceof Error)) return { error: typeof error, stack: [] };
  const { code, constraint, table, digest, cause } = error as Error & Record<string, unknown>;
  const word = (value: unknown) => (typeof value === "string" && /^[\w.:-]{1,60}$/.test(value) ? value : undefined);
  return {
    error: error.name,
    code: word(code) ?? word(digest),
    constraint: word(constraint),
    table: word(table),
    stack: framesOf(error).slice(0, 12),
    ...(cause instanceof Error ? { cause: describeError(cause) } : {}),
  };
}

/** The frames of a stack, without the message above them, which may have lines that look like anything. */
function framesOf(error: Error): string[] {
  const lines = (error.stack ?? "").split("\n");
  let last = lines.length;
  while (last > 0 && !/^\s+at /.test(lines[last - 1])) last--;
  let first = last;
  while (first > 0 && /^\s+at .*(?::\d+:\d+\)?|\(native\)|<anonymous>\)?)$/.test(lines[first - 1])) first--;
  return lines.slice(first, last).map((line) => line.trim());
}

/**
 * Turns what libraries print into lines of the log, without the values they quote: a failed query's parameters are
 * what a customer typed. For processes that serve; the first words tell what was printed where they come from a
 * program and not from a person.
 */
export function logConsole(): void {
  const write =
    (level: "error" | "warn" | "info") =>
    (first: unknown, ...rest: unknown[]) => {
      // A stranger can post nonsense at will: it is counted (src/web/formPosts.ts), and fills no log.
      if (isUnreadPost()) return;
      const errors = [first, ...rest].filter((each) => each instanceof Error).map(describeError);
      if (errors.length > 0) log[level]({ failures: errors }, "failed");
      else if (level !== "info")
        log[level](
          { words: typeof first === "string" ? first.slice(0, 20).replace(/[^\p{L} ]/gu, "") : typeof first },
          "printed by a library",
        );
    };
  console.error = write("error");
  console.warn = write("warn");
}
