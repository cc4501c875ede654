/** Runs once when the web process starts: it refuses to serve with an incomplete environment or an unbound database role. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs" || process.env.NEXT_PHASE === "phase-production-build") return;
  const { environment } = await import("@/platform/environment");
  const { checkRole } = await import("@/platform/database");
  const { log } = await import("@/platform/log");
  try {
    environment();
    await checkRole();
  } catch (error) {
    log.fatal({ error: (error as Error).message }, "web could not start");
    process.exit(1);
  }
}
