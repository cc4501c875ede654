import { handleOptOutRequest } from "@/features/answers";

type Context = { params: Promise<{ token: string }> };

const handle = async (request: Request, { params }: Context) => handleOptOutRequest(request, (await params).token);

export { handle as GET, handle as POST };
