import { walkChoice } from "@/core/words/walk";
import { FRAMED_PAGE, linkWalkPage, loadLinkWalk } from "@/features/words";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; stop: string }> };

/** A page of a standing link as it is served, for the frame that shows it. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { client, stop } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const choice = walkChoice.parse({ language: null, service: null, by: null, ...query, stop });
  const now = await clockNow();
  const walk = await withClient(access, (tx) => loadLinkWalk(tx, access, choice, now));
  if (walk.stop.key !== stop) return new Response("Not found", { status: 404 });
  return new Response(await linkWalkPage(walk, walk.stop.moment), { headers: FRAMED_PAGE });
}
