/** Cues that the office added to a shot or took away, carried out on what its description says. */
import type { Cue, ParsedElement } from "./description";
import type { CueEdit } from "../points/cue-edits";
import { isValued, type CompiledBook } from "./book";

/** The cue that a word such as `end` or `after=14` says; undefined when it says none. */
export function cueOfWord(word: string, book: Pick<CompiledBook, "actionOf">): Cue | undefined {
  const [name, value] = wordParts(word),
    action = book.actionOf(name);
  return action && (value !== undefined) === isValued(action)
    ? { action, ...(value !== undefined ? { value } : {}) }
    : undefined;
}

function wordParts(word: string): [name: string, value: string | undefined] {
  const at = word.indexOf("=");
  return at < 0 ? [word, undefined] : [word.slice(0, at), word.slice(at + 1)];
}

/** Carries the edits out on the elements in place; what cannot be done is told. */
export function applyCueEdits(
  elements: ParsedElement[],
  edits: readonly CueEdit[],
  book: CompiledBook,
  tell: (word: string, text: string) => void,
): void {
  for (const edit of edits) {
    const wanted = book.lookup(edit.element),
      element = elements.find((e) => e.code === wanted.code && e.run === wanted.run);
    if (!element) {
      tell(edit.element, `the office changed cues of “${edit.element}”, which is not among its codes`);
      continue;
    }
    for (const word of edit.remove ?? []) {
      // A cue with a value may be taken away by its name alone.
      const [name, value] = wordParts(word),
        action = book.actionOf(name);
      if (!action) tell(word, `“${word}”, taken away by the office, is no cue`);
      element.cues = element.cues.filter((c) => c.action !== action || (value !== undefined && c.value !== value));
    }
    for (const word of edit.add ?? []) {
      const cue = cueOfWord(word, book);
      if (!cue) tell(word, `“${word}”, added by the office, is no cue`);
      else if (!element.cues.some((c) => c.action === cue.action && c.value === cue.value))
        element.cues.push({ ...cue, byOffice: true });
    }
  }
}
