import { z } from "zod";
import { pictureDesign, pictureWords } from "@/core/words/namedPicture";
import { pageWords, wordsOf } from "@/core/words/planWords";
import { walkChoice } from "@/core/words/walk";
import { lookAt } from "@/features/clients";
import { drawPicture, isPhotoOf } from "@/features/images";
import { loadWalk } from "@/features/words";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";

type Context = { params: Promise<{ client: string; plan: string }> };

const number = z.coerce.number();

/** What is asked for in the address: a design, and the first name of whom the words speak to. */
const query = z.object({
  ...pictureDesign.shape,
  photo: z
    .string()
    .optional()
    .transform((id) => id || null)
    .pipe(z.uuid().nullable()),
  x: number.pipe(pictureDesign.shape.x),
  y: number.pipe(pictureDesign.shape.y),
  size: number.pipe(pictureDesign.shape.size),
  angle: number.pipe(pictureDesign.shape.angle),
  name: z.string().max(80).optional(),
});

/** A picture as it would arrive, while its design is still being changed; without a name the background alone. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { client, plan } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  const read = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!read.success || !z.uuid().safeParse(plan).success) return new Response("Not found", { status: 404 });
  const { name, ...design } = read.data;
  const now = await clockNow();
  const found = await withClient(access, async (tx) => {
    if (design.photo && !(await isPhotoOf(tx, access.clientId, design.photo))) return null;
    return loadWalk(tx, access, plan, walkChoice.parse({}), now);
  });
  if (!found) return new Response("Not found", { status: 404 });
  const { setting, rules, own, context } = found;
  const { branchId } = context.ask;
  const words =
    name === undefined
      ? ""
      : pictureWords(pageWords(wordsOf(rules), "picture", { language: own, serviceId: null }).words, {
          person: { given: name, family: "" },
          business: setting.client.name,
          branch: setting.branches.find(({ id }) => id === branchId)?.name ?? setting.client.name,
        });
  const jpeg = await drawPicture(words, design, lookAt(setting, branchId).typeface);
  return new Response(new Uint8Array(jpeg), {
    headers: {
      "content-type": "image/jpeg",
      "cache-control": "private, max-age=60",
      "x-content-type-options": "nosniff",
    },
  });
}
