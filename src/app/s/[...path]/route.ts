import { handleStandingLink } from "@/features/standing-links";

type Context = { params: Promise<{ path: string[] }> };

const handle = async (request: Request, { params }: Context) => handleStandingLink(request, (await params).path);

export { handle as GET, handle as HEAD, handle as POST };
