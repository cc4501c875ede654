import pino from "pino";

/** Structured logs, one JSON object a line. Customers' addresses and words never go into them. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  base: { name: "estima" },
  timestamp: pino.stdTimeFunctions.isoTime,
});
