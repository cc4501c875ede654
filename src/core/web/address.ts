import { withoutUnseen } from "../words/strangers";

/** Web addresses that people write down, and words that only look like names. */

const LONGEST = 2000;

/**
 * The address as a browser would open it (WHATWG URL), or null for what is none: other schemes than http and https,
 * half addresses, spaces or line breaks inside, a name and password, or a host without a dot that is no machine of
 * one's own.
 */
export function webAddress(typed: string): string | null {
  const text = typed.trim();
  if (text.length > LONGEST || /\s/.test(text) || !/^https?:\/\/[^/?#\\]/i.test(text)) return null;
  try {
    const url = new URL(text);
    if (url.username || url.password || !/^(?:[^.]+(?:\.[^.]+)+\.?|localhost|\[[0-9a-f:.]+\])$/i.test(url.hostname))
      return null;
    return url.href;
  } catch {
    return null;
  }
}

const ENDINGS =
  "com|net|org|info|biz|app|dev|shop|site|online|xyz|top|club|live|store|link|click|page|web|cloud|example|test|[a-z]{2}|xn--[a-z0-9-]+";
const ADDRESS = new RegExp(
  `://|\\bwww\\.|[\\p{L}\\p{N}]\\.(?:${ENDINGS})(?![\\p{L}\\p{N}])|[\\p{L}\\p{N}]\\.[a-z]{2,}[/:?#]|[\\p{L}\\p{N}][.。][^\\s\\p{ASCII}\\p{P}]{2,}|@[\\p{L}\\p{N}-]+\\.`,
  "iu",
);

/**
 * A name or other word that came from outside, or null when it holds a web address: nobody writes links into a
 * business's own messages.
 */
export function plainName(words: string | null): string | null {
  return words && !ADDRESS.test(words.slice(0, 400)) ? withoutUnseen(words) : null;
}
