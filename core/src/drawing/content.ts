/**
 * What a job's points and lines look like: symbols as columns, and notes from their codes' templates. Frames E, N; no
 * sizes on paper yet.
 */
import type { CodeEntry, CodeKind, LabelPlace } from "../codes/model";
import { KINDS } from "../records/kinds";
import { attributeOf, type AttributeColumns, type CodedPoints } from "../codes/read";
import type { CompiledBook } from "../codes/book";
import type { Line } from "../lines/model";
import { lineTitle, type OwnNames } from "../lines/names";
import { METRES, metresOf, type Unit } from "../math/units";
import type { PointTable } from "../points/table";
import { fillTemplate, readTemplate, type Template } from "./label";

/** How points of one code are drawn. */
export interface Look {
  code: string;
  symbol: string;
  color: string | undefined;
  group: string;
  layer: string;
  kind: CodeKind;
  /** A shot of a line, without a symbol of its own. */ shot: boolean;
  known: boolean;
}

/** One row for each symbol drawn; a point of two codes has two. */
export interface DrawnSymbols {
  looks: Look[];
  /** Table row. */
  point: Int32Array;
  /** Index into `looks`. */
  look: Uint16Array;
  /** Diameter in the job's unit where it is measured, else NaN. */
  ground: Float32Array;
  /** Size on paper, mm, where the book gives one, else NaN. */
  paper: Float32Array;
  /** Degrees to the right from north. */
  turn: Float32Array;
  /** Width for length of those symbols, by row here, whose frame is not a square. */
  aspect?: ReadonlyMap<number, number>;
  /** About how far apart symbols stand, in the job's unit. */
  spacing: number;
}

export interface Note {
  text: string;
  code: string;
  color: string | undefined;
  group: string;
  layer: string;
  kind: CodeKind;
  /** Row of the symbol that it belongs to, or −1. */
  symbol: number;
  /** Index of the line that it belongs to, or −1. */
  line: number;
  place: LabelPlace;
  align: "start" | "middle" | "end";
  every: number;
  height: number | undefined;
}

export const PLAIN_LOOK = 0,
  SHOT_LOOK = 1,
  CONTROL_LOOK = 2;

const plainLooks = (): Look[] => [
  { code: "", symbol: "spot", color: undefined, group: "", layer: "", kind: "point", shot: false, known: true },
  { code: "", symbol: "dot", color: undefined, group: "", layer: "", kind: "point", shot: true, known: true },
  { code: "", symbol: "triangle", color: undefined, group: "", layer: "", kind: "point", shot: false, known: true },
];

type SymbolColumns = AttributeColumns & Pick<PointTable, "count" | "e" | "n" | "kind" | "deleted">;
type NoteColumns = AttributeColumns & Pick<PointTable, "number" | "z" | "note">;

/**
 * A symbol for each element of a point whose code is a point's; a plain cross where no code says anything, a dot for
 * the shots of lines.
 */
export function drawSymbols(t: SymbolColumns, coded: CodedPoints, unit: Unit): DrawnSymbols {
  const looks = plainLooks(),
    byCode = new Map<string, number>();
  const size = Math.max(16, t.count + (t.count >> 3));
  let columns = {
    point: new Int32Array(size),
    look: new Uint16Array(size),
    ground: new Float32Array(size),
    paper: new Float32Array(size),
    turn: new Float32Array(size),
  };
  let count = 0;
  const put = (point: number, look: number, ground: number, paper: number, turn: number) => {
    if (count === columns.point.length) {
      const wider = <A extends Int32Array | Uint16Array | Float32Array>(a: A, to: A): A => (to.set(a as never), to);
      const n = 2 * count;
      columns = {
        point: wider(columns.point, new Int32Array(n)),
        look: wider(columns.look, new Uint16Array(n)),
        ground: wider(columns.ground, new Float32Array(n)),
        paper: wider(columns.paper, new Float32Array(n)),
        turn: wider(columns.turn, new Float32Array(n)),
      };
    }
    columns.point[count] = point;
    columns.look[count] = look;
    columns.ground[count] = ground;
    columns.paper[count] = paper;
    columns.turn[count++] = turn;
  };
  const lookOf = (code: string, entry: CodeEntry | undefined): number => {
    let k = byCode.get(code);
    if (k === undefined) {
      // Words without end, as of a file read in the wrong way, are plain.
      if (looks.length > 60_000) return PLAIN_LOOK;
      k =
        looks.push({
          code,
          symbol: entry?.symbol ?? "spot",
          color: entry?.color,
          group: entry?.group ?? "",
          layer: entry?.layer ?? code,
          kind: entry?.kind ?? "point",
          shot: false,
          known: entry !== undefined,
        }) - 1;
      byCode.set(code, k);
    }
    return k;
  };
  const control = KINDS.indexOf("control");
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    const { elements } = coded.parsed[coded.description[i]!]!;
    let own = false,
      line = false;
    for (const e of elements) {
      if (e.entry && (e.entry.kind ?? "point") !== "point") {
        line = true;
        continue;
      }
      own = true;
      const entry = e.entry,
        measured = entry?.size?.attribute,
        turned = entry?.rotation?.attribute;
      put(
        i,
        lookOf(e.code, entry),
        measured === undefined
          ? NaN
          : lengthOf(
              attributeOf(t, coded, i, measured, e),
              entry!.attributes?.find((a) => a.name === measured)?.unit,
              unit,
            ),
        entry?.size?.fixed ?? NaN,
        turned === undefined ? (entry?.rotation?.fixed ?? 0) : Number(attributeOf(t, coded, i, turned, e) || NaN) || 0,
      );
    }
    if (!own) put(i, t.kind[i] === control ? CONTROL_LOOK : line ? SHOT_LOOK : PLAIN_LOOK, NaN, NaN, 0);
  }
  return {
    looks,
    point: columns.point.slice(0, count),
    look: columns.look.slice(0, count),
    ground: columns.ground.slice(0, count),
    paper: columns.paper.slice(0, count),
    turn: columns.turn.slice(0, count),
    spacing: spacingOf(t, columns.point.subarray(0, count)),
  };
}

