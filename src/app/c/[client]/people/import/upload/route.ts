import { z } from "zod";
import { MOST_BYTES, receiveList, Unreadable } from "@/features/intake";
import { requireAccess } from "@/platform/access";
import { noteUnreadable, problem, readUpload, refuseForeign, refuseUnreadable } from "@/platform/hooks";
import { newId } from "@/schema/columns";

type Context = { params: Promise<{ client: string }> };

/**
 * Takes a file or pasted rows in and leads to the look at them. What cannot be read is said in words (problem
 * details).
 */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAccess((await params).client, "import lists");
  const tooMany = await refuseUnreadable(request, access.clientId);
  if (tooMany) return tooMany;
  const form = await readUpload(request, MOST_BYTES, "The file is bigger than 25 MB. Split it and import the parts.");
  if (form instanceof Response) return form;
  const file = form.get("file");
  const pasted = String(form.get("pasted") ?? "");
  const isFile = file instanceof File && file.size > 0;
  if (!isFile && !pasted.trim()) return problem(422, "Choose a file, or paste some rows.");
  try {
    const id = await receiveList(access, {
      source: isFile ? "file" : "pasted",
      name: isFile ? file.name.replaceAll("\u0000", "") : "Pasted rows",
      bytes: isFile ? new Uint8Array(await file.arrayBuffer()) : new TextEncoder().encode(pasted),
      who: access.user.name,
      requestKey: z.uuid().safeParse(form.get("key")).data ?? newId(),
    });
    return Response.json({ list: id });
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    await noteUnreadable(access.clientId);
    return problem(422, error.message);
  }
}
