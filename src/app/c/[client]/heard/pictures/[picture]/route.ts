import { loadMessagePicture } from "@/features/messaging";
import { privatePicture } from "../../privatePicture";

type Context = { params: Promise<{ client: string; picture: string }> };

/** A picture that came with a message. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, picture } = await params;
  return privatePicture(client, picture, loadMessagePicture);
}
