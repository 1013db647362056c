/** What begins with the server. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { beginQueue } = await import("./heavy/queue-process"),
    { refuseMethods } = await import("./server/methods");
  refuseMethods();
  beginQueue();
}
