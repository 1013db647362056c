/**
 * Forms made on all cores: threads beside make those of the last shots while the asker makes those of the first, until
 * they meet. A shot's forms follow from the field alone, so that it does not matter who makes them.
 */
import type { LevelField } from "./field";
import { FormMaker, type FormPart, type LevelForms } from "./forms";

/** What a thread is told: a field to make forms of, some of its shots, or that no more is asked of it. */
export type ToThread = { work: number } & ({ field: LevelField } | { from: number; to: number } | { isDone: true });
export type FromThread = { work: number; part: FormPart };

/** A thread beside this one. */
export interface Thread {
  tell(message: ToThread): void;
  /** What has come from it and was not taken yet; it does not wait. */
  come(): FromThread | undefined;
}

/** The thread's own side: an answer to what it is told, where it is asked for something. */
export function formThread(): (message: ToThread) => FromThread | undefined {
  let maker: FormMaker | undefined;
  return (message) => {
    if ("field" in message) maker = new FormMaker(message.field);
    else if ("isDone" in message) maker = undefined;
    else if (maker) return { work: message.work, part: maker.make(message.from, message.to) };
    return undefined;
  };
}

/** The memory of a part, which may go over whole. */
export const buffersOf = ({ part: { forms } }: FromThread): ArrayBuffer[] =>
  Object.values(forms).flatMap((column) => (typeof column === "number" ? [] : [column.buffer as ArrayBuffer]));

/** Shots whose forms are made before others may have their turn, and those that a thread is asked for at once. */
const AT_ONCE = 500,
  ASKED = 1000;
/** Of fewer shots the asker has made all before a thread has begun. */
const WORTH = 20_000;

let provide: () => readonly Thread[] = () => [];

/** From now on this program has threads; they are asked for when they are needed. */
export function giveThreads(threads: () => readonly Thread[]): void {
  provide = threads;
}

interface Range {
  from: number;
  to: number;
}

let works = 0;

/** All forms of a field in the making. */
export class FormWork {
  private readonly work = ++works;
  private readonly parts: FormPart[] = [];
  private forms: LevelForms | undefined;
  /** What nobody makes yet, or the asker does. */
  private left: Range;
  /** What each thread was asked for last and has not brought yet. */
  private readonly asked = new Map<Thread, Range>();

  constructor(
    readonly field: LevelField,
    readonly maker: FormMaker,
    private readonly threads = field.count < WORTH ? [] : provide(),
  ) {
    this.left = { from: 0, to: field.count };
    for (const thread of threads) thread.tell({ work: this.work, field });
  }

  /** Makes some more; true when all are there. */
  step(): boolean {
    for (const thread of this.threads) this.hear(thread);
    const { left } = this;
    if (left.from === left.to) {
      // A thread that is late, or gone, is not waited for.
      const [late, range] = [...this.asked][0] ?? [];
      if (!late || !range) return true;
      this.asked.delete(late);
      this.left = range;
      return false;
    }
    const to = Math.min(left.to, left.from + AT_ONCE);
    this.parts.push(this.maker.make(left.from, to));
    left.from = to;
    return left.from === left.to && this.asked.size === 0;
  }

  /** Takes what a thread has made, and asks it for more. */
  private hear(thread: Thread): void {
    const { left, asked, work } = this;
    for (let came = thread.come(); came; came = thread.come()) {
      const range = asked.get(thread);
      if (came.work !== work || came.part.from !== range?.from) continue;
      this.parts.push(came.part);
      asked.delete(thread);
    }
    if (asked.has(thread) || left.to - left.from < 2 * ASKED) return;
    const range = { from: left.to - ASKED, to: left.to };
    left.to = range.from;
    asked.set(thread, range);
    thread.tell({ work, ...range });
  }

  /** All of them, once they are made. */
  take(): LevelForms {
    if (!this.forms) {
      for (const thread of this.threads) thread.tell({ work: this.work, isDone: true });
      this.forms = joined(this.parts.sort((a, b) => a.from - b.from).map((part) => part.forms));
      this.parts.length = 0;
    }
    return this.forms;
  }
}

/** Parts that follow one another as one. */
function joined(parts: readonly LevelForms[]): LevelForms {
  const sum = (count: (part: LevelForms) => number) => parts.reduce((all, part) => all + count(part), 0),
    shots = sum((p) => p.of.length - 1),
    count = sum((p) => p.count),
    entries = sum((p) => p.shots.length),
    pairs = sum((p) => p.pairShares.length);
  const all: LevelForms = {
    count,
    starts: new Int32Array(count + 1),
    shots: new Int32Array(entries),
    coefs: new Float32Array(entries),
    spread: new Float64Array(count),
    of: new Int32Array(shots + 1),
    inner: new Uint8Array(count),
    along: new Uint8Array(count),
    pairs: new Int32Array(2 * pairs),
    pairShares: new Float64Array(pairs),
    pairsOf: new Int32Array(shots + 1),
    near: new Int32Array(sum((p) => p.near.length)),
  };
  let [shot, form, entry, pair, near] = [0, 0, 0, 0, 0];
  /** Counts of a part go on where those before it end; the last of each is the first of the next. */
  const goOn = (to: Int32Array, at: number, from: Int32Array, by: number) =>
    from.forEach((x, k) => (to[at + k] = x + by));
  for (const p of parts) {
    goOn(all.of, shot, p.of, form);
    goOn(all.pairsOf, shot, p.pairsOf, pair);
    goOn(all.starts, form, p.starts, entry);
    all.shots.set(p.shots, entry);
    all.coefs.set(p.coefs, entry);
    all.spread.set(p.spread, form);
    all.inner.set(p.inner, form);
    all.along.set(p.along, form);
    all.pairs.set(p.pairs, 2 * pair);
    all.pairShares.set(p.pairShares, pair);
    all.near.set(p.near, near);
    shot += p.of.length - 1;
    form += p.count;
    entry += p.shots.length;
    pair += p.pairShares.length;
    near += p.near.length;
  }
  return all;
}
