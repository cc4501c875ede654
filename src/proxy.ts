import { type NextRequest, NextResponse } from "next/server";

/** Real mails and customers' pages that a page of ours shows in a frame: their own handler says what they may do. */
const FRAMED = /^\/c\/[^/]+\/asking\/(?:plans\/[^/]+|links)\/words\/stop\//;

/** Gives every page of the application a strict Content-Security-Policy with a nonce of its own. */
export function proxy(request: NextRequest): NextResponse {
  if (FRAMED.test(request.nextUrl.pathname)) return NextResponse.next();
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const isDevelopment = process.env.NODE_ENV === "development";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${isDevelopment ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("content-security-policy", policy);
  headers.set("x-estima-path", request.nextUrl.pathname);
  // Written down by the web server alone; where that does not stand before (while developing), nobody's word is taken
  // for it.
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("referrer-policy", "same-origin");
  response.headers.set("x-content-type-options", "nosniff");
  return response;
}

export const config = {
  matcher: [
    "/",
    "/sign-in/:path*",
    "/forgot",
    "/begin",
    "/looking",
    "/account/:path*",
    "/join/:path*",
    "/fill/:path*",
    "/desk/:path*",
    "/password/:path*",
    "/sender/:path*",
    "/guide/:path*",
    "/agency/:path*",
    "/c/:path*",
  ],
};
