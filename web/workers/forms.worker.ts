/** A thread beside the chain's that makes forms of its shots. */
import { buffersOf, formThread, type ToThread } from "@bramble/core/checks/levels/threads";

const answer = formThread();

self.onmessage = ({ data }: MessageEvent<ToThread>) => {
  const made = answer(data);
  if (made) self.postMessage(made, { transfer: buffersOf(made) });
};
