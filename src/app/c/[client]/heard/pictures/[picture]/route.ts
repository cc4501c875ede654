import { z } from "zod";
import { loadMessagePicture } from "@/features/messaging";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; picture: string }> };

/** A picture that came with a message, for whoever sees what was heard. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, picture } = await params;
  const access = await requireAccess(client, "see heard");
  const found = z.uuid().safeParse(picture).success
    ? await withClient(access, (tx) => loadMessagePicture(tx, access, picture))
    : null;
  if (!found) return new Response("Not found", { status: 404 });
  return new Response(new Uint8Array(found.content), {
    headers: {
      "content-type": found.type,
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
      "content-security-policy": "default-src 'none'",
    },
  });
}
