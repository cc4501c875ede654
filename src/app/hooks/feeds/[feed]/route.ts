import { handleFeedHook } from "@/features/intake";

type Context = { params: Promise<{ feed: string }> };

export const POST = async (request: Request, { params }: Context) => handleFeedHook(request, (await params).feed);
