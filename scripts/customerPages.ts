import { createServer } from "node:http";
import { type ServerType, serve } from "@hono/node-server";
import { handleAnswerRequest, handleOptOutRequest } from "@/features/answers";
import { handleDropOff, handleFeedHook } from "@/features/intake";
import { handleMailHook, handleOpenPicture, handleTextHook } from "@/features/messaging";
import { handleSiteHook } from "@/features/sites";
import { handleStandingLink } from "@/features/standing-links";
import { handlePictureRequest } from "@/features/words";

/**
 * The customers' addresses and hooks on a small server of their own, while the whole web application does not run.
 * `stop` waits for what a request has begun, also where its sender has given up.
 */
export async function serveCustomerPages(port: number): Promise<{ stop: () => Promise<void> }> {
  const handle = async (request: Request): Promise<Response> => {
    const [first, ...rest] = new URL(request.url).pathname.slice(1).split("/");
    if (first === "a") return handleAnswerRequest(request, rest);
    if (first === "s") return handleStandingLink(request, rest);
    if (first === "u") return handleOptOutRequest(request, rest[0] ?? "", rest[1]);
    if (first === "o") return handleOpenPicture(request, rest[0] ?? "");
    if (first === "p") return handlePictureRequest(request, rest[0] ?? "");
    if (first === "hooks" && rest[0] === "texts") return handleTextHook(request);
    if (first === "d") return handleDropOff(request, rest[0] ?? "");
    if (first === "hooks" && rest[0] === "feeds" && request.method === "POST")
      return handleFeedHook(request, rest[1] ?? "");
    if (first === "hooks" && rest[0] === "sites" && request.method === "POST")
      return handleSiteHook(request, rest[1] ?? "");
    if (first === "api" && rest[0] === "v1") return (await import("@/features/api")).handleApi(request, rest.slice(1));
    if (first === "hooks" && rest[0] === "mail") return handleMailHook(request);
    return new Response("Not found", { status: 404 });
  };
  const running = new Set<Promise<Response>>();
  const fetch = (request: Request) => {
    const answer = handle(request);
    running.add(answer);
    const over = () => running.delete(answer);
    answer.then(over, over);
    return answer;
  };
  const server = await new Promise<ServerType>((done, fail) => {
    const made = serve({ fetch, port, hostname: "127.0.0.1", createServer }, () => done(made));
    made.on("error", fail);
  });
  const stop = async () => {
    const closed = new Promise((done) => server.close(done));
    const idle = setInterval(() => "closeIdleConnections" in server && server.closeIdleConnections(), 20);
    while (running.size > 0) await Promise.allSettled(running);
    // A connection on which nothing was ever asked counts as busy, and would be waited for for ever.
    await Promise.race([closed, new Promise((next) => setTimeout(next, 1000))]);
    if ("closeAllConnections" in server) server.closeAllConnections();
    await closed;
    clearInterval(idle);
  };
  return { stop };
}
