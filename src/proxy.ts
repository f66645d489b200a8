import { type NextRequest, NextResponse } from "next/server";

import { isPublic } from "@/contract/public";
import { COOKIE, isSealed } from "@/platform/http/session";

/** First door for every request: security headers, and nobody unknown beyond the public list. */

const HEADERS: Record<string, string> = {
  "X-Content-Type-Options": "nosniff",
  "X-Frame-Options": "DENY",
  "Cross-Origin-Opener-Policy": "same-origin",
  "Cross-Origin-Embedder-Policy": "require-corp",
  "Cross-Origin-Resource-Policy": "same-origin",
  "Permissions-Policy": "gamepad=(self), camera=(self), microphone=(self), serial=(self), geolocation=()",
};

/**
 * What puts changed sources into an open page (npm run dev) evaluates them; the built application never does.
 */
const EVAL = process.env.NODE_ENV === "development" ? " 'unsafe-eval'" : "";

function contentPolicy(nonce: string): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${EVAL}`,
    "style-src 'self' 'unsafe-inline'", // style attributes and the style engine's own sheet
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

export default async function proxy(request: NextRequest): Promise<NextResponse> {
  const { pathname, search } = request.nextUrl;
  const nonce = btoa(crypto.randomUUID());
  const policy = contentPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("Content-Security-Policy", policy);

  let response: NextResponse;
  if (isPublic(pathname) || (await isSealed(request.cookies.get(COOKIE)?.value)))
    response = NextResponse.next({ request: { headers } });
  else if (pathname.startsWith("/api/"))
    response = NextResponse.json(
      { ok: false, problem: { code: "signed-out" } },
      { status: 401, headers: { "Cache-Control": "no-store" } },
    );
  else {
    const to = pathname === "/" ? "" : `?next=${encodeURIComponent(pathname + search)}`;
    response = NextResponse.redirect(new URL(`/sign-in${to}`, request.url));
  }
  response.headers.set("Content-Security-Policy", policy);
  response.headers.set("Referrer-Policy", /^\/[cq]\//.test(pathname) ? "no-referrer" : "same-origin");
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  return response;
}

// an archive may be half a gigabyte and is not held in memory here; its route asks who is there itself
export const config = { matcher: "/((?!_next/static|_next/image|api/archive$).*)" };
