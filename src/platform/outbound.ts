import { lookup } from "node:dns/promises";
import { BlockList, isIP } from "node:net";
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
  ["192.168.0.0", 16],
  ["198.18.0.0", 15],
  ["224.0.0.0", 4],
  ["240.0.0.0", 4],
] as const)
  refused.addSubnet(net, bits, "ipv4");
for (const [net, bits] of [
  ["::", 127],
  ["fc00::", 7],
  ["fe80::", 10],
  ["ff00::", 8],
  ["::ffff:0:0", 96],
] as const) {
  refused.addSubnet(net, bits, "ipv6");
}

/** Thrown for an address that connectors may not call. */
export class RefusedAddress extends Error {}

/**
 * Calls an address that somebody entered. Private, loopback and link-local addresses are refused unless their origin is
 * listed in OUTBOUND_ALLOW; redirects are not followed; ten seconds at most.
 */
export async function callOutside(address: string, init: RequestInit = {}): Promise<Response> {
  const url = new URL(address);
  if (url.protocol !== "https:" && url.protocol !== "http:") throw new RefusedAddress("Only http and https addresses can be called.");
  if (!environment().OUTBOUND_ALLOW.includes(url.origin)) {
    const host = url.hostname.replace(/^\[|\]$/g, "");
    const found = isIP(host) ? [{ address: host, family: isIP(host) }] : await lookup(host, { all: true });
    if (found.some(({ address: ip, family }) => refused.check(ip, family === 6 ? "ipv6" : "ipv4"))) {
      throw new RefusedAddress("Addresses inside a private network cannot be called.");
    }
  }
  return fetch(url, { ...init, redirect: "manual", signal: AbortSignal.timeout(10_000) });
}
