import { z } from "zod";
import { finishSignIn } from "@/features/sites";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { environment } from "@/platform/environment";

const back = z.object({
  state: z
    .string()
    .max(400)
    .regex(/^[a-z0-9-]{1,100}\.[0-9A-Za-z]{16,}$/),
  code: z.string().min(1).max(2000).optional().catch(undefined),
});

/** Where a review site sends people back to, after they signed in there or did not (RFC 6749, section 4.1.2). */
export async function GET(request: Request): Promise<Response> {
  const { APP_URL } = environment();
  const read = back.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!read.success) return Response.redirect(`${APP_URL}/`, 303);
  const { state, code } = read.data;
  const slug = state.slice(0, state.indexOf("."));
  const access = await requireAccess(slug, "set up");
  const done = await finishSignIn(access, access.user, { state, code: code ?? null }, await clockNow());
  const pages = `${APP_URL}/c/${slug}/set-up/pages`;
  if (!("refused" in done))
    return Response.redirect(done.isAgain ? pages : `${pages}/connect?site=${done.connector}`, 303);
  if (!done.connector) return Response.redirect(pages, 303);
  const said = typeof done.refused === "string" ? done.refused : "refused";
  return Response.redirect(`${pages}/connect?${new URLSearchParams({ site: done.connector, said })}`, 303);
}
