import { handleMailHook } from "@/features/messaging";

export const POST = (request: Request) => handleMailHook(request);
