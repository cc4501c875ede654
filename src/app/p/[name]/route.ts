import { handlePictureRequest } from "@/features/words";

export const GET = async (request: Request, { params }: { params: Promise<{ name: string }> }) =>
  handlePictureRequest(request, (await params).name);
