import { notFound } from "next/navigation";
import { recordAudit } from "@/features/audit";
import { findOwnClient } from "@/features/offboarding";
import { exportClient } from "@/features/onboarding";
import { atClient, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ agency: string; client: string }> };

/** All that is set up for a client, as its file. Who took it out is noted. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const { agency, client: slug } = await params;
  const access = await requireAgency(agency, "start clients");
  const client = await withAgency(access, (tx) => findOwnClient(tx, access, { slug }));
  if (!client || client.deletingAt !== null) notFound();
  const scope = atClient(access, client.id);
  const now = await clockNow();
  const file = await withClient(scope, async (tx) => {
    await recordAudit(tx, {
      clientId: client.id,
      at: now,
      who: access.user.name,
      action: "exported",
      subject: "client",
      subjectId: client.id,
    });
    return exportClient(tx, scope);
  });
  return new Response(`${JSON.stringify(file, null, 2)}\n`, {
    headers: {
      "content-type": "application/json; charset=utf-8",
      "content-disposition": `attachment; filename="${client.slug}.client.json"`,
      "cache-control": "no-store",
    },
  });
}
