/** Email addresses: kept lower-cased, checked for syntax (the HTML standard's rule, tightened), slips suggested. */

const SYNTAX =
  /^[a-z0-9!#$%&'*+/=?^_`{|}~-]+(?:\.[a-z0-9!#$%&'*+/=?^_`{|}~-]+)*@(?:[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z](?:[a-z0-9-]{0,61}[a-z0-9])$/;

/** The address as it is kept, or null when no mail could reach it. At most 254 characters (RFC 5321). */
export function normaliseEmail(typed: string): string | null {
  if (typed.length > 1000) return null;
  const text = typed
    .normalize("NFKC")
    .trim()
    .replace(/^mailto:/i, "")
    .replace(/^<|>$/g, "")
    .toLowerCase();
  const address = withAsciiDomain(text);
  if (address.length > 254 || address.indexOf("@") > 64) return null;
  return SYNTAX.test(address) ? address : null;
}

/** A domain in letters beyond ASCII, as mail servers know it (IDNA, RFC 5891). */
function withAsciiDomain(text: string): string {
  const at = text.lastIndexOf("@");
  const domain = text.slice(at + 1);
  // biome-ignore lint/suspicious/noControlCharactersInRegex: what is not ASCII
  if (at < 1 || !/[^\x00-\x7f]/.test(domain) || /[\s/?#:@\\[\]%]/.test(domain)) return text;
  try {
    return `${text.slice(0, at)}@${new URL(`http://${domain}`).hostname}`;
  } catch {
    return text;
  }
}

/**
 * The address somebody probably meant, or null. `knownDomains` says how often each mail domain occurs among the
 * client's own people: a rare domain one slip away from a frequent one is taken for a slip.
 */
export function suggestEmail(email: string, knownDomains: ReadonlyMap<string, number>): string | null {
  const at = email.lastIndexOf("@");
  const domain = email.slice(at + 1);
  const own = knownDomains.get(domain) ?? 0;
  let best: string | null = null;
  let bestCount = Math.max(4, own * 10);
  for (const [known, count] of knownDomains) {
    if (known !== domain && count > bestCount && isOneSlip(domain, known)) {
      best = known;
      bestCount = count;
    }
  }
  return best ? `${email.slice(0, at)}@${best}` : null;
}

/** True when one letter was added, dropped, changed, or two neighbours swapped. */
export function isOneSlip(typed: string, meant: string): boolean {
  if (typed === meant || Math.abs(typed.length - meant.length) > 1) return false;
  let start = 0;
  while (start < typed.length && typed[start] === meant[start]) start++;
  const rest = typed.slice(start);
  const wanted = meant.slice(start);
  if (rest.length > wanted.length) return rest.slice(1) === wanted;
  if (rest.length < wanted.length) return rest === wanted.slice(1);
  return (
    rest.slice(1) === wanted.slice(1) ||
    (rest[0] === wanted[1] && rest[1] === wanted[0] && rest.slice(2) === wanted.slice(2))
  );
}
