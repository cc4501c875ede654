import { handleTextHook } from "@/features/sending";

export const POST = (request: Request) => handleTextHook(request);
