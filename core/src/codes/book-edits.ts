/** A code book with a code under another name, or without it: what names the code follows. */
import type { CodeBook } from "./model";

const sameCode = (a: string | undefined, b: string) => a?.toUpperCase() === b.toUpperCase();

/** Aliases and companions that name the code name it by its new name. */
export function withCodeRenamed(book: CodeBook, from: string, to: string): CodeBook {
  return {
    ...book,
    ...(book.aliases ? { aliases: book.aliases.map((a) => (sameCode(a.to, from) ? { ...a, to } : a)) } : {}),
    codes: (book.codes ?? []).map((c) => ({
      ...(sameCode(c.code, from) ? { ...c, code: to } : c),
      ...(c.companions
        ? { companions: c.companions.map((x) => (sameCode(x.code, from) ? { ...x, code: to } : x)) }
        : {}),
    })),
  };
}

/** Its aliases go with it: they would name nothing. */
export function withoutCode(book: CodeBook, code: string): CodeBook {
  return {
    ...book,
    ...(book.aliases ? { aliases: book.aliases.filter((a) => !sameCode(a.to, code)) } : {}),
    codes: (book.codes ?? []).filter((c) => !sameCode(c.code, code)),
  };
}
