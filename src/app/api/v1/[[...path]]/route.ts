import { handleApi } from "@/features/api";

type Context = { params: Promise<{ path?: string[] }> };

const handle = async (request: Request, { params }: Context) => handleApi(request, (await params).path ?? []);

export { handle as DELETE, handle as GET, handle as PATCH, handle as POST, handle as PUT };
