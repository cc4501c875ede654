import { loadPhoto } from "@/features/answers";
import { requireAccess } from "@/platform/access";
import { privatePicture } from "../../privatePicture";

type Context = { params: Promise<{ client: string; photo: string }> };

/** A photo that came with an answer. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, photo } = await params;
  return privatePicture(await requireAccess(client, "see heard"), photo, loadPhoto);
}
