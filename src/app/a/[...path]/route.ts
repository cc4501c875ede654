import { handleAnswerRequest } from "@/features/answers";

type Context = { params: Promise<{ path: string[] }> };

const handle = async (request: Request, { params }: Context) => handleAnswerRequest(request, (await params).path);

export { handle as GET, handle as HEAD, handle as POST };
