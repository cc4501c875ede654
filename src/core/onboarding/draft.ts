import { z } from "zod";
import { weekOf } from "../time/sendHours";
import { cleanText } from "../words/clean";
import type { ClientFileInput } from "./clientFile";
import { TRADES, type Trade } from "./trades";

/** A client as it is being filled in: everything as typed, nothing missing but perhaps empty. */

const typed = (most: number) => z.string().max(most).transform(cleanText);

export const clientDraft = z.object({
  trade: typed(20),
  name: typed(200),
  country: typed(10),
  zone: typed(60),
  colour: typed(20),
  senderEmail: typed(254),
  textNumber: typed(40),
  postalAddress: typed(400),
  opens: z.int().min(0).max(1440),
  closes: z.int().min(0).max(1440),
  days: z.array(z.int().min(0).max(6)).max(7),
  branches: z.array(z.object({ name: typed(100), address: typed(400), site: typed(100), url: typed(2000) })).max(50),
  services: z.array(z.object({ name: typed(100), neverAsk: z.boolean() })).max(100),
  team: typed(4000),
  plan: typed(20),
  /** How visits come in; lists and single visits can be brought in whatever is chosen. */
  feeds: z
    .array(z.enum(["webhook", "calendar", "drop-off"]))
    .max(3)
    .default([]),
  calendarUrl: typed(1000).default(""),
});
export type ClientDraft = z.output<typeof clientDraft>;

const tradeOf = (key: string): Trade => TRADES.find((trade) => trade.key === key) ?? TRADES[TRADES.length - 1];

/** A draft with what is usual in a trade; the rest as the agency chose it last, or empty. */
export function draftFor(key: string, last: Pick<ClientDraft, "country" | "zone"> | null): ClientDraft {
  const trade = tradeOf(key);
  return {
    trade: trade.key,
    name: "",
    country: last?.country ?? "GB",
    zone: last?.zone ?? "Europe/London",
    colour: "#6A2156",
    senderEmail: "",
    textNumber: "",
    postalAddress: "",
    opens: 9 * 60,
    closes: 19 * 60,
    days: [0, 1, 2, 3, 4, 5],
    branches: [{ name: "", address: "", site: "", url: "" }],
    services: trade.services.map(({ name, neverAsk = false }) => ({ name, neverAsk })),
    team: "",
    plan: trade.plan,
    feeds: ["drop-off"],
    calendarUrl: "",
  };
}

/** How each way in is called as a feed. */
const FEED_NAMES = { webhook: "Job software", calendar: "Calendar", "drop-off": "Front desk" } as const;

/** Another trade's services and plan, as long as those of the trade before were left as they were. */
export function withTrade(draft: ClientDraft, key: string): ClientDraft {
  const before = draftFor(draft.trade, null);
  const after = draftFor(key, null);
  const isUntouched = JSON.stringify(draft.services) === JSON.stringify(before.services);
  return {
    ...draft,
    trade: after.trade,
    services: isUntouched ? after.services : draft.services,
    plan: draft.plan === before.plan ? after.plan : draft.plan,
  };
}

/** The client file that a draft comes to. A business with one branch need not name it. */
export function fileOf(draft: ClientDraft): ClientFileInput {
  const week = weekOf(draft.days, draft.opens, draft.closes);
  const isOne = draft.branches.length === 1;
  return {
    name: draft.name,
    country: draft.country.trim().toUpperCase(),
    zone: draft.zone.trim(),
    colour: draft.colour,
    senderEmail: draft.senderEmail,
    textNumber: draft.textNumber,
    postalAddress: draft.postalAddress,
    sendHours: { text: week, email: week },
    branches: draft.branches.map(({ name, address, site, url }) => ({
      name: name.trim() || (isOne ? draft.name : ""),
      address,
      reviewPages: site.trim() || url.trim() ? [{ site, url: url.trim() }] : [],
    })),
    services: draft.services.filter(({ name }) => name.trim() !== ""),
    team: draft.team
      .split(/[\n,;]/)
      .map((name) => ({ name: name.trim() }))
      .filter(({ name }) => name !== ""),
    plan: draft.plan,
    feeds: draft.feeds.map((kind) => ({
      kind,
      name: FEED_NAMES[kind],
      ...(kind === "calendar" ? { url: draft.calendarUrl.trim().replace(/^webcal:/i, "https:") } : {}),
    })),
  };
}

/** The field of a draft at which a fault of its file is mended. */
export function fieldOfFault(path: string): string {
  if (path.startsWith("feeds.")) return "calendarUrl";
  const [, index] = /^branches\.(\d+)\./.exec(path) ?? [];
  if (index === undefined) return path.split(".")[0];
  if (path.endsWith(".url")) return `branches.${index}.url`;
  if (path.endsWith(".site")) return `branches.${index}.site`;
  return `branches.${index}.name`;
}
