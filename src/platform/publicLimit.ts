import { RateLimiterMemory, RateLimiterPostgres, type RateLimiterRes } from "rate-limiter-flexible";
import { databasePool } from "./database";

/**
 * Limits on what anybody may do without being known. Kept in the database, so that any number of web processes count
 * together; where the database cannot be asked, each counts for itself.
 */

const limiters = new Map<string, RateLimiterPostgres>();

function limiterOf(most: number, seconds: number): RateLimiterPostgres {
  const name = `${most}/${seconds}`;
  let limiter = limiters.get(name);
  if (!limiter) {
    const shared = { points: most, duration: seconds, keyPrefix: name };
    limiter = new RateLimiterPostgres({
      ...shared,
      storeClient: databasePool(),
      storeType: "pool",
      tableName: "rate_limits",
      tableCreated: true,
      clearExpiredByTimeout: false,
      // Whoever goes on at ten times the limit costs the database nothing any more.
      inMemoryBlockOnConsumed: most * 10,
      inMemoryBlockDuration: seconds,
      insuranceLimiter: new RateLimiterMemory(shared),
    });
    limiters.set(name, limiter);
  }
  return limiter;
}

/** Counts a hit and says whether it is still welcome: at most `most` per `seconds` of real time and key. */
export async function isWelcome(key: string, most: number, seconds: number): Promise<boolean> {
  try {
    await limiterOf(most, seconds).consume(key.slice(0, 200));
    return true;
  } catch (refused) {
    if (refused instanceof Error) throw refused;
    return (refused as RateLimiterRes).remainingPoints > 0;
  }
}

/** Whether the next hit would still be welcome; counts nothing. */
export async function isStillWelcome(key: string, most: number, seconds: number): Promise<boolean> {
  const found = await limiterOf(most, seconds).get(key.slice(0, 200));
  return found === null || found.consumedPoints < most;
}

/** Forgets what was counted under a key: whoever got in has made no wrong tries. */
export async function forgetHits(key: string, most: number, seconds: number): Promise<void> {
  await limiterOf(most, seconds).delete(key.slice(0, 200));
}

/** For tests, which give each file a database of its own. */
export function closeLimits(): void {
  limiters.clear();
}
