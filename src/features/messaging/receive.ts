import { z } from "zod";
import { instantText } from "@/core/time/range";
import { environment } from "@/platform/environment";
import { problem, readHook } from "@/platform/hooks";
import { receiveMail, receiveText } from "./incoming";
import { noteReceipt } from "./receipts";

/** What gateways deliver by signed hooks: receipts, bounces, texts and mails that came in. */

export const receipt = z.object({
  reference: z.uuid(),
  reason: z.string().max(300).optional(),
  /** When it happened, where the gateway says so. */
  at: instantText.transform((text) => Date.parse(text)).optional(),
  /** Of a text with a picture: whether the picture arrived with its words. */
  media: z.enum(["delivered", "left out"]).optional(),
});

/** Where the gateway has the pictures that came with a message: fetched later, by the worker. */
const pictures = z
  .array(z.url({ protocol: /^https?$/ }).max(1000))
  .max(50)
  .default([]);

const textEvent = z.discriminatedUnion("type", [
  z.object({ type: z.literal("text.delivered"), data: receipt }),
  z.object({ type: z.literal("text.undelivered"), data: receipt }),
  z.object({
    type: z.literal("text.received"),
    data: z.object({
      id: z.string().min(1).max(100),
      from: z.string().min(3).max(20),
      to: z.string().min(3).max(20),
      body: z.string().max(2000),
      pictures,
    }),
  }),
]);

const mailEvent = z.discriminatedUnion("type", [
  z.object({ type: z.literal("mail.delivered"), data: receipt }),
  z.object({ type: z.literal("mail.bounced"), data: receipt }),
  z.object({
    type: z.literal("mail.received"),
    data: z.object({
      id: z.string().min(1).max(200),
      from: z.string().min(3).max(254),
      to: z.string().min(3).max(320),
      subject: z.string().max(500),
      text: z.string().max(20_000),
      pictures,
      /** Whether a mail program wrote it by itself, as its headers say (RFC 3834). */
      automatic: z.boolean().default(false),
    }),
  }),
]);

/** Answers `POST /hooks/texts`. */
export async function handleTextHook(request: Request): Promise<Response> {
  const read = await readHook(request, environment().TEXT_HOOK_SECRET);
  if (read instanceof Response) return read;
  const event = textEvent.safeParse(read.body);
  if (!event.success) return problem(422, z.prettifyError(event.error));
  const { type, data } = event.data;
  if (type === "text.received") return Response.json({ kept: await receiveText(data) });
  return Response.json({ kept: await noteReceipt(data, type === "text.delivered" ? "delivered" : "bounced") });
}

/** Answers `POST /hooks/mail`. */
export async function handleMailHook(request: Request): Promise<Response> {
  const read = await readHook(request, environment().MAIL_HOOK_SECRET);
  if (read instanceof Response) return read;
  const event = mailEvent.safeParse(read.body);
  if (!event.success) return problem(422, z.prettifyError(event.error));
  const { type, data } = event.data;
  if (type === "mail.received")
    return Response.json({ kept: await receiveMail({ ...data, isAutomatic: data.automatic }) });
  return Response.json({ kept: await noteReceipt(data, type === "mail.delivered" ? "delivered" : "bounced") });
}
