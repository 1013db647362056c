/**
 * A description → what it says about the shot: elements with code, run, cues and attributes, and the words left over.
 */
import { isValued, type CompiledBook } from "./book";
import type { AttributeDefinition } from "./model";
import type { Cue, ParsedDescription, ParsedElement, WordIssue } from "./description";
import { decodeCueEdits } from "../points/cue-edits";
import { applyCueEdits } from "./cue-edits";
import { type Element, tokenize } from "./tokenize";

/** Parses a description once for each book; with the office's edits of its cues where there are any. */
export function parseDescription(text: string, book: CompiledBook, cueEdits = ""): ParsedDescription {
  const key = cueEdits === "" ? text : `${text}\0${cueEdits}`;
  let parsed = book.parsed.get(key) as ParsedDescription | undefined;
  if (!parsed) {
    parsed = parse(text, book, cueEdits);
    book.parsed.set(key, parsed);
  }
  return parsed;
}

function parse(text: string, book: CompiledBook, cueEdits: string): ParsedDescription {
  const { elements, note, openQuote } = tokenize(text);
  const issues: WordIssue[] = [];
  if (openQuote) issues.push({ kind: "unread-word", word: '"', text: "a quote is opened and not closed" });
  const parsed = elements.flatMap((e) => parseElement(e, book, issues) ?? []);
  if (cueEdits !== "")
    applyCueEdits(parsed, decodeCueEdits(cueEdits), book, (word, why) =>
      issues.push({ kind: "cue-ignored", word, text: why }),
    );
  const said = levelCue({ elements: parsed });
  const byCode = parsed.length === 0 || parsed.some((e) => e.entry?.ground ?? true);
  return { elements: parsed, note, issues, ground: said ? said === "ground" : byCode };
}

/** The last of the cues `air` and `ground` on a shot; it speaks for the whole shot. */
export function levelCue(description: { elements: ParsedElement[] }): "air" | "ground" | undefined {
  let said: "air" | "ground" | undefined;
  for (const e of description.elements)
    for (const { action } of e.cues) if (action === "air" || action === "ground") said = action;
  return said;
}

function parseElement(element: Element, book: CompiledBook, issues: WordIssue[]): ParsedElement | undefined {
  const [first, ...rest] = element.words as [Element["words"][number], ...Element["words"]];
  const word = first.text;
  const found = book.lookup(word);
  if (!found.entry && !/^\p{L}[\p{L}\d_-]*$/u.test(word)) {
    for (const w of element.words) issues.push({ kind: "unread-word", word: w.text, text: `“${w.text}” is no code` });
    return undefined;
  }
  const cues: Cue[] = [];
  const attributes = new Map<string, string>();
  const defined = found.entry?.attributes ?? [];
  for (const w of rest) {
    const action = w.quoted ? undefined : book.actionOf(w.name ?? w.text);
    if (action && (w.name !== undefined) === isValued(action)) {
      cues.push({ action, value: w.value });
    } else if (action && w.name === undefined) {
      issues.push({ kind: "cue-ignored", word: w.text, text: `“${w.text}” needs a value, as in ${w.text}=…` });
    } else if (w.name !== undefined) {
      const match = defined.find((a) => a.name.toLowerCase() === w.name!.toLowerCase());
      if (match) setAttribute(match.name, w.value!);
      // Of a code that is unknown nothing more can be said than that.
      else if (found.entry)
        issues.push({
          kind: "unread-word",
          word: w.text,
          code: found.code,
          text: `“${w.text}” names no attribute of ${found.code}`,
        });
    } else {
      const next = defined.find((a) => !attributes.has(a.name));
      if (next) setAttribute(next.name, w.text);
      else if (found.entry)
        issues.push({
          kind: "unread-word",
          word: w.text,
          code: found.code,
          text: `“${w.text}” is neither a cue nor an attribute of ${found.code}`,
        });
    }
  }
  for (const a of defined) {
    if (a.required && !attributes.has(a.name)) issues.push(missingAttribute(found.code, a.name));
  }
  return {
    word,
    entry: found.entry,
    code: found.code,
    run: found.run,
    key: `${found.code}\t${found.run}`,
    by: found.by,
    cues,
    attributes,
  };

  function setAttribute(name: string, value: string): void {
    const definition = defined.find((a) => a.name === name)!;
    // A crew that writes decimal commas writes them in its attributes too.
    const plain = definition.type === "number" ? value.replace(/^([+-]?\d*),(\d+)$/, "$1.$2") : value;
    attributes.set(name, plain);
    const want = wantedInstead(definition, plain);
    if (want) {
      issues.push({
        kind: "attribute-wrong",
        word: value,
        attribute: name,
        text: `${name} is “${value}”, expected ${want}; kept as text`,
      });
    }
  }
}

export const missingAttribute = (code: string, name: string): WordIssue => ({
  kind: "attribute-missing",
  word: name,
  attribute: name,
  text: `${code} needs its ${name}`,
});

/** What was expected instead of an attribute's value; undefined where it is of its type. */
export function wantedInstead(a: AttributeDefinition, value: string): string | undefined {
  if (a.type === "number") return /^[+-]?(\d+(?:[.,]\d*)?|[.,]\d+)$/.test(value) ? undefined : "a number";
  const choices = a.choices ?? [];
  if (a.type !== "choice" || choices.some((c) => c.toLowerCase() === value.toLowerCase())) return undefined;
  return `one of ${choices.join(", ")}`;
}
