import { firstLanguage, type Language } from "@/core/words/languages";
import { loadSetting, lookAt } from "@/features/clients";
import { findImage } from "@/features/images";
import { customerWords } from "@/locales/customer";
import { standingLink } from "@/platform/customerLinks";
import type { Scope, Tx } from "@/platform/database";
import type { Poster, PosterFormat } from "./posterKinds";
import { findLink } from "./service";

/**
 * What stands on a link's poster: the client's look, and its own words or those of the language. Null for a link that
 * is not there or has ended: no code is printed that leads nowhere.
 */
export async function loadPoster(
  tx: Tx,
  scope: Scope,
  id: string,
  wanted: { format: PosterFormat; language: Language | null; title: string; says: string },
): Promise<Poster | null> {
  const link = await findLink(tx, scope, id);
  if (!link || link.endedAt !== null) return null;
  const setting = await loadSetting(tx);
  const { client } = setting;
  const look = lookAt(setting, link.branchId);
  const language = firstLanguage(wanted.language, client.language) as Language;
  const say = customerWords(language);
  const { default: sharp } = await import("sharp");
  const address = standingLink(link.token);
  const picture = look.logo ? await findImage(look.logo.id) : null;
  return {
    format: wanted.format,
    language,
    link: address,
    business: client.name,
    colour: look.colour,
    logo:
      look.logo && picture
        ? { png: await sharp(picture.content).png().toBuffer(), width: look.logo.width, height: look.logo.height }
        : null,
    title: wanted.title || say("poster.title"),
    says: wanted.says || say("poster.says"),
    typed: say("poster.address", { address: address.replace(/^https?:\/\//, "") }),
  };
}
