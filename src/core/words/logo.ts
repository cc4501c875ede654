/** A logo as pages and mails show it: a picture of ours, and its size in pixels, drawn for twice as many dots. */
export type Logo = { id: string; width: number; height: number };

/** How large it stands on a page, in CSS pixels. */
export function sizeOf({ width, height }: Logo): { width: number; height: number } {
  return { width: Math.max(1, Math.round(width / 2)), height: Math.max(1, Math.round(height / 2)) };
}
