/** The parts of a DXF file round its entities: header, tables, blocks and the dictionary. */
import { extentOf } from "../../points/table";
import { DxfText, MODEL_SPACE, PAPER_SPACE, TEXT_STYLES, type Handles, type Layer } from "./text";
import type { DxfSource } from "./source";

/** A line type: lengths drawn (> 0), left out (< 0), dots (0), in the drawing's unit. */
export interface Dashed {
  name: string;
  lengths: number[];
}

export interface Block {
  name: string;
  record: string;
  content?: (inside: DxfText) => void;
  hasAttributes?: boolean;
}

const SPACES: Block[] = [
  { name: "*MODEL_SPACE", record: MODEL_SPACE },
  { name: "*PAPER_SPACE", record: PAPER_SPACE },
];

export const PAPER = "#3a3a3a";

/** The line weights that the format knows, in hundredths of a millimetre. */
const WEIGHTS = [0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211];
const nearestWeight = (mm: number) =>
  WEIGHTS.reduce((best, w) => (Math.abs(w - 100 * mm) < Math.abs(best - 100 * mm) ? w : best));

export function header(out: DxfText, s: Pick<DxfSource, "table" | "unit" | "textHeight">, seed: string): void {
  const x = extentOf(s.table) ?? { minE: 0, minN: 0, maxE: 1, maxN: 1, minZ: 0, maxZ: 0 };
  out.section("HEADER", () => {
    const set = (name: string, ...pairs: [number, string | number][]) => {
      out.pair(9, name);
      for (const [code, value] of pairs) out.pair(code, value);
    };
    set("$ACADVER", [1, "AC1021"]);
    // From this release on texts are UTF-8. Readers that go by the code page all the same find it named: 65001 is
    // UTF-8.
    set("$DWGCODEPAGE", [3, "ANSI_65001"]);
    set("$HANDSEED", [5, seed]);
    set("$INSUNITS", [70, s.unit === "m" ? 6 : s.unit === "ft" ? 2 : 21]);
    set("$MEASUREMENT", [70, s.unit === "m" ? 1 : 0]);
    set("$EXTMIN", [10, x.minE], [20, x.minN], [30, Number.isNaN(x.minZ) ? 0 : x.minZ]);
    set("$EXTMAX", [10, x.maxE], [20, x.maxN], [30, Number.isNaN(x.maxZ) ? 0 : x.maxZ]);
    set("$PDMODE", [70, 2]);
    set("$PDSIZE", [40, s.textHeight / 2]);
  });
}

export function tables(
  out: DxfText,
  layers: readonly Layer[],
  styles: readonly Dashed[],
  blocks: readonly Block[],
): void {
  const table = (name: string, handle: string, records: (() => void)[]) => {
    out.pair(0, "TABLE");
    out.pair(2, name);
    out.pair(5, handle);
    out.pair(330, "0");
    out.pair(100, "AcDbSymbolTable");
    out.pair(70, records.length);
    if (name === "DIMSTYLE") out.pair(100, "AcDbDimStyleTable");
    for (const write of records) write();
    out.pair(0, "ENDTAB");
  };
  const record = (type: string, owner: string, subclass: string, name: string, handle = out.take()) => {
    out.pair(0, type);
    out.pair(5, handle);
    out.pair(330, owner);
    out.pair(100, "AcDbSymbolTableRecord");
    out.pair(100, subclass);
    out.pair(2, name);
  };
  const layer = (l: Layer) => () => {
    const { name, color } = l;
    record("LAYER", "2", "AcDbLayerTableRecord", name);
    out.pair(70, 0);
    // A negative colour: the layer is there and switched off.
    out.pair(62, l.off ? -7 : 7);
    if (name !== "0") out.pair(420, Number.parseInt(color.slice(1), 16));
    out.pair(6, "CONTINUOUS");
    if (l.weight !== undefined) out.pair(370, nearestWeight(l.weight));
  };
  const lineType =
    ({ name, lengths }: Dashed) =>
    () => {
      record("LTYPE", "5", "AcDbLinetypeTableRecord", name);
      out.pair(70, 0);
      out.pair(3, "");
      out.pair(72, 65);
      out.pair(73, lengths.length);
      out.pair(
        40,
        lengths.reduce((sum, x) => sum + Math.abs(x), 0),
      );
      for (const x of lengths) {
        out.pair(49, x);
        out.pair(74, 0);
      }
    };
  out.section("TABLES", () => {
    table("VPORT", "8", []);
    table(
      "LTYPE",
      "5",
      [...["BYBLOCK", "BYLAYER", "CONTINUOUS"].map((name) => ({ name, lengths: [] })), ...styles].map(lineType),
    );
    table("LAYER", "2", [layer({ name: "0", color: PAPER }), ...layers.map(layer)]);
    table(
      "STYLE",
      "3",
      TEXT_STYLES.map((name) => () => {
        record("STYLE", "3", "AcDbTextStyleTableRecord", name);
        for (const [code, value] of [
          [70, 0],
          [40, 0],
          [41, 1],
          [50, 0],
          [71, 0],
          [42, 2.5],
          [3, "txt"],
          [4, ""],
        ] as const)
          out.pair(code, value);
      }),
    );
    table("VIEW", "6", []);
    table("UCS", "7", []);
    table("APPID", "9", [
      () => {
        record("APPID", "9", "AcDbRegAppTableRecord", "ACAD");
        out.pair(70, 0);
      },
    ]);
    table("DIMSTYLE", "A", []);
    table(
      "BLOCK_RECORD",
      "1",
      SPACES.concat(blocks).map(
        ({ name, record: handle }) =>
          () =>
            record("BLOCK_RECORD", "1", "AcDbBlockTableRecord", name, handle),
      ),
    );
  });
}

/** Every block between its begin and end; `content` writes what is in it. */
export function blocksSection(out: DxfText, handles: Handles, blocks: readonly Block[]): void {
  out.section("BLOCKS", () => {
    for (const { name, record, content, hasAttributes } of [...SPACES, ...blocks]) {
      const inside = new DxfText(handles, record);
      const begin = (type: string, subclass: string) => inside.entity(type, "0", subclass);
      begin("BLOCK", "AcDbBlockBegin");
      inside.pair(2, name);
      inside.pair(70, hasAttributes ? 2 : 0);
      inside.position(10, 0, 0, 0);
      inside.pair(3, name);
      inside.pair(1, "");
      content?.(inside);
      begin("ENDBLK", "AcDbBlockEnd");
      out.raw(inside);
    }
  });
}

export function objects(out: DxfText): void {
  const dictionary = (handle: string, owner: string, entries: [string, string][]) => {
    out.pair(0, "DICTIONARY");
    out.pair(5, handle);
    out.pair(330, owner);
    out.pair(100, "AcDbDictionary");
    out.pair(281, 1);
    for (const [name, target] of entries) {
      out.pair(3, name);
      out.pair(350, target);
    }
  };
  out.section("OBJECTS", () => {
    dictionary("C", "0", [["ACAD_GROUP", "D"]]);
    dictionary("D", "C", []);
  });
}
