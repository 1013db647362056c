/** Two code books beside each other, and one taken into the other. */
import { sameJson } from "../math/json";
import type { CodeBook, CodeEntry } from "./model";

export interface BookComparison {
  /** Codes of the other book that this one has not. */
  fresh: string[];
  /** Codes of both that say something else. */
  changed: string[];
  same: number;
  /** Codes of this book that the other has not. */
  gone: string[];
  /** Aliases and cue spellings of the other book that this one has not. */
  words: number;
}

const byName = (book: CodeBook) => new Map((book.codes ?? []).map((c) => [c.code.toUpperCase(), c]));

export function compareBooks(now: CodeBook, other: CodeBook): BookComparison {
  const mine = byName(now),
    theirs = byName(other);
  const fresh: string[] = [],
    changed: string[] = [];
  let same = 0;
  for (const [name, entry] of theirs) {
    const own = mine.get(name);
    if (!own) fresh.push(entry.code);
    else if (sameJson(own, entry)) same++;
    else changed.push(entry.code);
  }
  return {
    fresh,
    changed,
    same,
    gone: [...mine].flatMap(([name, c]) => (theirs.has(name) ? [] : [c.code])),
    words: freshAliases(now, other).length + freshSpellings(now, other).length,
  };
}

const freshAliases = (now: CodeBook, other: CodeBook) => {
  const known = new Set((now.aliases ?? []).map((a) => a.from.toUpperCase()));
  return (other.aliases ?? []).filter((a) => !known.has(a.from.toUpperCase()));
};

function freshSpellings(now: CodeBook, other: CodeBook): [action: string, word: string][] {
  const taken = new Set(Object.values(now.cues ?? {}).flat());
  return Object.entries(other.cues ?? {}).flatMap(([action, words]) =>
    words.flatMap((w): [string, string][] => (taken.has(w) ? [] : [[action, w]])),
  );
}

/**
 * This book with what the other has: new codes at the end, changed ones as the other says, none taken away; aliases and
 * spellings that mean nothing here yet come with them.
 */
export function mergeBooks(now: CodeBook, other: CodeBook): CodeBook {
  const theirs = byName(other),
    mine = byName(now);
  const codes: CodeEntry[] = [
    ...(now.codes ?? []).map((c) => theirs.get(c.code.toUpperCase()) ?? c),
    ...(other.codes ?? []).filter((c) => !mine.has(c.code.toUpperCase())),
  ];
  const aliases = [...(now.aliases ?? []), ...freshAliases(now, other)];
  const cues: Record<string, string[]> = { ...now.cues };
  for (const [action, word] of freshSpellings(now, other)) cues[action] = [...(cues[action] ?? [action]), word];
  return {
    ...now,
    codes,
    ...(aliases.length ? { aliases } : {}),
    ...(Object.keys(cues).length ? { cues: withoutDoubles(cues) } : {}),
  };
}

const withoutDoubles = (cues: Record<string, string[]>) =>
  Object.fromEntries(Object.entries(cues).map(([action, words]) => [action, [...new Set(words)]]));
