/** The codes stage: every point's description read by the book; each distinct text is parsed once. */
import { KINDS } from "../records/kinds";
import { notice, pointWord, pts, say, type Noticed } from "../finding";
import { endingDigits, nearestName, plural } from "../math/words";
import { ownAttribute } from "../points/attributes";
import type { PointTable } from "../points/table";
import type { CompiledBook } from "./book";
import type { ParsedDescription, ParsedElement, WordIssue } from "./description";
import { levelCue, missingAttribute, parseDescription, wantedInstead } from "./parse";

export interface CodedPoints {
  /** What each description in use says, at its text's index; shared by points of the same text. */
  parsed: ParsedDescription[];
  /** Index of each point's description into `parsed`. */
  description: Uint32Array;
  /** 1 where the point belongs to the ground by code, cue, kind and edit, with or without an elevation. */
  ground: Uint8Array;
  /** 1 where code, cue and edit let the point's own level be used by a breakline. */
  usable: Uint8Array;
}

/** What the reading of codes depends on. Texts only grow, so that a text more makes no reading another. */
export type CodeColumns = Pick<PointTable, "count" | "texts" | "description" | "cues" | "surface" | "kind" | "deleted">;

export function readCodes(t: CodeColumns, book: CompiledBook): CodedPoints {
  // Sparse: only texts that some point has as its description are parsed.
  const parsed: ParsedDescription[] = [];
  const air: boolean[] = [];
  const ground = new Uint8Array(t.count),
    usable = new Uint8Array(t.count);
  const description = withCueEdits(t);
  const design = KINDS.indexOf("design"),
    reference = KINDS.indexOf("reference");
  for (let i = 0; i < t.count; i++) {
    const text = description.index[i]!,
      choice = t.surface[i]!,
      kind = t.kind[i]!;
    if (parsed[text] === undefined) {
      const edited = description.edited[text - t.texts.length];
      parsed[text] = edited
        ? parseDescription(t.texts[edited.text]!, book, t.texts[edited.cues]!)
        : parseDescription(t.texts[text]!, book);
      air[text] = levelCue(parsed[text]!) === "air";
    }
    if (t.deleted[i]) continue;
    ground[i] =
      choice === 1 ? 1 : choice === 2 || kind === design || kind === reference ? 0 : parsed[text]!.ground ? 1 : 0;
    usable[i] = choice === 1 || (choice === 0 && !air[text]) ? 1 : 0;
  }
  return { parsed, description: description.index, ground, usable };
}

/**
 * Index of what each point says: its description's text, or beyond the texts one for each description with its cue
 * edits.
 */
function withCueEdits(t: CodeColumns): { index: Uint32Array; edited: { text: number; cues: number }[] } {
  if (t.cues.every((c) => c === 0)) return { index: t.description, edited: [] };
  const index = t.description.slice(),
    edited: { text: number; cues: number }[] = [],
    seen = new Map<string, number>();
  for (let i = 0; i < t.count; i++) {
    if (t.cues[i] === 0) continue;
    const key = `${t.description[i]} ${t.cues[i]}`;
    let at = seen.get(key);
    if (at === undefined)
      seen.set(key, (at = t.texts.length + edited.push({ text: t.description[i]!, cues: t.cues[i]! }) - 1));
    index[i] = at;
  }
  return { index, edited };
}

/**
 * The first element's code, as a person would name the point's code; the written word when the book does not know it.
 */
export function codeOf(coded: CodedPoints, i: number): string {
  return coded.parsed[coded.description[i]!]!.elements[0]?.code ?? "";
}

export type AttributeColumns = Pick<PointTable, "attributes" | "texts">;

/**
 * An attribute of a point: what its column of the file or the office gives, else what the description says, of the given
 * element first. "" when there is none, or the office has taken it away.
 */
export function attributeOf(
  t: AttributeColumns,
  coded: CodedPoints,
  i: number,
  name: string,
  element?: ParsedElement,
): string {
  const own = ownAttribute(t, i, name);
  if (own !== "") return own ?? "";
  const { elements } = coded.parsed[coded.description[i]!]!;
  return saidAttributes(element ? [element, ...elements] : elements, name)[0] ?? "";
}

/** All that a point says of an attribute: what its column gives, else what each element of its description does. */
export function attributeTexts(t: AttributeColumns, coded: CodedPoints, i: number, name: string): readonly string[] {
  const own = ownAttribute(t, i, name);
  if (own !== "") return own === null ? NONE : [own];
  return saidAttributes(coded.parsed[coded.description[i]!]!.elements, name);
}

