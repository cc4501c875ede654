import { noteUnreadable, problem, readUpload, refuseUnreadable } from "@/platform/hooks";
import { type Box, MOST_BYTES, NotAPicture, type Picture } from "./decode";
import { readPicture } from "./service";

/**
 * The picture that a form brings in its field `picture`, or null where it brings none; or the answer to refuse it with.
 * `owner` is whose picture it is.
 */
export async function pictureFrom(
  owner: string,
  request: Request,
  box: Box,
  as: "webp" | "png" | "jpeg",
): Promise<{ picture: Picture | null } | Response> {
  const tooMany = await refuseUnreadable(request, owner);
  if (tooMany) return tooMany;
  const form = await readUpload(request, MOST_BYTES, "The picture is bigger than 8 MB.");
  if (form instanceof Response) return form;
  const file = form.get("picture");
  if (!(file instanceof File) || file.size === 0) return { picture: null };
  try {
    return { picture: await readPicture(owner, new Uint8Array(await file.arrayBuffer()), box, as) };
  } catch (error) {
    if (!(error instanceof NotAPicture)) throw error;
    if (error.isPassing) return problem(429, error.message);
    await noteUnreadable(owner);
    return problem(422, error.message);
  }
}
