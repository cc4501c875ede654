import { z } from "zod";
import { findImage } from "@/features/images";

type Context = { params: Promise<{ id: string }> };

/** A picture that somebody uploaded. Its address never shows another one, so that it is kept for a year. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const id = z.uuid().safeParse((await params).id.replace(/\.(?:webp|png|jpg)$/, ""));
  const image = id.success ? await findImage(id.data) : null;
  if (!image) return new Response("Not found", { status: 404 });
  const headers = {
    etag: `"${image.hash}"`,
    "cache-control": "public, max-age=31536000, immutable",
    "x-content-type-options": "nosniff",
    "content-security-policy": "default-src 'none'",
  };
  if (request.headers.get("if-none-match") === headers.etag) return new Response(null, { status: 304, headers });
  return new Response(new Uint8Array(image.content), { headers: { ...headers, "content-type": image.type } });
}
