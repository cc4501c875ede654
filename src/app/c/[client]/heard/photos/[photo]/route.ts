import { loadPhoto } from "@/features/answers";
import { privatePicture } from "../../privatePicture";

type Context = { params: Promise<{ client: string; photo: string }> };

/** A photo that came with an answer. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client, photo } = await params;
  return privatePicture(client, photo, loadPhoto);
}
