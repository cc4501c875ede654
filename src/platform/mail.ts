import { readFileSync } from "node:fs";
import type { Transporter } from "nodemailer";
import { type GatewayReply, readGatewayReply } from "@/core/contacts/gatewayReply";
import { headerLine } from "@/core/words/strangers";
import { environment } from "./environment";
import { describeError, log } from "./log";

export type OutgoingMail = {
  /** Becomes the Message-ID, so that a repeat of the same mail can be told. */
  id: string;
  from: { name: string; address: string };
  to: string;
  replyTo: string;
  subject: string;
  text: string;
  html: string;
  /** Address of the one-click unsubscribe (RFC 8058). */
  unsubscribe?: string;
};

/** What became of handing a message over. `bounced` is for good, `deferred` asks for another try. */
export type Handed =
  | { kind: "sent"; gatewayId: string }
  | {
      kind: "bounced" | "deferred" | "failed";
      reply: GatewayReply;
      /** What the gateway wrote, where it wrote anything. */ said: string | null;
    };

let transport: Promise<Transporter> | undefined;

function mailer(): Promise<Transporter> {
  transport ??= connectMailer();
  return transport;
}

async function connectMailer(): Promise<Transporter> {
  const { default: nodemailer } = await import("nodemailer");
  const { SMTP_URL, DKIM_DOMAIN, DKIM_SELECTOR, DKIM_KEY_FILE, SEND_CONCURRENCY } = environment();
  const dkim =
    DKIM_DOMAIN && DKIM_SELECTOR && DKIM_KEY_FILE
      ? { domainName: DKIM_DOMAIN, keySelector: DKIM_SELECTOR, privateKey: readFileSync(DKIM_KEY_FILE, "utf8") }
      : undefined;
  const url = new URL(SMTP_URL);
  return nodemailer.createTransport({
    host: url.hostname,
    port: Number(url.port || (url.protocol === "smtps:" ? 465 : 587)),
    secure: url.protocol === "smtps:",
    auth: url.username ? { user: decodeURIComponent(url.username), pass: decodeURIComponent(url.password) } : undefined,
    pool: true,
    maxConnections: Math.min(8, SEND_CONCURRENCY),
    maxMessages: Number.POSITIVE_INFINITY,
    connectionTimeout: 10_000,
    greetingTimeout: 10_000,
    socketTimeout: 20_000,
    dkim,
  });
}

/** Hands one mail to the SMTP server. Never throws: a refusal or an outage is a result (RFC 5321, section 4.2.1). */
export async function handOverMail(mail: OutgoingMail): Promise<Handed> {
  const host = mail.from.address.slice(mail.from.address.lastIndexOf("@") + 1);
  try {
    await (await mailer()).sendMail({
      messageId: `<${mail.id}@${host}>`,
      from: { name: headerLine(mail.from.name), address: mail.from.address },
      to: mail.to,
      replyTo: mail.replyTo,
      subject: headerLine(mail.subject),
      text: mail.text,
      html: mail.html,
      // What they would choose for letters of our languages anyway, after counting every one of them.
      textEncoding: "quoted-printable",
      headers: mail.unsubscribe
        ? { "List-Unsubscribe": `<${mail.unsubscribe}>`, "List-Unsubscribe-Post": "List-Unsubscribe=One-Click" }
        : {},
    });
    return { kind: "sent", gatewayId: mail.id };
  } catch (error) {
    const { responseCode, response, message } = error as { responseCode?: number; response?: string; message: string };
    if (responseCode === undefined) {
      log.warn(describeError(error), "mail server not reached");
      return { kind: "deferred", reply: { code: "not reached" }, said: null };
    }
    const said = (response ?? message).slice(0, 200);
    const reply = readGatewayReply(said, responseCode);
    // 535 and its kin speak of us, not of the person: whoever runs the program has to act.
    const isOurs = responseCode >= 530 && responseCode < 540;
    return { kind: responseCode >= 500 && !isOurs ? "bounced" : "deferred", reply, said };
  }
}

/** Closes the pool; for scripts and tests. */
export async function closeMail(): Promise<void> {
  const open = transport;
  transport = undefined;
  (await open)?.close();
}
