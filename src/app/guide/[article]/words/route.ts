import { articles, htmlOf } from "@/features/guide";
import { requireUser } from "@/platform/access";

/** An article as `{ title, html }`, for the sheet beside a page. */
export async function GET(_request: Request, { params }: { params: Promise<{ article: string }> }): Promise<Response> {
  await requireUser();
  const { article } = await params;
  const found = articles().find(({ slug }) => slug === article);
  if (!found) return Response.json({ error: "That article doesn’t exist." }, { status: 404 });
  return Response.json({ title: found.title, html: htmlOf(found) });
}
