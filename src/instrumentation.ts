/**
 * Runs once when the web process starts. What it does needs Node.js and stands in a module of its own, out of the
 * edge compiler's sight.
 */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === "nodejs" && process.env.NEXT_PHASE !== "phase-production-build") {
    const { checkBoot } = await import("@/platform/boot");
    await checkBoot();
  }
}

/** What went wrong while answering, as one line of the log and without what was sent. */
export async function onRequestError(
  error: unknown,
  request: { method: string },
  context: { routePath: string; routeType: string },
): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { describeError, log } = await import("@/platform/log");
  log.error(
    { ...describeError(error), method: request.method, route: context.routePath, kind: context.routeType },
    "request failed",
  );
}
