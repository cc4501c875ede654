/**
 * A key of at most `most` characters that stands for a longer text: the text itself where it fits, else its beginning
 * and a stamp of the whole (106 bits, in base 36). Two texts that differ anywhere get two keys. The same text gives
 * the same key for ever.
 */
export function shortKey(text: string, most: number): string {
  if (text.length <= most) return text;
  const stamp = `~${stampOf(text, 0x9e3779b9)}${stampOf(text, 0x85ebca6b)}`;
  return `${text.slice(0, most - stamp.length).toWellFormed()}${stamp}`;
}

/** 53 bits of a text: two lanes of multiply and mix over its UTF-16 units, with their own seeds. */
function stampOf(text: string, seed: number): string {
  let [a, b] = [0xdeadbeef ^ seed, 0x41c6ce57 ^ seed];
  for (let index = 0; index < text.length; index++) {
    const code = text.charCodeAt(index);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36).padStart(11, "0");
}
