/** Runs once when the web process starts. What it does needs Node.js and stands in a module of its own, out of the edge compiler's sight. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === "nodejs" && process.env.NEXT_PHASE !== "phase-production-build") {
    const { checkBoot } = await import("@/platform/boot");
    await checkBoot();
  }
}
