import { randomFillSync } from "node:crypto";
import { customType, uuid } from "drizzle-orm/pg-core";
import { v7 } from "uuid";

/** An instant: `timestamptz` in the database, milliseconds since the epoch (UTC) in the code. */
export const instant = customType<{ data: number; driverData: string }>({
  dataType: () => "timestamp with time zone",
  toDriver: (value) => new Date(value).toISOString(),
  fromDriver: (value) => new Date(value).getTime(),
});

/** Bytes as they are. */
export const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });

/** A time-ordered primary key (UUID version 7, RFC 9562). */
export const key = () => uuid("id").primaryKey().$defaultFn(newId);

/** Random bytes are drawn many at a time: one draw for each identifier costs more than the rest of it. */
const pool = Buffer.alloc(16 * 256);
let drawn = pool.length;

let source: (() => string) | null = null;

/** Draws identifiers from elsewhere: a recording of the demo takes them from its seed. Null for the usual ones. */
export function drawIdsFrom(other: (() => string) | null): void {
  source = other;
}

/** A new time-ordered identifier. */
export function newId(): string {
  if (source) return source();
  if (drawn === pool.length) {
    randomFillSync(pool);
    drawn = 0;
  }
  const random = pool.subarray(drawn, drawn + 16);
  drawn += 16;
  // Without a sequence of ours the library keeps identifiers of one millisecond in order only by its own; so does this
  // count.
  const msecs = Date.now();
  sequence = msecs > last ? random.readUInt32BE(12) >>> 1 : sequence + 1;
  last = Math.max(msecs, last);
  return v7({ random, msecs: last, seq: sequence });
}

let last = 0;
let sequence = 0;
