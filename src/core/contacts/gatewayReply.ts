import { z } from "zod";

/**
 * What the mail server or the text gateway answered when it did not take a message, or when a message came back, as a
 * code with the numbers of RFC 5321 (three digits) and RFC 3463 (enhanced, "5.2.2"), or an HTTP status. What it wrote
 * beside them is its own prose, which is kept apart and never compared.
 */

export const GATEWAY_CODES = [
  "no such address",
  "mailbox full",
  "phone unreachable",
  "not accepted",
  "refused",
  "busy",
  "not signed in",
  "out of order",
  "no answer in time",
  "not reached",
  "not readable",
] as const;
export type GatewayCode = (typeof GATEWAY_CODES)[number];

export const GATEWAY_REPLY = z.object({
  code: z.enum(GATEWAY_CODES),
  /** Three digits of SMTP, or of HTTP. */
  status: z.int().optional(),
  enhanced: z
    .string()
    .regex(/^[245]\.\d{1,3}\.\d{1,3}$/)
    .optional(),
});
export type GatewayReply = z.infer<typeof GATEWAY_REPLY>;

/** Enhanced status codes (RFC 3463, section 3) that say more than their class. */
const ENHANCED: Record<string, GatewayCode> = {
  "1.1": "no such address",
  "1.2": "no such address",
  "1.3": "no such address",
  "1.6": "no such address",
  "1.10": "no such address",
  "2.1": "no such address",
  "2.2": "mailbox full",
  "7.1": "not accepted",
  "7.26": "not accepted",
};

/** Three-digit answers (RFC 5321, section 4.2.3; RFC 4954, section 6) that say more than their class. */
const SMTP: Record<number, GatewayCode> = {
  421: "busy",
  450: "busy",
  451: "busy",
  452: "mailbox full",
  530: "not signed in",
  534: "not signed in",
  535: "not signed in",
  538: "not signed in",
  550: "no such address",
  551: "no such address",
  552: "mailbox full",
  553: "no such address",
};

/** What receipts say in words where they carry no number that tells. */
const WORDS: [RegExp, GatewayCode][] = [
  [/\b(?:full|quota|storage)\b/i, "mailbox full"],
  [/\b(?:spam|policy|blocked|reputation|blacklist|blocklist)\b/i, "not accepted"],
  [/\b(?:no such|unknown|does not exist|not exist|no (?:mailbox|phone|user)|not in use|invalid)\b/i, "no such address"],
  [/\b(?:could not be reached|unreachable|switched off|absent)\b/i, "phone unreachable"],
];

/**
 * Reads what a mail server answered, or what a receipt gives as its reason: "550 5.2.2 The mailbox is full".
 *
 * @example readGatewayReply("550 5.2.2 Full") // { code: "mailbox full", status: 550, enhanced: "5.2.2" }
 */
export function readGatewayReply(text: string, responseCode?: number): GatewayReply {
  const first = /^\s*([245]\d\d)\b/.exec(text)?.[1];
  const status = responseCode ?? (first === undefined ? undefined : Number(first));
  const enhanced = /\b[245]\.\d{1,3}\.\d{1,3}\b/.exec(text.slice(0, 200))?.[0];
  const code =
    (enhanced ? ENHANCED[enhanced.slice(2)] : undefined) ??
    WORDS.find(([pattern]) => pattern.test(text))?.[1] ??
    (status === undefined ? undefined : (SMTP[status] ?? (status < 500 ? "busy" : undefined))) ??
    "refused";
  return { code, ...(status === undefined ? {} : { status }), ...(enhanced ? { enhanced } : {}) };
}

/** Reads an HTTP status that a text gateway refused with. */
export function readGatewayStatus(status: number): GatewayReply {
  const code: GatewayCode =
    status === 401 || status === 403
      ? "not signed in"
      : status === 429
        ? "busy"
        : status >= 500
          ? "out of order"
          : status === 422
            ? "no such address"
            : "refused";
  return { code, status };
}