const NONE: readonly string[] = [];

/** What elements of a description say of an attribute, in order. */
export function saidAttributes(elements: readonly ParsedElement[], name: string): readonly string[] {
  let out = NONE;
  for (const e of elements) {
    if (e.attributes.size === 0) continue;
    const wanted = name.toLowerCase();
    for (const [key, value] of e.attributes) if (key.toLowerCase() === wanted) out = [...out, value];
  }
  return out;
}

/** Names of the attributes that points have, by column or description; one written in two ways is one. */
export function attributeNames(t: AttributeColumns, coded: CodedPoints): string[] {
  const names = new Map(t.attributes.map((c) => [c.name.toLowerCase(), c.name]));
  coded.parsed.forEach((p) => {
    for (const e of p.elements)
      for (const name of e.attributes.keys()) if (!names.has(name.toLowerCase())) names.set(name.toLowerCase(), name);
  });
  return [...names.values()];
}

/** Findings about words: one for each word and kind, with all the points that say it. */
export function codeFindings(
  t: Pick<PointTable, "count" | "deleted" | "attributes" | "texts">,
  coded: CodedPoints,
  book: CompiledBook,
): Noticed[] {
  /** What the point's own column gives, which goes before its description; null where it was taken away. */
  const given = (name: string, i: number) => (t.attributes.length ? ownAttribute(t, i, name) : "");
  const groups = new Map<string, { make: (points: number[]) => Noticed; points: number[] }>();
  const add = (key: string, point: number, make: (points: number[]) => Noticed) => {
    let group = groups.get(key);
    if (!group) groups.set(key, (group = { make, points: [] }));
    group.points.push(point);
  };
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    const parsed = coded.parsed[coded.description[i]!]!;
    for (const e of parsed.elements) {
      if (!e.entry) add(`unknown ${e.code}`, i, (points) => unknownCode(e.code, points, book));
      else if (e.by !== "code") {
        const how = e.by === "alias" ? "by its alias" : "as a name cut short",
          word = e.word.slice(0, endingDigits(e.word));
        add(`alias ${word.toUpperCase()} ${e.code}`, i, (points) =>
          notice(
            "code-by-alias",
            "note",
            say`“${word}” is read as ${e.code} ${how} (${plural(points.length, "shot")}).`,
            { points, data: { word: e.word, code: e.code, by: e.by }, subject: `${word.toUpperCase()} as ${e.code}` },
          ),
        );
      }
    }
    const own: WordIssue[] = [];
    if (t.attributes.length)
      for (const { entry, code } of parsed.elements)
        for (const a of entry?.attributes ?? []) {
          const value = given(a.name, i),
            want = value ? wantedInstead(a, value) : undefined;
          if (value === null && a.required) own.push(missingAttribute(code, a.name));
          if (want)
            own.push({
              kind: "attribute-wrong",
              word: value!,
              attribute: a.name,
              text: `${a.name} is “${value}”, expected ${want}; kept as text`,
            });
        }
    const unsaid = parsed.issues.filter((x) => x.attribute === undefined || given(x.attribute, i) === "");
    for (const issue of [...unsaid, ...own])
      add(`${issue.kind} ${issue.text}`, i, (points) =>
        notice(
          issue.kind,
          issue.kind === "attribute-missing" ? "warning" : "note",
          say`${pointWord(points, true)} ${pts(points)}: ${issue.text}.`,
          { points, data: saidOf(issue), subject: issue.text },
        ),
      );
  }
  return [...groups.values()].map((g) => g.make(g.points));
}

const saidOf = ({ word, text, attribute }: WordIssue) => ({ word, text, ...(attribute ? { attribute } : {}) });

function unknownCode(code: string, points: number[], book: CompiledBook): Noticed {
  const nearest = nearestName(code, book.codes.keys());
  const hint = nearest ? ` Nearest in the book: ${nearest}.` : " Add it to the book, or give it an alias.";
  const drawn = points.length === 1 ? "a plain point" : "plain points";
  const words = say`The book does not know “${code}” (${pointWord(points)} ${pts(points)}); drawn as ${drawn}.${hint}`;
  return notice("unknown-code", "warning", words, { points, data: { code, nearest }, subject: code });
}
