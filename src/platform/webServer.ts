import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { longPath } from "@/core/web/shortLinks";
import { CLIENT_HEADER } from "./clientAddress";

/**
 * The door through which every request comes, before the framework sees it: what no page could answer is refused here,
 * who asks is written down where nobody else can, and every answer carries the headers that hold for all.
 */

export type WebServerOptions = {
  handle: (request: IncomingMessage, response: ServerResponse) => void | Promise<void>;
  /** How many proxies stand before this server, each of which adds to X-Forwarded-For whom it heard. */
  trustedProxies: number;
  /** People reach the installation over https. */
  isHttps: boolean;
  /** The host, with its port, on which links stand without "/a/" and "/s/"; null for none. */
  shortHost?: string | null;
};

const METHODS = new Set(["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"]);
const LONGEST_URL = 8000;

/** Makes the server; it does not listen yet. */
export function createWebServer({ handle, trustedProxies, isHttps, shortHost = null }: WebServerOptions): Server {
  const usual = Object.entries({
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "x-frame-options": "DENY",
    "content-security-policy": "default-src 'none'; frame-ancestors 'none'",
    ...(isHttps ? { "strict-transport-security": "max-age=31536000; includeSubDomains" } : {}),
  });
  const server = createServer({ maxHeaderSize: 32 * 1024 }, (request, response) => {
    addHeaders(response, usual);
    const refused = refusalOf(request);
    if (refused) {
      response.writeHead(refused.status, {
        "content-type": "application/problem+json",
        ...(refused.status === 405 ? { allow: [...METHODS].join(", ") } : {}),
      });
      response.end(JSON.stringify(refused));
      return;
    }
    if (shortHost !== null && request.headers.host?.toLowerCase() === shortHost) {
      const [path, query] = (request.url ?? "").split("?", 2);
      const long = longPath(path);
      if (long) request.url = query === undefined ? long : `${long}?${query}`;
    }
    request.headers[CLIENT_HEADER] = clientOf(request, trustedProxies);
    void handle(request, response);
  });
  // What is no HTTP at all gets one answer.
  server.on("clientError", (_error, socket) => {
    if (socket.writable) socket.end("HTTP/1.1 400 Bad Request\r\nconnection: close\r\ncontent-length: 0\r\n\r\n");
  });
  return server;
}

/**
 * Gives an answer the headers that hold for all, where whoever answers says nothing else: pages have a policy of
 * their own, files have nothing to load.
 */
function addHeaders(response: ServerResponse, usual: [name: string, value: string][]): void {
  const write = response.writeHead;
  // At the last moment: the framework leaves headers alone that are there already.
  response.writeHead = ((...args: Parameters<typeof write>) => {
    for (const [name, value] of usual) if (!response.hasHeader(name)) response.setHeader(name, value);
    return write.apply(response, args);
  }) as typeof write;
}

/** Why a request is not let in, as problem details (RFC 9457); null when it is. */
function refusalOf({ method = "", url = "" }: IncomingMessage): { status: number; detail: string } | null {
  if (!METHODS.has(method)) return { status: 405, detail: "This method isn't supported." };
  if (url.length > LONGEST_URL) return { status: 414, detail: "The address is too long." };
  const [path, query = ""] = url.split("?", 2);
  if (!isDecodable(path) || /%00/.test(path))
    return { status: 400, detail: "The address is malformed: it contains an invalid percent escape." };
  // A query's broken parts are read as they stand; a NUL is nothing anybody types.
  return /%00/.test(query) && url.includes("_rsc=") ? { status: 400, detail: "The address is malformed." } : null;
}

function isDecodable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

/** The address of whoever asked: the last that a trusted proxy wrote down, else the one of the connection. */
function clientOf(request: IncomingMessage, trustedProxies: number): string {
  const own = request.socket.remoteAddress ?? "unknown";
  if (trustedProxies === 0) return own;
  const forwarded = String(request.headers["x-forwarded-for"] ?? "")
    .split(",")
    .map((each) => each.trim())
    .filter(Boolean);
  const chain = [...forwarded, own];
  return (chain[chain.length - 1 - trustedProxies] ?? chain[0]).slice(0, 60);
}
