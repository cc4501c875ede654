import { revalidatePath } from "next/cache";
import { setAgencyLogo } from "@/features/accounts";
import { keepLogo, pictureFrom } from "@/features/images";
import { requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ agency: string }> };

/** Takes the agency's logo in; without a file it has none any more. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAgency((await params).agency, "manage people");
  access.looksOnly?.refused();
  const read = await pictureFrom(access.agencyId, request, { width: 480, height: 120, takesSvg: true }, "webp");
  if (read instanceof Response) return read;
  const now = await clockNow();
  await withAgency(access, async (tx) => {
    const id = await keepLogo(tx, access, read.picture, now);
    await setAgencyLogo(tx, access, access.user.name, access.seat.name, id, now);
  });
  revalidatePath("/", "layout");
  return new Response(null, { status: 204 });
}
