/**
 * Places for large bodies on their way in: so many at once, fewer of one person. Who finds none waits in line; where somebody
 * waits for long, the slowest gives its place up.
 */
import { refusal } from "@bramble/core";

export interface UploadLimits {
  /** At once, in all and of one person. */
  most: number;
  ofOne: number;
  /** Milliseconds that one waits at most, and after which the slowest gives way. */
  patience: number;
  givesWay: number;
  /** Bytes a second from which on nobody is called slow. */
  fair: number;
}

const LIMITS: UploadLimits = { most: 6, ofOne: 3, patience: 120_000, givesWay: 5000, fair: 200e3 };

/** One that has its place. */
export interface Upload {
  who: string;
  file: string;
  began: number;
  /** Bytes that came so far. */
  size: number;
  /** Says that its place was given to another. */
  readonly away: AbortSignal;
  /** Gives the place back, once. */
  leave(): void;
}

interface Waiting {
  who: string;
  /** The name of its request; blank where it has none. */
  name: string;
  begin(): void;
}

export class Uploads {
  private readonly active = new Map<Upload, AbortController>();
  private readonly waiting: Waiting[] = [];

  constructor(private readonly limits = LIMITS) {}

  /** A place, at once or when it is one's turn; refused where there is none for too long, or nobody waits for it any more. */
  async enter(who: string, file: string, signal?: AbortSignal, name = ""): Promise<Upload> {
    return this.hasRoom(who) ? this.taken(who, file) : this.inLine(who, file, signal, name);
  }

  /** How many wait before the one of a request; undefined where it does not wait. */
  before(name: string): number | undefined {
    const at = this.waiting.findIndex((w) => w.name === name);
    return at < 0 ? undefined : at;
  }

  /** Takes a place that is free, before anybody else can. */
  private taken(who: string, file: string): Upload {
    const gone = new AbortController(),
      upload: Upload = { who, file, began: Date.now(), size: 0, away: gone.signal, leave: () => this.leave(upload) };
    this.active.set(upload, gone);
    return upload;
  }

  private leave(upload: Upload): void {
    if (this.active.delete(upload)) this.callNext();
  }

  private hasRoom(who: string): boolean {
    const { most, ofOne } = this.limits;
    return this.active.size < most && [...this.active.keys()].filter((u) => u.who === who).length < ofOne;
  }

  /** The first in line who may come in; one who waits for others of their own keeps nobody else. */
  private callNext(): void {
    const at = this.waiting.findIndex((w) => this.hasRoom(w.who));
    if (at >= 0) this.waiting.splice(at, 1)[0]!.begin();
  }

  private inLine(who: string, file: string, signal: AbortSignal | undefined, name: string): Promise<Upload> {
    return new Promise((resolve, reject) => {
      const end = (why?: unknown) => {
        clearTimeout(patience);
        clearInterval(look);
        signal?.removeEventListener("abort", left);
        const at = this.waiting.indexOf(mine);
        if (at >= 0) this.waiting.splice(at, 1);
        if (why) reject(why as Error);
        else resolve(this.taken(who, file));
      };
      const mine: Waiting = { who, name, begin: () => end() },
        left = () => end(refusal("work-many", {})),
        patience = setTimeout(left, this.limits.patience),
        look = setInterval(() => this.slowestGivesWay(mine), this.limits.givesWay);
      signal?.addEventListener("abort", left);
      this.waiting.push(mine);
      if (signal?.aborted) left();
    });
  }

  /** Of those in the way of one who waits, the one that came slowest so far gives its place up, where it is slow. */
  private slowestGivesWay({ who, begin }: Waiting): void {
    const all = [...this.active.keys()],
      own = all.filter((u) => u.who === who),
      rate = (u: Upload) => u.size / Math.max(1, Date.now() - u.began);
    // A person's own files wait for one another.
    if (own.length >= this.limits.ofOne) return;
    const [slowest] = all.filter((u) => Date.now() - u.began >= this.limits.givesWay).sort((a, b) => rate(a) - rate(b));
    if (slowest && rate(slowest) * 1000 < this.limits.fair) {
      this.active.get(slowest)!.abort();
      this.active.delete(slowest);
      begin();
    }
  }
}

/** One for the process, however often its modules are loaded. */
export function uploads(): Uploads {
  const kept = globalThis as { brambleUploads?: Uploads };
  return (kept.brambleUploads ??= new Uploads());
}
