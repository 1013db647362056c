"use client";
/**
 * Changes that are not stored yet, kept in this browser over a reload. Each window has a place of its own, held by a
 * lock for as long as the window lives; what a window left behind is taken over by the next that opens the job.
 */
import { createStore, del, get, keys, set } from "idb-keyval";
import type { Waiting } from "@bramble/core/job/sync/sync";

let opened: ReturnType<typeof createStore> | undefined;
/** Opened once: opening takes longer than keeping a change. */
const store = () => (opened ??= createStore("rough-bramble", "unsaved"));
const prefix = (job: number) => `${job} `;

/** Holds a lock until the window goes; false when another window has it. */
function hold(name: string): Promise<boolean> {
  return new Promise((resolve) => {
    if (!navigator.locks) return resolve(true);
    void navigator.locks.request(`unsaved ${name}`, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock === null ? undefined : new Promise<void>(() => undefined);
    });
  });
}

export class Outbox {
  private last: Promise<unknown> = Promise.resolve();

  private constructor(
    private readonly key: string,
    /** The name of this window, kept over a reload. */
    readonly window: string,
  ) {}

  /** A place for this window, with what was left unsaved in this browser by windows that are gone. */
  static async open(job: number): Promise<{ outbox: Outbox; left: Waiting[] }> {
    // A reload finds the window's own place again; a window that was duplicated gets another.
    const remembered = sessionStorage.getItem("window") ?? crypto.randomUUID();
    const own = (await hold(prefix(job) + remembered)) ? remembered : crypto.randomUUID();
    sessionStorage.setItem("window", own);
    const outbox = new Outbox(prefix(job) + own, own),
      left: Waiting[] = [];
    try {
      for (const key of (await keys<string>(store())).filter((k) => k.startsWith(prefix(job)))) {
        if (key !== outbox.key && !(await hold(key))) continue;
        left.push(...((await get<Waiting[]>(key, store())) ?? []));
        if (key !== outbox.key) await del(key, store());
      }
    } catch {
      // A browser that keeps nothing: what is unsaved lives as long as the page.
    }
    return { outbox, left };
  }

  /** Keeps what is unsaved now in the place of what was. */
  keep(list: readonly Waiting[]): void {
    const plain = list.map(({ name, change }) => ({ name, change }));
    this.last = this.last
      .then(() => (plain.length ? set(this.key, plain, store()) : del(this.key, store())))
      .catch(() => undefined);
  }
}
