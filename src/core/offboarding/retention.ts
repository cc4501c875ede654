import { DAY } from "../time/zone";

/** What becomes of an archived client, by the time that has passed since. */

/** So long customers' links still answer, and say kindly that it is over. */
export const LINK_DAYS = 90;

/** So long everything is kept; then it is deleted for good. */
export const DATA_DAYS = 365;

/** Until when links answer. Milliseconds since the epoch. */
export const linksUntil = (archivedAt: number) => archivedAt + LINK_DAYS * DAY;

/** When everything is deleted. Milliseconds since the epoch. */
export const keptUntil = (archivedAt: number) => archivedAt + DATA_DAYS * DAY;
