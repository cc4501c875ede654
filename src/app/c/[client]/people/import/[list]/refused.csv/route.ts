import { z } from "zod";
import { recordAudit } from "@/features/audit";
import { findIntake, rowsOfIntake, toCsv } from "@/features/intake";
import { remarkSentences } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { problem, refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ client: string; list: string }> };

/** The rows of a list that could not be used, as they were, each with what is wrong in a last column. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const { client, list } = await params;
  const access = await requireAccess(client, "import lists");
  const file = z.uuid().safeParse(list).success
    ? await withClient(access, async (tx) => {
        const intake = await findIntake(tx, access, list);
        const rows = await rowsOfIntake(tx, access, list, "refused", 0, 100_000);
        if (intake)
          await recordAudit(tx, {
            clientId: access.clientId,
            at: await clockNow(),
            who: access.user.name,
            action: "exported refused rows",
            subject: "list",
            subjectId: list,
            details: { name: intake.name, count: rows.length },
          });
        return intake?.found && { headers: intake.found.headers, rows };
      })
    : null;
  if (!file) return problem(404, "This list doesn’t exist.");
  const body = toCsv([
    [...file.headers, "What’s wrong"],
    ...file.rows.map(({ cells, problems }) => [
      ...file.headers.map((_, index) => cells?.[index] ?? ""),
      remarkSentences(problems),
    ]),
  ]);
  return new Response(body, {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="rows-to-fix.csv"',
      "cache-control": "no-store",
    },
  });
}
