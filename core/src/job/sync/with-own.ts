/** A thing as it became elsewhere, with those of its fields that were changed here since. */
import { sameJson } from "../../math/json";

/** `theirs` with the fields in which `mine` differs from `before`. */
export function withOwn<T extends object>(theirs: T, before: T, mine: T): T {
  const out = { ...theirs } as Record<string, unknown>,
    [was, own] = [before as Record<string, unknown>, mine as Record<string, unknown>];
  for (const key of new Set([...Object.keys(was), ...Object.keys(own)])) {
    if (sameJson(was[key], own[key])) continue;
    if (own[key] === undefined) delete out[key];
    else out[key] = own[key];
  }
  return out as T;
}

/** Whether the fields changed here are none of those that were changed elsewhere. */
export function areApart(theirs: object, before: object, mine: object): boolean {
  const [now, was, own] = [theirs, before, mine] as Record<string, unknown>[];
  return [...new Set([...Object.keys(now!), ...Object.keys(was!), ...Object.keys(own!)])].every(
    (key) => sameJson(was![key], now![key]) || sameJson(was![key], own![key]) || sameJson(now![key], own![key]),
  );
}
