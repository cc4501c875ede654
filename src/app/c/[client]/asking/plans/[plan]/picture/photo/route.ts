import { may } from "@/core/access/permissions";
import { BOXES, keepPhoto, pictureFrom } from "@/features/images";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { problem, refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string; plan: string }> };

/** Takes in a photo of the business's own, on which words can stand, and gives its identifier. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAccess((await params).client, "see asking", "whole client");
  access.looksOnly?.refused();
  if (!may(access.seat, "change plans")) return problem(403, "Your role doesn’t let you change plans.");
  const { box, as } = BOXES.photo;
  const read = await pictureFrom(access.clientId, request, box, as);
  if (read instanceof Response) return read;
  const { picture } = read;
  if (!picture) return problem(422, "Choose a picture.");
  const now = await clockNow();
  const { clientId, seat } = access;
  const kept = await withClient(access, (tx) =>
    keepPhoto(tx, { clientId, agencyId: seat.agencyId, branchId: null }, picture, now),
  );
  if (!kept) return problem(422, "You already have 40 photos. Use one of those.");
  return Response.json({ id: kept.id });
}
