/** Before every page: only names that are known are answered, and each page gets a policy with a nonce of its own. */
import { NextResponse, type NextRequest } from "next/server";
import { isKnownHost } from "./lib/hosts";
import { contentPolicy, NONCE } from "./lib/policy";

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get("host") ?? "";
  if (!isKnownHost(host)) return new NextResponse(`This server does not answer for “${host}”.`, { status: 400 });
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

/** The pages: data and what never changes are answered by themselves, which here would go through twice. */
export const config = { matcher: ["/((?!api/|_next/static/|_next/image).*)"] };
