import { z } from "zod";
import { environment } from "./environment";

/** What a resolver answers over HTTP, as the common JSON form of DNS responses has it; type 15 is MX (RFC 1035). */
const response = z.object({
  Status: z.number(),
  Answer: z.array(z.object({ type: z.number(), data: z.string().max(300) })).optional(),
});

/**
 * Who takes the mail of a domain: the host of its first mail exchanger, in lower case and without the last dot; null
 * when there is none. Undefined when nobody could say: no resolver is set up, or it did not answer.
 */
export async function mailHostOf(domain: string): Promise<string | null | undefined> {
  const { RESOLVER_URL } = environment();
  if (!RESOLVER_URL) return undefined;
  try {
    const answered = await fetch(`${RESOLVER_URL}?name=${encodeURIComponent(domain)}&type=MX`, {
      headers: { accept: "application/dns-json" },
      signal: AbortSignal.timeout(4000),
    });
    const read = response.safeParse(await answered.json());
    if (!answered.ok || !read.success) return undefined;
    const exchangers = (read.data.Answer ?? [])
      .filter(({ type }) => type === 15)
      .map(({ data }) => /^(\d+)\s+(\S+?)\.?$/.exec(data))
      .flatMap((found) => (found ? [{ preference: Number(found[1]), host: found[2].toLowerCase() }] : []))
      .sort((a, b) => a.preference - b.preference);
    return exchangers[0]?.host ?? null;
  } catch {
    return undefined;
  }
}
