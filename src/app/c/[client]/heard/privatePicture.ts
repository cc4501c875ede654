import { z } from "zod";
import type { Access } from "@/platform/access";
import { type Tx, withClient } from "@/platform/database";

/** A picture that a customer sent, for whoever may see it, and for no cache; 404 where there is none. */
export async function privatePicture(
  access: Access,
  id: string,
  load: (tx: Tx, access: Access, id: string) => Promise<{ type: string; content: Buffer } | null>,
): Promise<Response> {
  const found = z.uuid().safeParse(id).success ? await withClient(access, (tx) => load(tx, access, id)) : null;
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
