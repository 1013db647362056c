/** Cuts a description into elements, words and a note (FIELD-CODES.md, "Grammar"). Knows nothing of books. */

export interface Word {
  /** The word with its quotes undone. */
  text: string;
  /** For `name=value`: the name as written, and its value; a quoted whole word has none and is never a cue. */
  name?: string;
  value?: string;
  quoted: boolean;
}

export interface Element {
  words: Word[];
}

export interface Description {
  elements: Element[];
  note: string;
  /** A quote that was opened and not closed; its text runs to the end. */
  openQuote: boolean;
}

export function tokenize(text: string): Description {
  const elements: Element[] = [{ words: [] }];
  let openQuote = false;
  let i = 0;
  while (i < text.length) {
    const c = text[i]!;
    if (c === ";") return { elements: filled(elements), note: text.slice(i + 1).trim(), openQuote };
    if (c === "/") {
      elements.push({ words: [] });
      i++;
    } else if (/\s/.test(c)) i++;
    else i = readWord(i);
  }
  return { elements: filled(elements), note: "", openQuote };

  /** A word ends at a blank, "/" or ";" outside quotes. Quotes count at its start and right behind its first "=". */
  function readWord(at: number): number {
    let value = "",
      equals = -1,
      quoted = false;
    let k = at;
    while (k < text.length && !/[\s/;]/.test(text[k]!)) {
      const c = text[k]!;
      if (c === '"' && (k === at || equals === value.length - 1)) {
        if (k === at) quoted = true;
        k++;
        for (;;) {
          if (k >= text.length) {
            openQuote = true;
            break;
          }
          if (text[k] === '"') {
            if (text[k + 1] !== '"') {
              k++;
              break;
            }
            k++;
          }
          value += text[k++];
        }
        // Only the first quote behind "=" opens a quoted value.
        if (equals >= 0) break;
        continue;
      }
      if (c === "=" && equals < 0 && !quoted && value.length > 0) equals = value.length;
      value += c;
      k++;
    }
    const word: Word = { text: value, quoted };
    if (equals > 0) {
      word.name = value.slice(0, equals);
      word.value = value.slice(equals + 1);
    }
    elements[elements.length - 1]!.words.push(word);
    return k;
  }
}

function filled(elements: Element[]): Element[] {
  return elements.filter((e) => e.words.length > 0);
}
