import { z } from "zod";
import { recordAudit } from "@/features/audit";
import { exportPerson } from "@/features/people-admin";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { problem, refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string; person: string }> };

/** Everything known of one person, as a file. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const { client, person } = await params;
  const access = await requireAccess(client, "export people");
  const now = await clockNow();
  const known = z.uuid().safeParse(person).success
    ? await withClient(access, async (tx) => {
        const found = await exportPerson(tx, access, person, now);
        if (found)
          await recordAudit(tx, {
            clientId: access.clientId,
            at: now,
            who: access.user.name,
            action: "exported all",
            subject: "person",
            subjectId: person,
          });
        return found;
      })
    : null;
  if (!known) return problem(404, "This person doesn’t exist.");
  return new Response(JSON.stringify(known, null, 2), {
    headers: {
      "content-type": "application/json; charset=utf-8",
      "content-disposition": `attachment; filename="person-${person.slice(-8)}.json"`,
      "cache-control": "no-store",
    },
  });
}
