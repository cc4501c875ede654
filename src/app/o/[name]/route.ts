import { handleOpenPicture } from "@/features/sending";

export const GET = async (_request: Request, { params }: { params: Promise<{ name: string }> }) =>
  handleOpenPicture((await params).name);