/**
 * The side of the square that each symbol would have of the middle half of their extent; of very many a few thousand
 * tell as much.
 */
function spacingOf(t: Pick<PointTable, "e" | "n">, points: Int32Array): number {
  if (points.length < 4) return Infinity;
  const size = Math.min(points.length, 20_000),
    step = points.length / size;
  const middle = (of: Float64Array) => {
    const sorted = Float64Array.from({ length: size }, (_, k) => of[points[Math.floor(k * step)]!]!).sort();
    return sorted[Math.floor(0.75 * size)]! - sorted[Math.floor(0.25 * size)]!;
  };
  return Math.sqrt((middle(t.e) * middle(t.n) * 4) / points.length) || Infinity;
}

/** A measured size in the job's unit; NaN for what is no size. An attribute without a unit is in the job's. */
function lengthOf(text: string, given: string | undefined, unit: Unit): number {
  const value = /^[+-]?(\d+(?:\.\d*)?|\.\d+)$/.test(text.trim()) ? Number(text) : NaN;
  if (!(value > 0)) return NaN;
  const metres = metresOf(given ?? "", unit);
  return metres === undefined ? value : (value * metres) / METRES[unit];
}

/** The notes of all points and lines whose code has a template, in the order of symbols, then lines. */
export function writeNotes(
  t: NoteColumns,
  coded: CodedPoints,
  symbols: DrawnSymbols,
  lines: readonly Line[],
  book: CompiledBook,
  own: OwnNames,
): Note[] {
  const templates = new Map<string, Template | undefined>();
  const templateOf = (entry: CodeEntry): Template | undefined => {
    if (!templates.has(entry.code)) {
      const read = entry.label ? readTemplate(entry.label) : undefined;
      templates.set(entry.code, read && "template" in read ? read.template : undefined);
    }
    return templates.get(entry.code);
  };
  const notes: Note[] = [];
  const write = (entry: CodeEntry, text: string, of: { symbol: number; line: number }) => {
    if (text === "") return;
    const { place = "auto", align = "middle", every = 0, height } = entry.labelAt ?? {};
    notes.push({
      text,
      code: entry.code,
      color: entry.color,
      group: entry.group ?? "",
      layer: entry.layer ?? entry.code,
      kind: entry.kind ?? "point",
      ...of,
      place,
      align,
      every,
      height,
    });
  };
  const labelled = symbols.looks.map((l) => {
    const entry = book.codes.get(l.code);
    return entry?.label ? entry : undefined;
  });
  for (let k = 0; k < symbols.point.length; k++) {
    const entry = labelled[symbols.look[k]!];
    const template = entry && templateOf(entry);
    if (!template) continue;
    const i = symbols.point[k]!;
    const element = coded.parsed[coded.description[i]!]!.elements.find((e) => e.code === entry.code.toUpperCase());
    write(
      entry,
      fillTemplate(template, (name) => valueAt(t, coded, i, name, entry, element)),
      { symbol: k, line: -1 },
    );
  }
  lines.forEach((l, k) => {
    const template = l.companion ? undefined : templateOf(l.entry);
    if (!template || l.shots.length === 0) return;
    // What is said of a line may stand at any of its shots.
    const value = (name: string): string | number | undefined => {
      for (const i of l.shots) {
        const found = valueAt(
          t,
          coded,
          i,
          name,
          l.entry,
          coded.parsed[coded.description[i]!]!.elements.find((e) => e.code === l.code && e.run === l.run),
        );
        if (found !== undefined && found !== "") return found;
      }
      return undefined;
    };
    write(
      l.entry,
      fillTemplate(
        template,
        (name) =>
          value(name) ??
          (
            { length: l.length, area: l.area, run: l.run, line: lineTitle(l, own) } as Record<
              string,
              string | number | undefined
            >
          )[name],
      ),
      { symbol: -1, line: k },
    );
  });
  return notes;
}

function valueAt(
  t: NoteColumns,
  coded: CodedPoints,
  i: number,
  name: string,
  entry: CodeEntry,
  element: Parameters<typeof attributeOf>[4],
): string | number | undefined {
  switch (name) {
    case "code":
      return entry.code;
    case "name":
      return entry.name ?? entry.code;
    case "number":
      return t.number[i];
    case "elevation":
      return Number.isNaN(t.z[i]!) ? undefined : t.z[i];
    case "note":
      return t.texts[t.note[i]!] || coded.parsed[coded.description[i]!]!.note;
    default:
      return attributeOf(t, coded, i, name, element) || undefined;
  }
}
