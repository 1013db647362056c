"use client";
/** The stream of a job's changes: opened from the last entry that is known, and again and again when it is lost. */
import type { ToldEntry } from "@bramble/db";

export interface Heard {
  entry(e: ToldEntry): void;
  /** Names of all who have the job open. */
  here(names: string[]): void;
  /** Whether the stream is there. */
  live(is: boolean): void;
}

const SOONEST = 500,
  LATEST = 10_000;

export class Stream {
  private source: EventSource | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = SOONEST;
  private closed = false;
  /** Windows of each person in the job. */
  private here: Record<string, number> = {};

  constructor(
    private readonly url: () => string,
    private readonly heard: Heard,
  ) {
    window.addEventListener("online", this.again);
    window.addEventListener("offline", this.lost);
    document.addEventListener("visibilitychange", this.seen);
    this.open();
  }

  /** Asks anew from what is known now. */
  readonly again = (): void => {
    this.wait = SOONEST;
    this.open();
  };

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.source?.close();
    window.removeEventListener("online", this.again);
    window.removeEventListener("offline", this.lost);
    document.removeEventListener("visibilitychange", this.seen);
  }

  private readonly lost = (): void => {
    this.source?.close();
    this.heard.live(false);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.open(), this.wait);
    this.wait = Math.min(LATEST, 2 * this.wait);
  };

  /**
   * A browser lets few connections be: a window that nobody sees gives its own back, and catches up when it is seen.
   */
  private readonly seen = (): void => {
    if (document.hidden) {
      clearTimeout(this.timer);
      this.source?.close();
      this.source = undefined;
      this.heard.live(false);
    } else if (!this.source) this.again();
  };

  private open(): void {
    if (this.closed || document.hidden) return;
    clearTimeout(this.timer);
    this.source?.close();
    const source = (this.source = new EventSource(this.url()));
    source.onopen = () => {
      this.wait = SOONEST;
      this.heard.live(true);
    };
    source.addEventListener("entry", (e) =>
      this.heard.entry(JSON.parse((e as MessageEvent<string>).data) as ToldEntry),
    );
    for (const event of ["all-here", "here"] as const)
      source.addEventListener(event, (e) => {
        const windows = JSON.parse((e as MessageEvent<string>).data) as Record<string, number>;
        this.here = event === "here" ? { ...this.here, ...windows } : windows;
        this.heard.here(Object.entries(this.here).flatMap(([name, count]) => Array<string>(count).fill(name)));
      });
    source.onerror = () => {
      if (this.source === source) this.lost();
    };
  }
}
