import { handleSiteHook } from "@/features/sites";

type Context = { params: Promise<{ page: string }> };

export const POST = async (request: Request, { params }: Context) => handleSiteHook(request, (await params).page);
