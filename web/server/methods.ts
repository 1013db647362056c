/** Methods that nobody here answers and the framework takes for an error of its own. */
import { subscribe } from "node:diagnostics_channel";
import type { IncomingMessage } from "node:http";

/** TRACE and its like ask for what was sent, cookies and all, to be sent back: they are answered as any unknown method is. */
const UNANSWERED: ReadonlySet<string | undefined> = new Set(["TRACE", "TRACK"]);

/** From now on; once for a process. */
export function refuseMethods(): void {
  const kept = globalThis as { brambleMethods?: true };
  if (kept.brambleMethods) return;
  kept.brambleMethods = true;
  subscribe("http.server.request.start", (message) => {
    const { request } = message as { request: IncomingMessage };
    if (UNANSWERED.has(request.method)) request.method = "REFUSED";
  });
}
