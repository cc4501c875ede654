import type { LookupAddress } from "node:dns";
import { lookup } from "node:dns/promises";
import { BlockList, isIP, type LookupFunction } from "node:net";
import type { Agent, RequestInit as CallInit } from "undici";
import { environment } from "./environment";

const refused = new BlockList();
for (const [net, bits] of [
  ["0.0.0.0", 8],
  ["10.0.0.0", 8],
  ["100.64.0.0", 10],
  ["127.0.0.0", 8],
  ["169.254.0.0", 16],
  ["172.16.0.0", 12],
  ["192.0.0.0", 24],
  ["192.0.2.0", 24],
  ["192.88.99.0", 24],
  ["192.168.0.0", 16],
  ["198.18.0.0", 15],
  ["198.51.100.0", 24],
  ["203.0.113.0", 24],
  ["224.0.0.0", 4],
  ["240.0.0.0", 4],
] as const)
  refused.addSubnet(net, bits, "ipv4");
for (const [net, bits] of [
  // Unspecified, loopback, and every way to write an IPv4 address inside an IPv6 one.
  ["::", 96],
  ["::ffff:0:0", 96],
  ["::ffff:0:0:0", 96],
  ["64:ff9b::", 96],
  ["64:ff9b:1::", 48],
  ["100::", 64],
  ["2001::", 32],
  ["2001:db8::", 32],
  ["2002::", 16],
  ["fc00::", 7],
  ["fe80::", 10],
  ["fec0::", 10],
  ["ff00::", 8],
] as const) {
  refused.addSubnet(net, bits, "ipv6");
}

/** Thrown for an address that connectors may not call. */
export class RefusedAddress extends Error {
  constructor(readonly why: "private network" | "not http") {
    super(why);
  }
}

/** Whether an IP address lies where nothing of ours may be called. */
export function isInside(ip: string): boolean {
  const family = isIP(ip);
  return family === 0 || refused.check(ip, family === 6 ? "ipv6" : "ipv4");
}

/** Looks a host up and gives only addresses that may be called: what is checked here is what is connected to. */
const checkedLookup: LookupFunction = (host, options, done) => {
  lookup(host, { all: true, family: typeof options.family === "number" ? options.family : 0 })
    .then((found: LookupAddress[]) => {
      if (found.length === 0 || found.some(({ address }) => isInside(address)))
        throw new RefusedAddress("private network");
      if (options.all) done(null, found);
      else done(null, found[0].address, found[0].family);
    })
    .catch((error: Error) => done(error, "", 0));
};

let outside: Agent | undefined;
let inside: Agent | undefined;

/**
 * `connect.lookup` is asked for every connection, so that a name cannot be looked up once for the check and once more
 * for the call.
 */
async function agentFor(isAllowed: boolean): Promise<Agent> {
  const { Agent } = await import("undici");
  if (isAllowed) {
    inside ??= new Agent({ connect: { timeout: 5_000 } });
    return inside;
  }
  outside ??= new Agent({ connect: { timeout: 5_000, lookup: checkedLookup } });
  return outside;
}

/**
 * Calls an address that somebody entered. Private, loopback and link-local addresses are refused unless their origin is
 * listed in OUTBOUND_ALLOW; redirects are not followed; ten seconds at most. Throws `RefusedAddress`. Whoever reads
 * the body bounds it (`readBounded`), or gives it up (`discard`).
 */
export async function callOutside(address: string, init: RequestInit = {}): Promise<Response> {
  const url = new URL(address);
  if (url.protocol !== "https:" && url.protocol !== "http:") throw new RefusedAddress("not http");
  const isAllowed = environment().OUTBOUND_ALLOW.includes(url.origin);
  // An address in figures is connected to without being looked up.
  const host = url.hostname.replace(/^\[|\]$/g, "");
  if (!isAllowed && isIP(host) && isInside(host)) throw new RefusedAddress("private network");
  try {
    const { fetch: fetchWith } = await import("undici");
    const response = await fetchWith(url, {
      ...init,
      redirect: "manual",
      signal: AbortSignal.timeout(10_000),
      dispatcher: await agentFor(isAllowed),
    } as CallInit);
    return response as unknown as Response;
  } catch (error) {
    const { cause } = error as { cause?: unknown };
    throw cause instanceof RefusedAddress ? cause : error;
  }
}
