import { handleAnswerRequest } from "@/features/answers";
import { handleSampleRequest, isSampleToken } from "@/features/words";

type Context = { params: Promise<{ path: string[] }> };

const handle = async (request: Request, { params }: Context) => {
  const { path } = await params;
  return isSampleToken(path[0] ?? "") ? handleSampleRequest(request, path) : handleAnswerRequest(request, path);
};

export { handle as GET, handle as HEAD, handle as POST };
