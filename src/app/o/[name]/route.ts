import { handleOpenPicture } from "@/features/messaging";

export const GET = async (request: Request, { params }: { params: Promise<{ name: string }> }) =>
  handleOpenPicture(request, (await params).name);
