import { handleMailHook } from "@/features/sending";

export const POST = (request: Request) => handleMailHook(request);
