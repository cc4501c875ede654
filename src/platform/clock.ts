import { eq, sql } from "drizzle-orm";
import { demoClock } from "@/schema/accounts";
import { database } from "./database";
import { environment } from "./environment";

/**
 * The only place that knows the time. Real time in earnest; in demo mode a clock that runs with the real one, can be
 * sent ahead, and stands still while it skips. Milliseconds since the epoch.
 */

export type DemoClockState = { now: number; skippingTo: number | null; skipFrom: number | null };

/** Set while the time stands still in the process that moves the demo clock. */
let standing: number | null = null;

/** Now, as everything in the program understands it. */
export async function now(): Promise<number> {
  if (standing !== null) return standing;
  if (!environment().ESTIMA_DEMO) return Date.now();
  return (await demoClockState()).now;
}

/** The real time, for leases, sessions and rate limits. */
export function realTime(): number {
  return Date.now();
}

/** What the demo clock shows. */
export async function demoClockState(): Promise<DemoClockState> {
  const [row] = await database().select().from(demoClock).where(eq(demoClock.id, 1));
  if (!row) return { now: Date.now(), skippingTo: null, skipFrom: null };
  const running = row.skippingTo === null ? Date.now() - row.since : 0;
  return { now: row.at + running, skippingTo: row.skippingTo, skipFrom: row.skipFrom };
}

/** Puts the demo clock to `at`; with `skippingTo` it stands there until it is set again without. */
export async function setDemoClock(
  at: number,
  skippingTo: number | null = null,
  skipFrom: number | null = null,
): Promise<void> {
  standing = skippingTo === null ? null : at;
  const values = { at, since: Date.now(), skippingTo, skipFrom };
  await database()
    .insert(demoClock)
    .values({ id: 1, ...values })
    .onConflictDoUpdate({ target: demoClock.id, set: values });
}

/** Begins a skip unless one is under way; true for the one caller that began it. */
export async function beginSkip(to: number): Promise<boolean> {
  const { now: from } = await demoClockState();
  const begun = await database()
    .update(demoClock)
    .set({ at: from, since: Date.now(), skippingTo: to, skipFrom: from })
    .where(sql`${demoClock.id} = 1 and ${demoClock.skippingTo} is null`)
    .returning({ id: demoClock.id });
  return begun.length > 0;
}
