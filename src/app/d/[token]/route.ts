import { handleDropOff } from "@/features/intake";

type Context = { params: Promise<{ token: string }> };

const handle = async (request: Request, { params }: Context) => handleDropOff(request, (await params).token);

export { handle as GET, handle as HEAD, handle as POST };
