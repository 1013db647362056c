/** Columns of points, as files and the table on the screen write them. */
import { attributeOf, codeOf, type CodedPoints } from "../codes/read";
import type { IntakeInfo } from "../intake/model";
import { readDecimal } from "../math/decimal";
import { formatFixed, plainNumber } from "../math/round";
import { FIELDS, fieldName, fieldOf, isLength, type EditField } from "../records/fields";
import { isMeasured, measuredName, measuredOf } from "../records/measured";
import { KINDS, SURFACE_CHOICES } from "../records/kinds";
import { descriptionOf, type PointTable } from "../points/table";
import { DEFAULT_COLUMNS, type HandoverColumn } from "./model";
import { DEFAULT_DECIMALS } from "./says";
import { type PointColumns } from "./files";
import type { OutColumn, OutTable } from "./table";

/** What columns of points are read from. */
export interface ColumnSource {
  table: PointTable;
  coded: CodedPoints;
  intakes: readonly IntakeInfo[];
  pointSetups?: ReadonlyMap<number, readonly string[]>;
}

/** A column that holds numbers, as its column of the table; undefined for texts. `decimals`: rounded like a length. */
function numbersOf(column: HandoverColumn, t: PointTable): { values: Float64Array; decimals: boolean } | undefined {
  if (isMeasured(column)) {
    const { is } = measuredOf(column);
    if (is === "text") return undefined;
    return {
      values: (t.measured[column] as Float64Array | undefined) ?? new Float64Array(t.count).fill(NaN),
      decimals: is === "length",
    };
  }
  const f = column in FIELDS ? fieldOf(column as EditField) : undefined;
  return f?.is === "length" ? { values: t[f.column], decimals: true } : undefined;
}

/** Whether a column is rounded to the decimals of its file. */
export const hasDecimals = (column: HandoverColumn): boolean =>
  isMeasured(column) ? measuredOf(column).is === "length" : column in FIELDS && isLength(column as EditField);

/** What sentences call a column of points. */
export function pointColumnName(column: HandoverColumn): string {
  if (column.startsWith("attr:")) return `attribute ${column.slice(5)}`;
  if (column === "name") return "name of the code";
  if (column === "surface") return "part of the terrain";
  if (isMeasured(column)) return measuredName(column);
  return column in FIELDS ? fieldName(column as EditField) : column;
}

/** The points at the given rows in that order; `decimals` of the file hold where a column has none of its own. */
export function pointsTable(
  { columns = DEFAULT_COLUMNS, decimals = DEFAULT_DECIMALS, decimalsOf = {} }: PointColumns,
  s: ColumnSource,
  rows: Int32Array,
): OutTable {
  return {
    name: "points",
    count: rows.length,
    columns: columns.map((c): OutColumn => {
      const own = decimalsOf[c];
      const numbers = numbersOf(c, s.table);
      if (numbers?.decimals) return { title: c, decimals: own ?? decimals, number: (k) => numbers.values[rows[k]!]! };
      // A count or an angle stands as it came, unless decimals are asked for.
      const read = numbers ? (i: number) => plainNumber(numbers.values[i]!) : textReader(c, s);
      if (own === undefined) return { title: c, text: (k) => read(rows[k]!) };
      // An attribute that is a number is rounded; anything else stands as it was written.
      return {
        title: c,
        text(k) {
          const text = read(rows[k]!),
            value = readDecimal(text);
          return Number.isNaN(value) ? text : formatFixed(value, own);
        },
      };
    }),
  };
}

function textReader(column: HandoverColumn, s: ColumnSource): (i: number) => string {
  const { table: t, coded, intakes } = s;
  switch (column) {
    case "number":
      return (i) => t.number[i]!;
    case "description":
      return (i) => descriptionOf(t, i);
    case "code":
      return (i) => codeOf(coded, i);
    case "name":
      return (i) => coded.parsed[coded.description[i]!]!.elements[0]?.entry?.name ?? "";
    case "note":
      return (i) => t.texts[t.note[i]!] || coded.parsed[coded.description[i]!]!.note;
    case "kind":
      return (i) => KINDS[t.kind[i]!]!;
    case "surface":
      // Whether it is part of the terrain, and that an edit said so where one did.
      return (i) => {
        const choice = SURFACE_CHOICES[t.surface[i]!]!;
        return choice !== "auto" ? choice : coded.ground[i] && !Number.isNaN(t.z[i]!) ? "in" : "out";
      };
    case "intake":
      return (i) => intakes[t.intake[i]!]?.id ?? "";
    case "crew":
      return (i) => intakes[t.intake[i]!]?.crew ?? "";
    case "setup":
      return (i) => (s.pointSetups?.get(i) ?? []).join(" ");
    case "time":
      return (i) => (Number.isNaN(t.time[i]!) ? "" : new Date(t.time[i]!).toISOString().slice(0, 19));
    default: {
      if (isMeasured(column)) {
        const values = t.measured[column];
        return (i) => t.texts[values?.[i] ?? 0]!;
      }
      const name = column.slice(5);
      return (i) => attributeOf(t, coded, i, name);
    }
  }
}
