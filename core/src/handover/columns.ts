/** Columns of points, as files and the table on the screen write them. */
import { attributeOf, codeOf, type CodedPoints } from "../codes/read";
import type { IntakeInfo } from "../intake/model";
import { readDecimal } from "../math/decimal";
import { formatFixed } from "../math/round";
import { KINDS } from "../records/kinds";
import { descriptionOf, SURFACE_CHOICES, type PointTable } from "../points/table";
import { DEFAULT_COLUMNS, DEFAULT_DECIMALS, type HandoverColumn, type PointColumns } from "./model";
import type { OutColumn, OutTable } from "./table";

/** What columns of points are read from. */
export interface ColumnSource {
  table: PointTable;
  coded: CodedPoints;
  intakes: readonly IntakeInfo[];
  pointSetups?: ReadonlyMap<number, readonly string[]>;
}

const NUMBERS = ["northing", "easting", "elevation", "precision", "targetHeight"] as const;
type NumberColumn = (typeof NUMBERS)[number];
const isNumberColumn = (c: HandoverColumn): c is NumberColumn => (NUMBERS as readonly string[]).includes(c);

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
      if (isNumberColumn(c)) {
        const read = numberReader(c, s.table);
        return { title: c, decimals: own ?? decimals, number: (k) => read(rows[k]!) };
      }
      const read = textReader(c, s);
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

function numberReader(column: NumberColumn, t: PointTable): (i: number) => number {
  const of = { northing: t.n, easting: t.e, elevation: t.z, precision: t.precision, targetHeight: t.targetHeight };
  return (i) => of[column][i]!;
}

function textReader(column: Exclude<HandoverColumn, NumberColumn>, s: ColumnSource): (i: number) => string {
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
      const name = column.slice(5);
      return (i) => attributeOf(t, coded, i, name);
    }
  }
}
