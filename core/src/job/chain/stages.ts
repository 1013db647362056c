/**
 * Stages that declare what they read. A stage is made with the names of its inputs and is given those and nothing else,
 * so that an input forgotten, or one that is made only later, does not compile. It runs again only when one of them is
 * another; a result that is the same as the last is the last.
 */
import { Refusal } from "../../errors";
import { equalColumns } from "../../math/columns";
import type { Made } from "./values";

/** A plan of values V, of which those named by H are there when the next step is made. */
export class Plan<V extends object, H extends keyof V & string> {
  private constructor(private readonly steps: readonly ((values: V, kept: Kept) => void)[]) {}

  /** A plan that begins with some values. */
  static from<V extends object, H extends keyof V & string>(): Plan<V, H> {
    return new Plan<V, H>([]);
  }

  /** A value that is made of the named ones alone, and again only when one of them is another. */
  stage<N extends Exclude<keyof V & string, H>, const R extends readonly H[]>(
    name: N,
    reads: R,
    make: (from: Pick<V, R[number]>, kept: Kept) => V[N],
    same?: (last: V[N], now: V[N]) => boolean,
  ): Plan<V, H | N> {
    return this.with<N>((values, kept) => {
      values[name] = kept.run(name, reads, values as Pick<V, H>, (from) => make(from, kept), same);
    });
  }

  /** A value of many parts, each of which remembers by itself what it was made of. */
  group<N extends Exclude<keyof V & string, H>>(
    name: N,
    make: (values: Pick<V, H>, kept: Kept) => V[N],
  ): Plan<V, H | N> {
    return this.with<N>((values, kept) => {
      values[name] = make(values, kept);
    });
  }

  /** Makes all of it, in order, beside the values that it begins with. */
  run(begin: Partial<V>, kept: Kept): Pick<V, H> {
    const values = this.make(begin, kept);
    kept.forget();
    return values;
  }

  /** The same as a part of a run: nothing is forgotten. */
  make(begin: Partial<V>, kept: Kept): Pick<V, H> {
    const values = { ...begin } as V;
    for (const step of this.steps) step(values, kept);
    return values;
  }

  private with<N extends keyof V & string>(step: (values: V, kept: Kept) => void): Plan<V, H | N> {
    return new Plan<V, H | N>([...this.steps, step]);
  }
}

/** Runs after which what nothing asked for is forgotten: a trial and the way back leave what was there. */
const FORGOTTEN_AFTER = 2;

/** What the stages of one chain read last and what they made of it. */
export class Kept {
  private readonly results = new Map<string, { inputs: unknown[]; result: unknown; used: number }>();
  private readonly partial = new Map<string, { value: unknown; used: number }>();
  private runs = 0;

  /** `begins` is told the name of each stage that is made anew. */
  constructor(readonly begins?: (name: string) => void) {}

  /** How much is remembered. */
  get size(): number {
    return this.results.size + this.partial.size;
  }

  /** The stage's result, made anew when what it reads is not what it was. */
  run<V extends object, T>(
    name: string,
    reads: readonly (keyof V)[],
    values: V,
    make: (from: V) => T,
    same?: (last: T, now: T) => boolean,
  ): T {
    const last = this.results.get(name),
      inputs = reads.map((k) => values[k]);
    if (last && last.inputs.length === inputs.length && last.inputs.every((x, i) => x === inputs[i])) {
      last.used = this.runs;
      return last.result as T;
    }
    const from = Object.fromEntries(reads.map((k, i) => [k, inputs[i]])) as V;
    this.begins?.(name);
    const made = make(from),
      result = !last
        ? made
        : same
          ? same(last.result as T, made)
            ? (last.result as T)
            : made
          : sameAs(last.result as T, made);
    this.results.set(name, { inputs, result, used: this.runs });
    return result;
  }

  /** What a thing goes on with by itself from one run to the next; asked for in each run in which there is the thing. */
  partly<T>(name: string, make: () => T): T {
    let known = this.partial.get(name);
    if (!known) this.partial.set(name, (known = { value: make(), used: 0 }));
    known.used = this.runs;
    return known.value as T;
  }

  /** Something made, or why it cannot be; the same wrapping for the same value, so that what reads it sees no change. */
  make<T>(key: string, name: string, make: () => T): Made<T> {
    const now = made(name, make);
    return now.ok ? this.run(`made ${key}`, ["value"], { value: now.value }, () => now) : now;
  }

  /** The same list for the same things in it. */
  list<T>(key: string, list: T[]): T[] {
    return this.run(
      `all ${key}`,
      list.map((_, k) => k),
      list as unknown as Record<number, T>,
      () => list,
    );
  }

  /** Ends a run: what the last ones did not ask for is forgotten. */
  forget(): void {
    for (const all of [this.results, this.partial])
      for (const [name, { used }] of all) if (this.runs - used >= FORGOTTEN_AFTER) all.delete(name);
    this.runs++;
  }
}

function made<T>(name: string, make: () => T): Made<T> {
  try {
    return { name, ok: true, value: make() };
  } catch (e) {
    if (e instanceof Refusal) return { name, ok: false, refusal: e };
    throw e;
  }
}

/** The last result where the new one holds the very same: columns of equal numbers, lists of the same things. */
function sameAs<T>(last: T, now: T): T {
  if (ArrayBuffer.isView(last) && ArrayBuffer.isView(now))
    return equalColumns(last as never, now as never) ? last : now;
  if (Array.isArray(last) && Array.isArray(now))
    return last.length === now.length && last.every((x, i) => x === now[i]) ? last : now;
  return now;
}
