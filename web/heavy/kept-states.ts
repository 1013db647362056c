/**
 * States of jobs as they were sent last, kept by the server for as long as nothing is changed: whoever opens a job again
 * does not wait for it to be read once more. At most so many bytes; what was not asked for longest is let go first.
 */
const MOST = 256e6;
/** Bytes of a kept state that go out at once. */
const PIECE = 256 * 1024;

export class KeptStates {
  /** By job, the one that was not asked for longest first. */
  private readonly all = new Map<number, { version: number; bytes: Uint8Array }>();

  constructor(private readonly most = MOST) {}

  /** The state of a job at a version, where it is kept. */
  at(job: number, version: number): { size: number; body: ReadableStream<Uint8Array> } | undefined {
    const kept = this.all.get(job);
    if (kept?.version !== version) return undefined;
    this.all.delete(job);
    this.all.set(job, kept);
    const { bytes } = kept;
    let at = 0;
    const body = new ReadableStream<Uint8Array>(
      {
        pull(controller) {
          // A copy, since whoever takes it may keep its memory.
          if (at < bytes.length) controller.enqueue(bytes.slice(at, (at += PIECE)));
          if (at >= bytes.length) controller.close();
        },
      },
      { highWaterMark: 1 },
    );
    return { size: bytes.length, body };
  }

  /** Hands an answer on, and keeps it once it went through whole. */
  keeping(job: number, version: number, size: number, body: ReadableStream<Uint8Array>): ReadableStream<Uint8Array> {
    if (size > this.most) return body;
    const bytes = new Uint8Array(size);
    let at = 0;
    const pass = new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, controller) {
        bytes.set(piece, at);
        at += piece.length;
        controller.enqueue(piece);
      },
      flush: () => this.keep(job, version, bytes),
    });
    return body.pipeThrough(pass);
  }

  private keep(job: number, version: number, bytes: Uint8Array): void {
    if ((this.all.get(job)?.version ?? -1) > version) return;
    this.all.delete(job);
    this.all.set(job, { version, bytes });
    let sum = 0;
    for (const kept of this.all.values()) sum += kept.bytes.length;
    for (const [other, kept] of this.all) {
      if (sum <= this.most) break;
      this.all.delete(other);
      sum -= kept.bytes.length;
    }
  }
}

/** One for the server, however often its modules are loaded. */
export function keptStates(): KeptStates {
  const kept = globalThis as { brambleStates?: KeptStates };
  return (kept.brambleStates ??= new KeptStates());
}
