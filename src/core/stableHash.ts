/**
 * A draw in [0, 1) that belongs to its words: the same words give the same draw, on every machine and for ever.
 * FNV-1a over UTF-16 units, then the finishing mix of MurmurHash3, so that words that differ little are spread evenly.
 */
export function stableHash(...words: string[]): number {
  let hash = 0x811c9dc5;
  for (const char of words.join("\u0000")) {
    hash ^= char.codePointAt(0) ?? 0;
    hash = Math.imul(hash, 0x01000193);
  }
  hash ^= hash >>> 16;
  hash = Math.imul(hash, 0x85ebca6b);
  hash ^= hash >>> 13;
  hash = Math.imul(hash, 0xc2b2ae35);
  hash ^= hash >>> 16;
  return (hash >>> 0) / 2 ** 32;
}
