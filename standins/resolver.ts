/** A resolver of the town: who takes the mail of a domain. Answers like DNS resolvers do over HTTP in JSON. */

const HOSTS: Record<string, string> = {
  post: "mx1.waypost-mail.example",
  harbour: "mx.tenfold-accounts.example",
  larkmail: "mx2.waypost-mail.example",
};

/**
 * The answer for `name`: mail exchangers by the first word of the domain; unknown ones have none (status 3, RFC
 * 1035).
 */
export function resolve(name: string): { Status: number; Question: unknown[]; Answer?: unknown[] } {
  const domain = name.toLowerCase().replace(/\.$/, "");
  const host = HOSTS[domain.split(".")[0]];
  const Question = [{ name: `${domain}.`, type: 15 }];
  if (!host) return { Status: 3, Question };
  return { Status: 0, Question, Answer: [{ name: `${domain}.`, type: 15, TTL: 300, data: `10 ${host}.` }] };
}
