/**
 * Stages that declare what they read. A stage is made with the names of its inputs and is given those and nothing else,
 * so that an input forgotten does not compile. It runs again only when one of them is another; a result that is the
 * same as the last is the last.
 */
import { equalColumns } from "../math/columns";

/** What stages read and make, by name. */
export type Values = Record<string, unknown>;

export interface Stage<V, K extends keyof V = keyof V> {
  name: string;
  reads: readonly (keyof V)[];
  make(from: V): V[K];
  /** Whether a new result says the same as the last, where that is not seen from their contents. */
  same?(last: V[K], now: V[K]): boolean;
}

/** One stage of a chain of values V: its own name, what it reads, and how it is made from that alone. */
export function stage<V>() {
  return <N extends keyof V & string, const R extends readonly (keyof V)[]>(
    name: N,
    reads: R,
    make: (from: Pick<V, R[number]>) => V[N],
    same?: (last: V[N], now: V[N]) => boolean,
  ): Stage<V, N> => ({ name, reads, make: make as (from: V) => V[N], same });
}

/** Remembers what each stage read last and what it made of it. */
export class Memory {
  private readonly kept = new Map<string, { inputs: unknown[]; result: unknown }>();

  /** `begins` is told the name of each stage that is made anew. */
  constructor(private readonly begins?: (name: string) => void) {}

  /** The stage's result, made anew when what it reads is not what it was. */
  run<V extends object, T>(
    name: string,
    reads: readonly (keyof V)[],
    values: V,
    make: (from: V) => T,
    same?: (last: T, now: T) => boolean,
  ): T {
    const last = this.kept.get(name),
      inputs = reads.map((k) => values[k]);
    if (last && last.inputs.length === inputs.length && last.inputs.every((x, i) => x === inputs[i]))
      return last.result as T;
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
    this.kept.set(name, { inputs, result });
    return result;
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
