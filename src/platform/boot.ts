import { checkRole } from "./database";
import { environment } from "./environment";
import { log } from "./log";

/** Refuses to serve with an incomplete environment or an unbound database role. */
export async function checkBoot(): Promise<void> {
  try {
    environment();
    await checkRole();
  } catch (error) {
    log.fatal({ problem: (error as Error).message }, "web could not start");
    process.exit(1);
  }
}
