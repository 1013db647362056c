/**
 * Changes on their way to every window. One connection listens to the database; each window has a subscription that
 * remembers the last entry it was sent and reads on from there, so that nothing is missed and all comes in order,
 * whatever is lost on the way.
 */
import { refusal } from "@bramble/core";
import { CHANNEL, connectionString, ledgerAfter } from "@bramble/db";
import pg from "pg";

const MOST_WINDOWS = 500;
/** A window that does not read gets no more than this ahead, in bytes; it goes on when it reads again. */
const AHEAD = 8e6;
const BEAT = 15_000;

interface Subscription {
  job: number;
  last: number;
  who: string;
  /** The name of the window; blank where a program listens. */
  window: string;
  reading: boolean;
  again: boolean;
  controller: ReadableStreamDefaultController<Uint8Array>;
}

class Live {
  private readonly windows = new Map<number, Set<Subscription>>();
  private count = 0;
  private listening: Promise<void> | undefined;
  private readonly text = new TextEncoder();

  /**
   * The entries of a job after one, and whatever follows, as server-sent events. A window that asks anew, as after a
   * reload, has left its former place.
   */
  subscribe(
    job: number,
    after: number,
    { who, window }: Pick<Subscription, "who" | "window">,
    signal: AbortSignal,
  ): ReadableStream<Uint8Array> {
    for (const s of this.windows.get(job) ?? []) if (window && s.window === window) this.leave(s);
    if (this.count >= MOST_WINDOWS)
      throw refusal("request-wrong", { why: `More than ${MOST_WINDOWS} windows are open; close some` });
    let mine: Subscription | undefined;
    const end = () => mine && this.leave(mine);
    return new ReadableStream<Uint8Array>(
      {
        start: (controller) => {
          mine = { job, last: after, who, window, reading: false, again: false, controller };
          const all = this.windows.get(job) ?? new Set();
          this.windows.set(job, all.add(mine));
          this.count++;
          signal.addEventListener("abort", end);
          this.listen();
          this.send(mine, "retry: 1000\n\n");
          this.tellWhoIsHere(job);
          void this.read(mine);
        },
        pull: () => mine && this.read(mine),
        cancel: end,
      },
      new ByteLengthQueuingStrategy({ highWaterMark: AHEAD }),
    );
  }

  private leave(s: Subscription): void {
    const all = this.windows.get(s.job);
    if (!all?.delete(s)) return;
    this.count--;
    if (all.size === 0) this.windows.delete(s.job);
    else this.tellWhoIsHere(s.job);
    try {
      s.controller.close();
    } catch {
      // It was closed from the other side.
    }
  }

  private send(s: Subscription, text: string): void {
    try {
      s.controller.enqueue(this.text.encode(text));
    } catch {
      this.leave(s);
    }
  }

  /** Names of all who have the job open, each once for every window. */
  private tellWhoIsHere(job: number): void {
    const all = [...(this.windows.get(job) ?? [])],
      here = JSON.stringify(
        all
          .map((s) => s.who)
          .filter(Boolean)
          .sort(),
      );
    for (const s of all) this.send(s, `event: here\ndata: ${here}\n\n`);
  }

  /** Sends what the window does not have yet, one reading at a time. */
  private async read(s: Subscription): Promise<void> {
    if (s.reading) return void (s.again = true);
    s.reading = true;
    try {
      do {
        s.again = false;
        while ((s.controller.desiredSize ?? 0) > 0) {
          const entries = await ledgerAfter(s.job, s.last, 20);
          if (!this.windows.get(s.job)?.has(s)) return;
          for (const e of entries) this.send(s, `event: entry\nid: ${e.seq}\ndata: ${JSON.stringify(e)}\n\n`);
          s.last = entries.at(-1)?.seq ?? s.last;
          if (entries.length === 0) break;
        }
      } while (s.again);
    } catch {
      // Without a database there is nothing to send: the window asks again from where it is.
      this.leave(s);
    } finally {
      s.reading = false;
    }
  }

  private listen(): void {
    this.listening ??= this.hear().finally(() => {
      this.listening = undefined;
      // Lost: what was told meanwhile is read when the ear is back.
      if (this.count > 0) setTimeout(() => this.count > 0 && this.listen(), 500);
    });
  }

  private async hear(): Promise<void> {
    const client = new pg.Client({ connectionString: connectionString() });
    const beat = setInterval(() => {
      for (const all of this.windows.values()) for (const s of all) this.send(s, ": \n\n");
      // Nobody is here: nothing needs to be heard.
      if (this.count === 0) client.end().catch(() => undefined);
    }, BEAT);
    try {
      await client.connect();
      const lost = new Promise<void>((resolve) => {
        client.on("error", () => resolve());
        client.on("end", () => resolve());
      });
      client.on("notification", ({ payload }) => {
        const [job, seq] = (payload ?? "").split(" ").map(Number);
        for (const s of this.windows.get(job!) ?? []) if (s.last < seq!) void this.read(s);
      });
      await client.query(`LISTEN ${CHANNEL}`);
      // What was stored while nobody listened.
      for (const all of this.windows.values()) for (const s of all) void this.read(s);
      await lost;
    } catch {
      // The database does not answer; it is tried again.
    } finally {
      clearInterval(beat);
      await client.end().catch(() => undefined);
    }
  }
}

/** One for the process, however often its modules are loaded. */
export function live(): Live {
  const kept = globalThis as { brambleLive?: Live };
  return (kept.brambleLive ??= new Live());
}
