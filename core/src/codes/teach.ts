/** What a book learns from a word that it does not know: an alias, a code, an attribute, the spelling of a cue. */
import type { Action } from "./book";
import type { AttributeDefinition, CodeBook, CodeKind } from "./model";

/** The word is read as a code that there is. */
export function withAlias(book: CodeBook, written: string, code: string): CodeBook {
  return { ...book, aliases: [...(book.aliases ?? []), { from: written, to: code }] };
}

/** The word is a code of its own. */
export function withCode(book: CodeBook, code: string, kind: CodeKind): CodeBook {
  return { ...book, codes: [...(book.codes ?? []), { code: code.toUpperCase(), kind }] };
}

/** The code has one attribute more, behind those that it has. */
export function withAttribute(book: CodeBook, code: string, attribute: AttributeDefinition): CodeBook {
  return {
    ...book,
    codes: book.codes?.map((c) =>
      c.code.toUpperCase() === code.toUpperCase() ? { ...c, attributes: [...(c.attributes ?? []), attribute] } : c,
    ),
  };
}

/** The word steers lines as the cue does; the spellings that the cue has stay. */
export function withSpelling(book: CodeBook, action: Action, word: string): CodeBook {
  return { ...book, cues: { ...book.cues, [action]: [...(book.cues?.[action] ?? [action]), word.toLowerCase()] } };
}
