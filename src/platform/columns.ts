import { customType, uuid } from "drizzle-orm/pg-core";
import { v7 } from "uuid";

/** An instant: `timestamptz` in the database, milliseconds since the epoch (UTC) in the code. */
export const instant = customType<{ data: number; driverData: string }>({
  dataType: () => "timestamp with time zone",
  toDriver: (value) => new Date(value).toISOString(),
  fromDriver: (value) => new Date(value).getTime(),
});

/** A time-ordered primary key (UUID version 7, RFC 9562). */
export const key = () => uuid("id").primaryKey().$defaultFn(newId);

/** A new time-ordered identifier. */
export function newId(): string {
  return v7();
}
