import { handleOptOutRequest } from "@/features/answers";

type Context = { params: Promise<{ token: string }> };

export const POST = async (request: Request, { params }: Context) =>
  handleOptOutRequest(request, (await params).token, "back");

/** The address of a form that was reloaded. */
export const GET = async (request: Request, { params }: Context) => handleOptOutRequest(request, (await params).token);
