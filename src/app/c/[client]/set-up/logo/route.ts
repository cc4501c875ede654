import { revalidatePath } from "next/cache";
import { setClientLogo } from "@/features/clients";
import { keepClientLogo, LOGO_BOX, pictureFrom } from "@/features/images";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string }> };

/** Takes the client's logo in; without a file it has none any more. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAccess((await params).client, "set up");
  access.looksOnly?.refused();
  const read = await pictureFrom(request, LOGO_BOX, "png");
  if (read instanceof Response) return read;
  const now = await clockNow();
  const { clientId, seat } = access;
  await withClient(access, async (tx) => {
    const logo = await keepClientLogo(tx, { clientId, agencyId: seat.agencyId }, read.picture, now);
    await setClientLogo(tx, access, access.user.name, logo, now);
  });
  revalidatePath("/", "layout");
  return new Response(null, { status: 204 });
}
