import { sql } from "drizzle-orm";
import { prepareEvents } from "@/features/asks";
import { realTime } from "@/platform/clock";
import { rowsOf } from "@/platform/database";
import { log } from "@/platform/log";

/**
 * Takes away what has served its time: contents of lists after thirty days, deliveries after ninety, answers kept for
 * repeated calls after two, ended sessions, counts of limits,
 * events of asks that are gone after three years, the trail after six. Makes next months' room for events, too. A portion each time, so that it never holds anything up.
 * docs/running.md states the ages.
 */
export async function sweep(now: number): Promise<void> {
  await prepareEvents(now);
  const iso = (at: number) => new Date(at).toISOString();
  const [row] = await rowsOf<{ swept: Record<string, number> }>(
    sql`select estima_sweep(${iso(now)}, ${iso(realTime())}, 2000) as swept`,
  );
  const swept = Object.entries(row?.swept ?? {}).filter(([, count]) => count > 0);
  if (swept.length > 0) log.info(Object.fromEntries(swept), "swept");
}
