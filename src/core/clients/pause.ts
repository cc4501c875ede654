/** A client at which somebody has paused everything. Instants are milliseconds since the epoch. */
export type Pause = {
  pausedAt: number | null;
  /** When it goes on by itself; null until somebody lets it. */
  pausedUntil: number | null;
};

/** Whether nothing leaves at `now`. */
export function isPaused({ pausedAt, pausedUntil }: Pause, now: number): boolean {
  return pausedAt !== null && (pausedUntil === null || pausedUntil > now);
}
