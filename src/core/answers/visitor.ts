import { isbot } from "isbot";

/**
 * Whether a person or a machine follows a link or loads the picture of a mail: link scanners, previews of chats and
 * mail proxies ask for the same addresses as people, and none of them is one.
 */

/** What a request says of itself. Header values as they came; null where there was none. */
export type VisitorFacts = {
  method: string;
  /** "page": what a browser shows; "picture": what a mail program loads with a mail. */
  asksFor: "page" | "picture";
  agent: string | null;
  /** `Sec-Purpose`, `Purpose`, `X-Purpose` or `X-Moz`, whichever came. */
  purpose: string | null;
  accept: string | null;
  acceptLanguage: string | null;
  /** Milliseconds since the message was handed over; null where that is not known. */
  sinceSent: number | null;
  /** Milliseconds since another link of the same message was followed; null where none was. */
  sinceOtherLink: number | null;
};

export const MACHINE_SIGNS = [
  "method",
  "prefetch",
  "no agent",
  "agent",
  "mail proxy",
  "no browser",
  "too soon",
  "every link at once",
] as const;
export type MachineSign = (typeof MACHINE_SIGNS)[number];

/** Sooner than this after sending nobody has read a message and tapped its link, whatever the request says of itself. */
const BEFORE_ANYBODY = 3_000;
/** How soon after sending a browser that scanners pretend to be is no person's. */
const SOON = 20_000;
/** Within which time nobody follows two links of one message. Milliseconds. */
export const AT_ONCE = 2_500;

/** What names a whole platform, as every browser does: computers, phones old and new, televisions, consoles. */
const PLATFORM =
  /^Opera\/|\((?:[^)]*; ?)?(?:Windows|Macintosh|X11|Linux|iPhone|iPad|iPod|Android|compatible|Mobile|Wayland|KAIOS|CrOS|SMART-TV|Smart ?TV|Tizen|Web0S|webOS|hpwOS|AppleTV|Apple TV|CrKey|PlayStation|Nintendo|Xbox|BlackBerry|BB10|PlayBook|Symbian|SymbianOS|Series ?[346]0|S60|J2ME|MIDP|MeeGo|Maemo|Bada|Sailfish|Ubuntu|FreeBSD|OpenBSD|NetBSD|SunOS|Haiku|Fuchsia|U;|DirectFB|NetCast|Viera|Bravia|Roku|QNX)/i;
/** Phones and televisions: never where servers run, however old their browsers are. */
const HELD =
  /Mobile|Phone|Android|iPad|iPod|Tablet|BlackBerry|BB10|Symbian|Series ?[346]0|KAIOS|TV|Tizen|Web0S|webOS|PlayStation|Nintendo|Xbox|MIDP|Opera Mini/i;
/** Names by which mail services fetch pictures for people: when that happens says nothing of when they read. */
const MAIL_PROXY = /imageproxy|mailproxy|mail[ -]?proxy|image[ -]?proxy|\bproxy\b/i;
/** Browsers of a desktop that nobody uses any more but scanners pretend to be. */
const PRETENDED = /MSIE |Trident\/|Chrome\/(?:[1-9]|[1-8]\d)\.|Firefox\/(?:[1-9]|[1-5]\d)\./;

/** Why it is taken for a machine; null for a person. */
export function machineSign(it: VisitorFacts): MachineSign | null {
  const agent = it.agent?.trim() ?? "";
  if (it.method !== "GET" && it.method !== "POST") return "method";
  if (it.purpose && /prefetch|prerender|preview/i.test(it.purpose)) return "prefetch";
  if (agent === "") return "no agent";
  if (MAIL_PROXY.test(agent)) return "mail proxy";
  // A browser that names no platform is a proxy that hides whom it fetches for.
  if (it.asksFor === "picture" && agent.startsWith("Mozilla/") && !PLATFORM.test(agent)) return "mail proxy";
  if (isbot(agent) || !PLATFORM.test(agent)) return "agent";
  if (it.asksFor === "page" && (!/text\/html|\*\/\*/.test(it.accept ?? "") || !it.acceptLanguage)) return "no browser";
  if (it.sinceOtherLink !== null && it.sinceOtherLink >= 0 && it.sinceOtherLink <= AT_ONCE) return "every link at once";
  if (it.sinceSent !== null && it.sinceSent >= 0) {
    if (it.sinceSent < BEFORE_ANYBODY) return "too soon";
    if (it.sinceSent <= SOON && PRETENDED.test(agent) && !HELD.test(agent)) return "too soon";
  }
  return null;
}
