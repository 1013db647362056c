/**
 * Bytes of answers on their way out. What is small is held here; what is large was put into a file by its process, so that
 * neither that nor memory waits for whoever reads slowly. Few bytes lie so at once: then the slowest reader gives way.
 */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { randomUUID } from "node:crypto";
import { refusal } from "@bramble/core";

/** Bytes up to which an answer comes through the pipe of its process. */
export const LARGE_ANSWER = 8e6;

/** A name for the file of an answer, in the folder of files that are on their way. */
export const answerFile = () =>
  path.join(process.env.BRAMBLE_UPLOADS ?? os.tmpdir(), `rough-bramble-answer-${randomUUID()}`);

export interface AnswerLimits {
  /** Bytes that lie on the disk at once. */
  lying: number;
  /** Milliseconds without asking for more after which a reader is let go, and before which none gives way. */
  stalled: number;
  fair: number;
}
const LIMITS: AnswerLimits = { lying: 4e9, stalled: 60_000, fair: 5000 };
const PIECE = 1 << 20;

interface Lying {
  size: number;
  sent: number;
  began: number;
  end(why: Error): void;
}

export class Answers {
  private readonly lying = new Set<Lying>();

  constructor(private readonly limits = LIMITS) {}

  /** The bytes of a file, which is gone from its folder at once; piece by piece as they are asked for. */
  async leaving(file: string, size: number): Promise<ReadableStream<Uint8Array>> {
    const handle = await fs.promises.open(file);
    await fs.promises.rm(file);
    if (!this.makeRoom(size)) {
      await handle.close();
      throw refusal("work-many", {});
    }
    let stalled: ReturnType<typeof setTimeout>;
    let controller: ReadableStreamDefaultController<Uint8Array>;
    const close = async () => {
      clearTimeout(stalled);
      if (this.lying.delete(mine)) await handle.close();
    };
    const mine: Lying = {
      size,
      sent: 0,
      began: Date.now(),
      end: (why) => void close().finally(() => controller.error(why)),
    };
    const wait = () => {
      clearTimeout(stalled);
      stalled = setTimeout(() => mine.end(new Error("nobody takes the answer any more")), this.limits.stalled);
      // No process stays for it.
      stalled.unref();
    };
    this.lying.add(mine);
    wait();
    return new ReadableStream<Uint8Array>(
      {
        start: (is) => void (controller = is),
        pull: async () => {
          wait();
          const piece = Buffer.allocUnsafe(Math.min(PIECE, size - mine.sent)),
            { bytesRead } = await handle.read(piece, 0, piece.length, mine.sent);
          if (!this.lying.has(mine)) return;
          mine.sent += bytesRead;
          controller.enqueue(piece.subarray(0, bytesRead));
          if (mine.sent < size) return;
          await close();
          controller.close();
        },
        cancel: close,
      },
      { highWaterMark: 0 },
    );
  }

  /** Whether there is room for so many bytes more, when the slowest readers have given way. */
  private makeRoom(size: number): boolean {
    const pace = (l: Lying) => l.sent / (Date.now() - l.began);
    for (;;) {
      const held = [...this.lying].reduce((sum, l) => sum + l.size, 0);
      if (held === 0 || held + size <= this.limits.lying) return true;
      const [slowest] = [...this.lying]
        .filter((l) => Date.now() - l.began >= this.limits.fair)
        .sort((a, b) => pace(a) - pace(b));
      if (!slowest) return false;
      slowest.end(new Error("others wait for what this reader takes slowly"));
    }
  }
}
