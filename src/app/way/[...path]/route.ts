import { handleWayRequest } from "@/features/words";

type Context = { params: Promise<{ path: string[] }> };

export const GET = async (request: Request, { params }: Context) => handleWayRequest(request, (await params).path);
