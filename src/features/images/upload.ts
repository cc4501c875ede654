import { problem, readUpload } from "@/platform/hooks";
import { MOST_BYTES, NotAPicture, type Picture, readPicture } from "./service";

/**
 * The picture that a form brings in its field `picture`, or null where it brings none; or the answer to refuse it with.
 */
export async function pictureFrom(
  request: Request,
  box: Parameters<typeof readPicture>[1],
  as: Parameters<typeof readPicture>[2],
): Promise<{ picture: Picture | null } | Response> {
  const form = await readUpload(request, MOST_BYTES, "The picture is larger than 8 MB.");
  if (form instanceof Response) return form;
  const file = form.get("picture");
  if (!(file instanceof File) || file.size === 0) return { picture: null };
  try {
    return { picture: await readPicture(new Uint8Array(await file.arrayBuffer()), box, as) };
  } catch (error) {
    if (error instanceof NotAPicture) return problem(422, error.message);
    throw error;
  }
}
