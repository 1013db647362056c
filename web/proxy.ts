/** Before every page: only names that are known are answered, and each page gets a policy with a nonce of its own. */
import { refusal } from "@bramble/core";
import { NextResponse, type NextRequest } from "next/server";
import { isKnownHost } from "./server/hosts";
import { contentPolicy, NONCE } from "./server/policy";

/** What may be asked of anything here. */
const METHODS: ReadonlySet<string> = new Set(["GET", "HEAD", "OPTIONS", "POST", "PUT", "PATCH", "DELETE"]);

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get("host") ?? "";
  if (!isKnownHost(host)) return new NextResponse(`This server does not answer for “${host}”.`, { status: 400 });
  // The framework answers a page whatever is asked of it.
  if (!METHODS.has(request.method)) return new NextResponse(null, { status: 405 });
  // The framework takes a path that cannot be decoded for an error of its own.
  if (!isDecodable(request.nextUrl.pathname))
    return NextResponse.json(refusal("request-wrong", { why: "This address is not encoded as it must be" }), {
      status: 400,
    });
  if (request.nextUrl.pathname.startsWith("/api/")) return NextResponse.next();
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64"),
    policy = contentPolicy(nonce, process.env.NODE_ENV === "development"),
    headers = new Headers(request.headers);
  headers.set(NONCE, nonce);
  // What renders the page reads the nonce of its own scripts from here.
  headers.set("content-security-policy", policy);
  const answer = NextResponse.next({ request: { headers } });
  answer.headers.set("content-security-policy", policy);
  answer.headers.set("cache-control", "no-store");
  return answer;
}

/**
 * The pages, and data whose address has something encoded in it. Other data and what never changes are answered by
 * themselves: a body would go through here once more.
 */
export const config = { matcher: ["/((?!api/|_next/static/|_next/image).*)", "/api/(.*%.*)"] };

function isDecodable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}
