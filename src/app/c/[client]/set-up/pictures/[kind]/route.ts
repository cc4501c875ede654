import { revalidatePath } from "next/cache";
import { z } from "zod";
import { loadSetting, setClientPicture } from "@/features/clients";
import { BOXES, keepClientPicture, pictureFrom } from "@/features/images";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string; kind: string }> };

const input = z.object({
  kind: z.enum(["logo", "header", "portrait"]),
  branchId: z.uuid().nullable(),
});

/** Takes a picture of the client in, or (`?branch=`) of one of its branches; without a file there is none any more. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const { client, kind } = await params;
  const access = await requireAccess(client, "set up");
  access.looksOnly?.refused();
  const at = input.safeParse({ kind, branchId: new URL(request.url).searchParams.get("branch") });
  if (!at.success) return new Response("Not found", { status: 404 });
  const { box, as } = BOXES[at.data.kind];
  const read = await pictureFrom(access.clientId, request, box, as);
  if (read instanceof Response) return read;
  const now = await clockNow();
  const { clientId, seat } = access;
  const isKept = await withClient(access, async (tx) => {
    const { kind, branchId } = at.data;
    const { branches } = await loadSetting(tx);
    if (branchId !== null && !branches.some(({ id }) => id === branchId)) return false;
    const place = { clientId, agencyId: seat.agencyId, branchId };
    const picture = await keepClientPicture(tx, place, kind, read.picture, now);
    await setClientPicture(tx, access, access.user.name, { kind, branchId, picture }, now);
    return true;
  });
  revalidatePath("/", "layout");
  return new Response(isKept ? null : "Not found", { status: isKept ? 204 : 404 });
}
