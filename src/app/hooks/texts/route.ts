import { handleTextHook } from "@/features/messaging";

export const POST = (request: Request) => handleTextHook(request);
