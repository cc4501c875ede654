import { handleFeedHook } from "@/features/feeds";

type Context = { params: Promise<{ feed: string }> };

export const POST = async (request: Request, { params }: Context) => handleFeedHook(request, (await params).feed);
