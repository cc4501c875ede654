import { notFound } from "next/navigation";
import { z } from "zod";
import { cleanText } from "@/core/words/clean";
import { LANGUAGES } from "@/core/words/languages";
import { loadPoster, POSTER_FORMATS, renderPoster } from "@/features/standing-links";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; link: string }> };

const words = (most: number) =>
  z
    .string()
    .transform((typed) => cleanText(typed).trim().slice(0, most))
    .catch("");
const query = z.object({
  format: z.enum(POSTER_FORMATS).catch("a4"),
  language: z.enum(LANGUAGES).nullable().catch(null),
  title: words(90),
  says: words(160),
});

/** A standing link on paper, as a PDF. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { client, link } = await params;
  const access = await requireAccess(client, "see asking");
  const wanted = query.parse({ language: null, ...Object.fromEntries(new URL(request.url).searchParams) });
  const poster = z.uuid().safeParse(link).success
    ? await withClient(access, (tx) => loadPoster(tx, access, link, wanted))
    : null;
  if (!poster) notFound();
  return new Response(new Uint8Array(await renderPoster(poster)), {
    headers: {
      "content-type": "application/pdf",
      "content-disposition": `inline; filename="poster-${wanted.format}.pdf"`,
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
    },
  });
}
