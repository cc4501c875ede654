import { z } from "zod";
import { recordAudit } from "@/features/audit";
import { exportPeople, FORMATS, selectedIds, selection } from "@/features/people-admin";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { problem, readBounded, refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string }> };

/** The people chosen in the list, as a file. Who took out how many is noted. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAccess((await params).client, "export people");
  const form = new URLSearchParams((await readBounded(request, 400_000)) ?? "");
  const format = z.enum(FORMATS).safeParse(form.get("format"));
  const wanted = selection.safeParse(readJson(form.get("chosen")));
  if (!format.success || !wanted.success) return problem(422, "Choose people and a format: csv, xlsx or vcf.");
  const now = await clockNow();
  const { slug } = access.seat;
  const file = await withClient(access, async (tx) => {
    const ids = await selectedIds(tx, access, wanted.data, now, 20_000);
    await recordAudit(tx, {
      clientId: access.clientId,
      at: now,
      who: access.user.name,
      action: "exported",
      subject: "people",
      details: { count: ids.length, format: format.data },
    });
    return exportPeople(tx, ids, format.data, access.seat.zone, now);
  });
  return new Response(file.body as BodyInit, {
    headers: {
      "content-type": file.type,
      "content-disposition": `attachment; filename="people-of-${slug}.${format.data}"`,
      "cache-control": "no-store",
    },
  });
}

function readJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? "");
  } catch {
    return null;
  }
}
