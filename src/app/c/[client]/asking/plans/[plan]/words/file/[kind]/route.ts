import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { findPlan } from "@/features/plans";
import { rowsOfWords, wordsFile } from "@/features/words";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; plan: string; kind: string }> };

/** All words of a plan as a file, for a translator or another client. */
export async function GET(_request: Request, { params }: Context) {
  const { client, plan: id, kind } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  if (!z.uuid().safeParse(id).success || (kind !== "csv" && kind !== "json"))
    return new Response("Not found", { status: 404 });
  const rows = await withClient(access, async (tx) => {
    const plan = await findPlan(tx, access, id);
    return plan && rowsOfWords(plan.draft ?? plan.rules, (await loadSetting(tx)).client.language);
  });
  if (!rows) return new Response("Not found", { status: 404 });
  return new Response(wordsFile(rows, kind), {
    headers: {
      "content-type": kind === "csv" ? "text/csv; charset=utf-8" : "application/json; charset=utf-8",
      "content-disposition": `attachment; filename="words-${client}.${kind}"`,
      "cache-control": "no-store",
    },
  });
}
