import { z } from "zod";
import { walkChoice } from "@/core/words/walk";
import { FRAMED_PAGE, loadWalk, walkLetterMail, walkMail, walkPage } from "@/features/words";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; plan: string; stop: string }> };

/** A stop of the way as it is served or sent, for the frame that shows it. */
export async function GET(request: Request, { params }: Context) {
  const { client, plan, stop } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const choice = walkChoice.parse({ language: null, service: null, by: null, ...query, stop });
  const now = await clockNow();
  const walk = z.uuid().safeParse(plan).success
    ? await withClient(access, (tx) => loadWalk(tx, access, plan, choice, now))
    : null;
  if (!walk || walk.stop.key !== stop) return new Response("Not found", { status: 404 });
  const html =
    walk.stop.kind === "page"
      ? await walkPage(walk, walk.stop.moment, false)
      : (await (walk.stop.kind === "letter" ? walkLetterMail(walk) : walkMail(walk, walk.stop.step))).html;
  return new Response(html, { headers: FRAMED_PAGE });
}
