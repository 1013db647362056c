/**
 * Changes on their way to every window. One connection listens to the database; each window has a subscription that
 * remembers the last entry it was sent and reads on from there, so that nothing is missed and all comes in order,
 * whatever is lost on the way.
 */
import { refusal } from "@bramble/core";
import { CHANNEL, connectionString, ledgerPageAfter } from "@bramble/db";
import pg from "pg";

/** Windows that are open at once: in all, of one job, and of one person in all jobs. */
const MOST_WINDOWS = 500,
  MOST_OF_JOB = 200,
  MOST_OF_PERSON = 50;
/** A window that does not read gets no more than this ahead, in bytes; it goes on when it reads again. */
const AHEAD = 1e6;
/** Entries that are read at once. */
const AT_ONCE = 20;
const BEAT = 15_000,
  /** Beats after which a window that reads nothing is let go: it asks again from where it is. */
  PATIENCE = 4;

interface Subscription {
  job: number;
  last: number;
  who: string;
  /** The name of the window; blank where a program listens. */
  window: string;
  reading: boolean;
  again: boolean;
  /** It was not told of all who came and went: it is told who is here when it reads again. */
  behind: boolean;
  /** Beats that found it full. */
  stalled: number;
  controller: ReadableStreamDefaultController<Uint8Array>;
}

/** An entry as it is sent. */
interface Sent {
  seq: number;
  bytes: Uint8Array;
}

export class Live {
  /** Every so many milliseconds a sign of life is sent. */
  constructor(private readonly beatEvery = BEAT) {}

  private readonly windows = new Map<number, Set<Subscription>>();
  private readonly asked = new Map<string, Promise<Sent[]>>();
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
    this.checkRoom(job, who);
    let mine: Subscription | undefined;
    const end = () => mine && this.leave(mine);
    return new ReadableStream<Uint8Array>(
      {
        start: (controller) => {
          mine = { job, last: after, who, window, reading: false, again: false, behind: false, stalled: 0, controller };
          const all = this.windows.get(job) ?? new Set();
          this.windows.set(job, all.add(mine));
          this.count++;
          signal.addEventListener("abort", end);
          this.listen();
          this.send(mine, "retry: 1000\n\n");
          this.tellAllHere(mine);
          this.tellOthers(mine);
          void this.read(mine);
        },
        pull: () => {
          if (!mine) return;
          if (mine.behind) this.tellAllHere(mine);
          return this.read(mine);
        },
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
    else this.tellOthers(s);
    try {
      s.controller.close();
    } catch {
      // It was closed from the other side.
    }
  }

  private send(s: Subscription, text: string): void {
    this.sendBytes(s, this.text.encode(text));
  }

  private sendBytes(s: Subscription, bytes: Uint8Array): void {
    try {
      s.controller.enqueue(bytes);
    } catch {
      this.leave(s);
    }
  }

  private checkRoom(job: number, who: string): void {
    const all = [...this.windows.values()].flatMap((w) => [...w]),
      room = [
        [all.length, MOST_WINDOWS, "are open here"],
        [this.windows.get(job)?.size ?? 0, MOST_OF_JOB, "have this job open"],
        [all.filter((s) => s.who === who).length, MOST_OF_PERSON, `are open for ${who || "programs without a name"}`],
      ] as const;
    for (const [count, most, what] of room)
      if (count >= most) throw refusal("request-wrong", { why: `As many as ${most} windows ${what}; close some` });
  }

  private readonly isFull = (s: Subscription) => (s.controller.desiredSize ?? 0) <= 0;

  private tell(s: Subscription, event: "all-here" | "here", windows: Record<string, number>): void {
    this.send(s, `event: ${event}\ndata: ${JSON.stringify(windows)}\n\n`);
  }

  /** How many windows each person has in a job. */
  private countsOf(job: number): Map<string, number> {
    const counts = new Map<string, number>();
    for (const { who } of this.windows.get(job) ?? []) if (who) counts.set(who, (counts.get(who) ?? 0) + 1);
    return counts;
  }

  /** Tells one window of all who have the job open. */
  private tellAllHere(s: Subscription): void {
    s.behind = false;
    this.tell(s, "all-here", Object.fromEntries(this.countsOf(s.job)));
  }

  /** Tells the other windows of a job how many one person has now: a few bytes each, and none to who does not read. */
  private tellOthers({ job, who, controller }: Subscription): void {
    if (!who) return;
    const count = this.countsOf(job).get(who) ?? 0;
    for (const s of this.windows.get(job) ?? []) {
      if (s.controller === controller) continue;
      if (this.isFull(s)) s.behind = true;
      else this.tell(s, "here", { [who]: count });
    }
  }

  /** The next entries of a job as they are sent; windows that ask for the same in one moment share one reading. */
  private entriesAfter(job: number, last: number): Promise<Sent[]> {
    const key = `${job} ${last}`,
      asked = this.asked.get(key);
    if (asked) return asked;
    const reading = ledgerPageAfter(job, last, AT_ONCE)
      .then((entries) =>
        entries.map((e) => ({
          seq: e.seq,
          bytes: this.text.encode(`event: entry\nid: ${e.seq}\ndata: ${JSON.stringify(e)}\n\n`),
        })),
      )
      .finally(() => this.asked.delete(key));
    this.asked.set(key, reading);
    return reading;
  }

  /** Sends what the window does not have yet, one reading at a time. */
  private async read(s: Subscription): Promise<void> {
    if (s.reading) return void (s.again = true);
    s.reading = true;
    try {
      do {
        s.again = false;
        while (!this.isFull(s)) {
          const entries = await this.entriesAfter(s.job, s.last);
          if (!this.windows.get(s.job)?.has(s)) return;
          for (const e of entries) this.sendBytes(s, e.bytes);
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

  /** A sign of life; who has read nothing for some of them is let go. */
  private beat(s: Subscription): void {
    if (!this.isFull(s)) {
      s.stalled = 0;
      this.send(s, ": \n\n");
    } else if (++s.stalled >= PATIENCE) this.leave(s);
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
      for (const all of this.windows.values()) for (const s of all) this.beat(s);
      // Nobody is here: nothing needs to be heard.
      if (this.count === 0) client.end().catch(() => undefined);
    }, this.beatEvery);
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
