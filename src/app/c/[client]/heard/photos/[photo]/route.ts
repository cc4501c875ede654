import { z } from "zod";
import { loadPhoto } from "@/features/answers";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; photo: string }> };

/** A photo that a customer sent, for whoever sees what was heard. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, photo } = await params;
  const access = await requireAccess(client, "see heard");
  const found = z.uuid().safeParse(photo).success
    ? await withClient(access, (tx) => loadPhoto(tx, access, photo))
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
