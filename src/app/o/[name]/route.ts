import { handleOpenPicture } from "@/features/messaging";

export const GET = async (_request: Request, { params }: { params: Promise<{ name: string }> }) =>
  handleOpenPicture((await params).name);
