import { createHash } from "node:crypto";
import { and, desc, eq, isNotNull } from "drizzle-orm";
import { z } from "zod";
import { legsOf } from "@/core/plans/legs";
import type { PictureDesign } from "@/core/words/namedPicture";
import { walkChoice } from "@/core/words/walk";
import { askByToken, loadContexts } from "@/features/asks";
import { loadSetting, lookAt, type Setting } from "@/features/clients";
import { drawPicture } from "@/features/images";
import { now as clockNow } from "@/platform/clock";
import { readPictureName } from "@/platform/customerLinks";
import { withClient, workFor } from "@/platform/database";
import { isWelcome } from "@/platform/publicLimit";
import { isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { messages } from "@/schema/messages";
import { isSampleToken, previewBehind } from "./samples";
import { loadWalk, type Walk, walkMessage } from "./walk";
import { wayInput } from "./walkPicture";

/**
 * `GET /p/<name>.<tag>.jpg`: the picture that a message carries, drawn for who looks at it. Only we make its addresses:
 * of a message that was sent, of a sample, or of a part of a customer's way.
 */

type Drawing = { words: string; design: PictureDesign; setting: Setting; branchId: string };

export async function handlePictureRequest(request: Request, file: string): Promise<Response> {
  const nothing = (status: number) => new Response("Not found", { status, headers: { "cache-control": "no-store" } });
  if (!(await isWelcomeClient(request.headers))) return nothing(429);
  const name = readPictureName(file);
  if (name === null) return nothing((await mayGuessAgain(request.headers)) ? 404 : 429);
  if (!(await isWelcome(`picture ${name}`, 240, 60))) return nothing(429);
  const drawing = await drawingOf(name, await clockNow());
  if (!drawing) return nothing(404);
  const { typeface } = lookAt(drawing.setting, drawing.branchId);
  const jpeg = await drawPicture(drawing.words, drawing.design, typeface);
  const headers = {
    etag: `"${createHash("sha256").update(jpeg).digest("hex").slice(0, 32)}"`,
    "cache-control": "private, max-age=3600",
    "x-content-type-options": "nosniff",
    "content-security-policy": "default-src 'none'",
  };
  if (request.headers.get("if-none-match") === headers.etag) return new Response(null, { status: 304, headers });
  return new Response(new Uint8Array(jpeg), { headers: { ...headers, "content-type": "image/jpeg" } });
}

async function drawingOf(name: string, now: number): Promise<Drawing | null> {
  const [token, rest] = [name.slice(0, name.indexOf(".")), name.slice(name.indexOf(".") + 1)];
  if (token === "way") return drawingOfWay(rest, now);
  const leg = z.coerce.number().int().min(0).max(11).safeParse(rest);
  if (!leg.success) return null;
  return isSampleToken(token) ? drawingOfSample(token, leg.data, now) : drawingOfMessage(token, leg.data);
}

/** As it was sent, whatever the plan or the person is called by now; an erased person's name is not in it any more. */
async function drawingOfMessage(token: string, leg: number): Promise<Drawing | null> {
  const link = await askByToken(token);
  if (!link) return null;
  const scope = workFor(link.clientId);
  return withClient(scope, async (tx) => {
    const [sent] = await tx
      .select({ words: messages.picture })
      .from(messages)
      .where(
        and(
          eq(messages.clientId, scope.clientId),
          eq(messages.askId, link.askId),
          eq(messages.step, leg),
          eq(messages.direction, "out"),
          isNotNull(messages.picture),
        ),
      )
      .orderBy(desc(messages.createdAt))
      .limit(1);
    const [context] = sent ? await loadContexts(tx, scope, [link.askId]) : [];
    const design = context?.plan.rules.picture;
    if (!sent || !context || !design) return null;
    const setting = await loadSetting(tx);
    return { words: sent.words ?? "", design, setting, branchId: context.ask.branchId };
  });
}

async function drawingOfSample(token: string, leg: number, now: number): Promise<Drawing | null> {
  const preview = await previewBehind(token, now);
  if (!preview) return null;
  const { scope, planId, sample } = preview;
  const walk = await withClient(scope, (tx) => loadWalk(tx, scope, planId, sample ?? walkChoice.parse({}), now));
  return walk && drawingAt(walk, legsOf(walk.rules)[leg]?.step ?? 0);
}

function wayOf(packed: string) {
  try {
    return wayInput.safeParse(JSON.parse(Buffer.from(packed, "base64url").toString("utf8")));
  } catch {
    return null;
  }
}

async function drawingOfWay(packed: string, now: number): Promise<Drawing | null> {
  const way = wayOf(packed);
  if (!way?.success || way.data.until < now) return null;
  const scope = workFor(way.data.client);
  const walk = await withClient(scope, (tx) => loadWalk(tx, scope, way.data.plan, way.data.choice, now));
  return walk && drawingAt(walk, way.data.step);
}

function drawingAt(walk: Walk, step: number): Drawing | null {
  const design = walk.rules.picture;
  if (!design || !walk.rules.steps[step]) return null;
  const carried = walkMessage(walk, step, "email").picture ?? walkMessage(walk, step, "text").picture;
  if (carried === null) return null;
  return { words: carried, design, setting: walk.setting, branchId: walk.context.ask.branchId };
}
