/** The code book made ready for looking up: which entry a written word means, and which cue. */
import type { CodeBook, CodeEntry } from "./model";
import { endingDigits, wildcard } from "../math/words";

/** Actions that steer the line a shot stands on; the rest speak of the shot itself. */
interface CueDescribed {
  /** What it does, in a few words. */
  does: string;
  /** It says how a line goes, so that it stands on a shot of a line. */
  steers?: true;
  /** It is written with a value, as in `box=3.2`. */
  valued?: true;
}

/** The cues, each described once; what it does to lines is told where they are gathered (lines/gather.ts). */
const CUES = {
  new: { does: "a new line starts here", steers: true },
  end: { does: "the line ends here", steers: true },
  loop: { does: "the line returns to its first shot", steers: true },
  via: { does: "on an arc through the shots either side", steers: true },
  swing: { does: "an arc that leaves without a corner", steers: true },
  flow: { does: "a smooth curve from here", steers: true },
  still: { does: "straight again from here", steers: true },
  quad: { does: "third corner of a parallelogram", steers: true },
  box: { does: "second corner of a rectangle, width to the right", steers: true, valued: true },
  from: { does: "the line comes from a point", steers: true, valued: true },
  to: { does: "the line goes on to a point and ends", steers: true, valued: true },
  join: { does: "the line goes on with another", steers: true, valued: true },
  after: { does: "comes right after another shot", steers: true, valued: true },
  off: { does: "a parallel: right, up, code", steers: true, valued: true },
  past: { does: "the object stands ahead, right, up", valued: true },
  lone: { does: "not part of the line" },
  air: { does: "not on the ground" },
  ground: { does: "on the ground" },
} satisfies Record<string, CueDescribed>;

export type Action = keyof typeof CUES;
export const ACTIONS = Object.keys(CUES) as Action[];

const described = (action: Action): CueDescribed => CUES[action];
/** What a cue does, in a few words. */
export const workOf = (action: Action): string => described(action).does;
export const isValued = (action: Action): boolean => described(action).valued === true;
export const isSteering = (action: Action): boolean => described(action).steers === true;

export type FoundBy = "code" | "alias" | "cut-off";

export interface Lookup {
  entry: CodeEntry | undefined;
  /** The code in upper case; of an unknown word its letters before the run. */
  code: string;
  /** Whole number without leading zeros, "" when there is none. */
  run: string;
  by: FoundBy | undefined;
}

export interface CompiledBook {
  codes: Map<string, CodeEntry>;
  actionOf(word: string): Action | undefined;
  /** The words that mean an action, in lower case. */
  spellingsOf(action: Action): string[];
  lookup(word: string): Lookup;
  /** What depends on the book alone may be kept here, so that it goes when the book goes. */
  parsed: Map<string, unknown>;
}

const compiled = new WeakMap<CodeBook, CompiledBook>();

/** The book ready for looking up; books are never changed in place, so each is compiled once. */
export function compileBook(book: CodeBook): CompiledBook {
  let ready = compiled.get(book);
  if (!ready) compiled.set(book, (ready = compile(book)));
  return ready;
}

function compile(book: CodeBook): CompiledBook {
  const codes = new Map((book.codes ?? []).map((c) => [c.code.toUpperCase(), c]));
  const spellings = new Map<string, Action>();
  for (const action of ACTIONS) {
    for (const word of book.cues?.[action] ?? [action]) spellings.set(word.toLowerCase(), action);
  }
  const aliases = (book.aliases ?? []).map((a) => ({ from: a.from.toUpperCase(), to: a.to.toUpperCase() }));
  const exact = new Map<string, string>();
  for (const a of aliases) if (!/[*?]/.test(a.from) && !exact.has(a.from)) exact.set(a.from, a.to);
  // More literal characters first; the sort is stable, so equals keep the order of the list.
  const patterns = aliases
    .filter((a) => /[*?]/.test(a.from))
    .map((a) => ({ to: a.to, matches: wildcard(a.from), literal: a.from.replace(/[*?]/g, "").length }))
    .sort((a, b) => b.literal - a.literal);

  function lookup(written: string): Lookup {
    const word = written.toUpperCase();
    const end = endingDigits(word),
      [stem, digits] = [word.slice(0, end), word.slice(end)];
    const found = (code: string | undefined, run: string, by: FoundBy): Lookup | undefined => {
      const entry = code === undefined ? undefined : codes.get(code);
      return entry && { entry, code: entry.code.toUpperCase(), run: wholeNumber(run), by };
    };
    const beginning = (): Lookup | undefined => {
      for (let keep = digits.length - 1; keep >= 0; keep--) {
        const hit = found(stem + digits.slice(0, keep), digits.slice(keep), "code");
        if (hit) return hit;
      }
      return undefined;
    };
    const cutOff = (): Lookup | undefined => {
      if (stem.length < 5) return undefined;
      const fits = [...codes.keys()].filter((c) => c.startsWith(stem));
      return fits.length === 1 ? found(fits[0], digits, "cut-off") : undefined;
    };
    return (
      found(word, "", "code") ??
      beginning() ??
      found(exact.get(word), "", "alias") ??
      found(exact.get(stem), digits, "alias") ??
      found(patterns.find((p) => p.matches(stem))?.to, digits, "alias") ??
      found(patterns.find((p) => p.matches(word))?.to, "", "alias") ??
      cutOff() ?? { entry: undefined, code: stem || word, run: stem ? wholeNumber(digits) : "", by: undefined }
    );
  }

  // Shots of one line write the same word.
  const looked = new Map<string, Lookup>();
  const lookupOnce = (written: string): Lookup => {
    let found = looked.get(written);
    if (!found) looked.set(written, (found = lookup(written)));
    return found;
  };

  return {
    codes,
    lookup: lookupOnce,
    actionOf: (word) => spellings.get(word.toLowerCase()),
    spellingsOf: (action) => [...spellings].flatMap(([word, a]) => (a === action ? [word] : [])),
    parsed: new Map(),
  };
}

function wholeNumber(digits: string): string {
  return digits.replace(/^0+(?=\d)/, "");
}
