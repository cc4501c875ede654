import { notFound } from "next/navigation";
import { z } from "zod";
import { codePng, codeSvg, findLink } from "@/features/standing-links";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; link: string; kind: string }> };

/** The code of a standing link, to print: SVG, or PNG of 1,200 pixels. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, link: id, kind } = await params;
  const access = await requireAccess(client, "see asking");
  if (!z.uuid().safeParse(id).success || (kind !== "svg" && kind !== "png")) notFound();
  const link = await withClient(access, (tx) => findLink(tx, access, id));
  if (!link || link.endedAt !== null) notFound();
  const body = kind === "svg" ? await codeSvg(link.token) : new Uint8Array(await codePng(link.token));
  return new Response(body, {
    headers: {
      "content-type": kind === "svg" ? "image/svg+xml" : "image/png",
      "content-disposition": `attachment; filename="code-${link.token.slice(0, 4)}.${kind}"`,
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
      "content-security-policy": "default-src 'none'",
    },
  });
}
