import { loadMessagePicture } from "@/features/messaging";
import { requireAccess } from "@/platform/access";
import { privatePicture } from "../../privatePicture";

type Context = { params: Promise<{ client: string; picture: string }> };

/** A picture that came with a message. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, picture } = await params;
  return privatePicture(await requireAccess(client, "see heard"), picture, loadMessagePicture);
}
