import type { IncomingMessage, ServerResponse } from "node:http";
import { join } from "node:path";
import next from "next";
import { beginToken, isUnbegun } from "@/features/accounts";
import { EnvironmentIncomplete, environment } from "@/platform/environment";
import { describeError, log, logConsole } from "@/platform/log";
import { inRequest } from "@/platform/requestState";
import { createWebServer } from "@/platform/webServer";
import { serveCustomerPage } from "./customerPages";
import { guardPost, isFormPost, isFromElsewhere, refuseElsewhere, routePatterns } from "./formPosts";

/** The web process: the built application behind its own server. `npm start`, or the demo, runs it. */
async function main(): Promise<void> {
  const { PORT, HOST, TRUSTED_PROXIES, APP_URL, SHORT_URL } = environment();
  logConsole();
  const app = next({ dev: false, hostname: HOST, port: PORT });
  await app.prepare();
  const handle = app.getRequestHandler();
  const routes = routePatterns(join(process.cwd(), ".next"));
  const appHost = new URL(APP_URL).host;
  const post = (request: IncomingMessage, response: ServerResponse) =>
    inRequest((state) => {
      guardPost(response, () => state.post === "begun");
      return handle(request, response);
    }, true);
  const server = createWebServer({
    handle: (request, response) =>
      inRequest(() => {
        if (serveCustomerPage(request, response)) return undefined;
        if (!isFormPost(request, routes)) return handle(request, response);
        return isFromElsewhere(request, appHost) ? refuseElsewhere(request, response) : post(request, response);
      }),
    trustedProxies: TRUSTED_PROXIES,
    isHttps: APP_URL.startsWith("https:"),
    shortHost: SHORT_URL ? new URL(SHORT_URL).host : null,
  });
  server.keepAliveTimeout = 65_000;
  server.listen(PORT, HOST, () => log.info({ port: PORT }, "web started"));
  // Printed, not logged: whatever collects logs need not know it.
  if (await isUnbegun()) process.stdout.write(`Set up at ${APP_URL}/begin with the code ${beginToken()}\n`);
  const stop = () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    // What hangs longer than this is not waited for.
    setTimeout(() => process.exit(0), 10_000).unref();
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
}

main().catch((error) => {
  log.fatal(
    error instanceof EnvironmentIncomplete ? { problem: error.message } : describeError(error),
    "web could not start",
  );
  process.exit(1);
});
