/**
 * What may be said of a file that leaves, each described once: the shape that a recipe and the server's edge hold it to,
 * the type that it has here, and what the screen lets one choose.
 */
import type { AreaUnit, Unit } from "../math/units";
import { listOf, name, oneOf, whole, type Schema } from "../shape";
import { HANDOVER_COLUMNS, HOLDS, type HandoverColumn, type Holds } from "./model";

/** One thing that may be said; what is not said is as usual. */
export interface Say<V> {
  shape: Schema;
  /** Left out where the format has a form of its own for it. */
  control?: Control;
  /** The type of its value; never there. */
  is?: V;
}
export type Says = Record<string, Say<unknown>>;

/** The type of what a description lets one say. */
export type SaidOf<S extends Says> = { [K in keyof S]?: S[K] extends Say<infer V> ? V : never };

/** A file as its controls see it: what is said of it, by name. */
export type SaidFile = Readonly<Record<string, unknown>>;

export type Control = (
  | {
      as: "choice";
      label: string;
      options: readonly (readonly [value: string, words: string])[];
      /** What holds where nothing is said. */
      usual: string | ((job: { unit: Unit; areaUnit?: AreaUnit }) => string);
      /** What else is to be said with a value. */
      along?(value: string, file: SaidFile): SaidFile;
    }
  | { as: "tick"; words: string; title?: string; usual: boolean; on: unknown; off: unknown }
  | { as: "decimals"; usual: number }
  | { as: "points" }
  | { as: "holds"; of: readonly Holds[] }
) & {
  /** Whether it is asked of a file at all. */
  when?(file: SaidFile): boolean;
};

type ChoiceOf = Extract<Control, { as: "choice" }>;

/** One of a few values; the first is the usual one unless another is named. */
export const choice = <const V extends string>(
  label: string,
  options: readonly (readonly [V, string])[],
  more: Partial<Pick<ChoiceOf, "usual" | "along" | "when">> = {},
): Say<V> => ({
  shape: oneOf(...options.map(([v]) => v)),
  control: { as: "choice", label, options, usual: options[0]![0], ...more },
});

/** Something that is wanted or not. */
export const tick = (words: string, usual: boolean, title?: string): Say<boolean> => ({
  shape: { type: "boolean" },
  control: { as: "tick", words, usual, on: true, off: false, ...(title ? { title } : {}) },
});

/** Wanted where its one value is said. */
export const wanted = <const V extends string>(words: string, value: V): Say<V> => ({
  shape: oneOf(value),
  control: { as: "tick", words, usual: false, on: value, off: undefined },
});

/** A value of another shape, which the format has a form of its own for. */
export const shaped = <V>(shape: Schema): Say<V> => ({ shape });

/** A set or a number list; all points when it is not said. */
export const points: Say<string> = { shape: name, control: { as: "points" } };

export const DEFAULT_DECIMALS = 3;
export const decimals: Say<number> = { shape: whole(0, 12), control: { as: "decimals", usual: DEFAULT_DECIMALS } };

/** What of the geometry a file holds: of these, all when it is not said. */
export const holds = <const H extends Holds>(...of: H[]): Say<H[]> => ({
  shape: listOf(oneOf(...HOLDS.filter((x) => (of as Holds[]).includes(x))), {
    minItems: 1,
    maxItems: HOLDS.length,
    uniqueItems: true,
  }),
  control: { as: "holds", of },
});

const column: Schema = {
  type: "string",
  pattern: `^(${HANDOVER_COLUMNS.join("|")}|attr:.+)$`,
  written: `one of ${HANDOVER_COLUMNS.join(", ")}, attr:NAME`,
  maxLength: 200,
};

/** Which columns of points, with how many decimals. */
export const pointColumns = {
  points,
  columns: shaped<HandoverColumn[]>(listOf(column, { minItems: 1, maxItems: 100 })),
  /** Only the points whose row is new or reads otherwise than when this file was last made for the job. */
  only: {
    shape: oneOf("changed"),
    control: {
      as: "choice",
      label: "Which of them",
      options: [
        ["all", "all"],
        ["changed", "new or changed since it was last made"],
      ],
      usual: "all",
    },
  } as Say<"changed">,
  decimals,
  /** Decimals of single columns, also of attributes that are numbers. */
  decimalsOf: shaped<Partial<Record<HandoverColumn, number>>>({
    type: "object",
    propertyNames: column,
    additionalProperties: whole(0, 12),
    maxProperties: 100,
  }),
};

/** How rows are written as text. */
export const textStyle = {
  decimal: choice(
    "Decimal sign",
    [
      [".", "point"],
      [",", "comma"],
    ],
    // A comma that parts columns as well would put every number in quotes.
    { along: (sign, { delimiter = "," }) => (sign === "," && delimiter === "," ? { delimiter: ";" } : {}) },
  ),
  delimiter: {
    shape: {
      type: "string",
      minLength: 1,
      maxLength: 1,
      pattern: '^[^"\\r\\n]$',
      written: "one sign that parts columns, such as a comma",
    },
    control: {
      as: "choice",
      label: "Delimiter",
      options: [
        [",", "comma"],
        [";", "semicolon"],
        ["\t", "tab"],
        [" ", "blank"],
        ["|", "bar"],
      ],
      usual: ",",
    },
  } as Say<string>,
  /** With a mark, programs that would guess otherwise take it for UTF-8. */
  encoding: choice("Encoding", [
    ["utf-8", "UTF-8"],
    ["utf-8-mark", "UTF-8 with a mark"],
    ["latin1", "Western (Windows-1252)"],
  ]),
  lineEnd: choice("Line ends", [
    ["lf", "LF"],
    ["crlf", "CR LF"],
  ]),
  header: tick("Header row", true),
  /** A text that a spreadsheet would compute is written behind an apostrophe. */
  guard: tick(
    "Guard texts that a spreadsheet would compute",
    false,
    "Texts that begin with =, +, - or @ and are no numbers are written behind an apostrophe",
  ),
};
