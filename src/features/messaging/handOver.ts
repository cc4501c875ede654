import type { SendingFrom } from "@/core/clients/sender";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { type Logo, sizeOf } from "@/core/words/logo";
import type { ShownLook } from "@/core/words/look";
import type { AskContext } from "@/features/asks";
import { answerLink, optOutLink, pictureAddress } from "@/platform/customerLinks";
import { environment } from "@/platform/environment";
import { type Handed, handOverMail } from "@/platform/mail";
import { tagFor } from "@/platform/secrets";
import { handOverText } from "@/platform/texts";
import { emailPage, mailWords } from "@/ui/emailPage";
import type { Message } from "./claims";

/** What the gateway is called with. Kept in the row before the call, so that a repeat says the very same. */
export type Outgoing = {
  message: Message;
  /** Its ask as it stood when it was prepared; null for a letter from a person. */
  context: AskContext | null;
  fromName: string;
  sender: SendingFrom;
  business: string;
  postalAddress: string;
  textNumber: string;
  look: ShownLook;
  /** In which it is written. */
  language: AnyLanguage;
};

export async function handOverAll(outgoing: Outgoing[]): Promise<Handed[]> {
  const results: Handed[] = new Array(outgoing.length);
  let next = 0;
  const lane = async () => {
    while (next < outgoing.length) {
      const index = next++;
      results[index] = await handOver(outgoing[index]);
    }
  };
  await Promise.all(Array.from({ length: Math.min(environment().SEND_CONCURRENCY, outgoing.length) }, lane));
  return results;
}

async function handOver({ message, context, ...from }: Outgoing): Promise<Handed> {
  const address = message.address ?? "";
  const { APP_URL } = environment();
  const ask = context?.ask;
  const picture =
    ask && message.step !== null && message.picture !== null
      ? { url: pictureAddress(ask.token, message.step), alt: message.picture }
      : null;
  if (message.channel === "text")
    return handOverText({
      id: message.id,
      from: from.textNumber,
      to: address,
      body: message.body ?? "",
      media: picture?.url ?? null,
    });
  const optOut = ask ? optOutLink(ask.token) : null;
  const { text, html } = await emailPage(message.body ?? "", {
    link: ask && message.step !== null ? answerLink(ask.token, message.step) : null,
    asksRating: true,
    optOut,
    picture: ask ? `${APP_URL}/o/${message.id}.gif` : null,
    named: picture,
    ...customerFrame(from, from.language),
  });
  return handOverMail({
    id: message.id,
    from: { name: from.fromName, address: from.sender.address },
    to: address,
    // What they write back is kept here, and reaches whoever the business wants it to reach as well.
    replyTo: [replyAddress(from.sender.address, message.id), from.sender.replyTo, from.look.replyTo]
      .filter(Boolean)
      .join(", "),
    subject: message.subject ?? from.business,
    text,
    html,
    unsubscribe: optOut ?? undefined,
  });
}

type Sender = Pick<Outgoing, "business" | "postalAddress" | "look">;

/** What stands around every email to a customer of a business. */
export function customerFrame({ business, postalAddress, look }: Sender, language: AnyLanguage) {
  const pictured = (picture: Logo | null, type: string) =>
    picture && { url: `${environment().APP_URL}/images/${picture.id}.${type}`, ...sizeOf(picture) };
  return {
    business,
    colour: look.colour,
    postalAddress,
    language,
    words: mailWords(language, business),
    logo: pictured(look.logo, "png"),
    header: pictured(look.header, "jpg"),
    portrait: pictured(look.portrait, "jpg"),
    signature: look.signature,
    links: look.links,
  };
}

/** The language of a message: its variant says it, else it is the client's. */
export const languageOfVariant = (variant: string | null, own: string): AnyLanguage =>
  firstLanguage(variant?.split("@")[0], own);

/** Where a customer's reply to a message goes: the sender's address with the message's id and a tag that proves it. */
export function replyAddress(sender: string, messageId: string): string {
  const at = sender.lastIndexOf("@");
  return `${sender.slice(0, at)}+${messageId}.${tagFor("reply", messageId)}${sender.slice(at)}`.toLowerCase();
}
