/** One file of a delivery, whatever its format → records in the job's unit, raw observations, reference. */
import type { Format, IntakeOptions } from "./model";
import type { Delivered } from "../records/delivered";
import { refusal } from "../errors";
import { unitFactor, type Unit } from "../math/units";
import { straightLine, type StationLine } from "../math/station";
import { scaleRecords, type Records } from "../records/records";
import type { Reference } from "../records/reference";
import { guessEncoding } from "./bytes";
import { checkText, columnNames, positionColumns, readDelimited, type Progress } from "./delimited";
import { readDxf } from "./dxf";
import { openGeoJson } from "./geojson";
import type { Geoid } from "./geoid";
import { guessFixed, guessLayout, type CompleteLayout } from "./guess";
import { readLandXml, type IsControl } from "./landxml";
import { placeBySatellite, placeByStation, type Beyond } from "./position";
import { withinReach } from "./reach";
import { openSqlite, openXlsx, pickTable, TABLE_DELIMITER, tableText, type Tables } from "./tables";

/** What reading a file needs to know of its job. */
export interface DeliveryContext {
  unit: Unit;
  order: "NE" | "EN";
  system?: string;
  geoid?: Geoid;
  /** References of the job's files by file name, for stations along their lines. */
  references: { file: string; reference: Reference }[];
  isControl: IsControl;
  progress?: Progress;
}

export interface Delivery extends Delivered {
  format: Format;
  records: Records;
  /** For text and tables. */
  layout?: CompleteLayout;
  encoding?: "utf-8" | "latin1";
  beyond: Beyond[];
}

/** The format by what the bytes are. Text that no other format owns is delimited. */
export function guessFormat(bytes: Uint8Array): Format {
  const head = String.fromCharCode(...bytes.subarray(0, 512));
  if (head.startsWith("SQLite format 3\0")) return "sqlite";
  if (head.startsWith("PK\x03\x04")) return "xlsx";
  const text = head
    .replace(/^(\u00ef\u00bb\u00bf|\u00ff\u00fe|\u00fe\u00ff)/, "")
    .replaceAll("\0", "")
    .trimStart();
  if (/^<(\?xml|!|[A-Za-z])/.test(text)) return "landxml";
  if (/^\{\s*"/.test(text)) return "geojson";
  const lines = text.split(/\r\n|\n|\r/).map((line) => line.trim());
  // Blank lines may stand between; one may also be a blank remark.
  if (beginsSection(lines) || beginsSection(lines.filter(Boolean))) return "dxf";
  return "delimited";
}

/** Whether pairs of a group code and its value begin with a section, after remarks (999). */
function beginsSection(lines: readonly string[]): boolean {
  let at = 0;
  while (lines[at] === "999") at += 2;
  return lines[at] === "0" && /^SECTION\b/.test(lines[at + 1] ?? "");
}

/**
 * Opens what holds tables: it may need code that is loaded when first used. Undefined for formats that are read as they
 * are.
 */
export async function openTables(file: string, bytes: Uint8Array, format: Format): Promise<Tables | undefined> {
  if (bytes.length === 0) throw refusal("file-empty", { file });
  switch (format) {
    case "sqlite":
      return openSqlite(file, bytes);
    case "xlsx":
      return openXlsx(file, bytes);
    case "geojson":
      return openGeoJson(file, bytes);
    default:
      return undefined;
  }
}

/**
 * Reads one file. `tables` is what openTables gave. Nothing is taken in yet. What lies beyond reach is refused by row.
 */
export function readDelivery(
  file: string,
  bytes: Uint8Array,
  given: IntakeOptions,
  tables: Tables | undefined,
  context: DeliveryContext,
): Delivery {
  return withinReach(readAsItIs(file, bytes, given, tables, context), context.unit);
}

function readAsItIs(
  file: string,
  bytes: Uint8Array,
  given: IntakeOptions,
  tables: Tables | undefined,
  context: DeliveryContext,
): Delivery {
  const format = given.format ?? guessFormat(bytes);
  if (format === "landxml") {
    const { records, survey, reference } = readLandXml(
      file,
      bytes,
      context.unit,
      given.unit,
      context.isControl,
      context.progress,
    );
    return { format, records, survey, reference, beyond: [] };
  }
  if (format === "dxf") {
    return { format, ...readDxf(file, bytes, context.unit, given.unit), beyond: [] };
  }
  const { text, layout } = layOut(file, bytes, given, format, tables, context.order)!;
  const table = tables !== undefined;
  const read = readDelimited(file, text, layout, table ? "utf-8" : given.encoding, context.progress);
  if (tables) read.notes.push(...tables.notes);
  const names = columnNames(layout),
    kind = positionColumns(names)[0];
  const scaled = scaleRecords(read, unitFactor(given.unit ?? context.unit, context.unit), kind === "longitude");
  let records = scaled,
    beyond: Beyond[] = [];
  if (kind === "station")
    ({ records, beyond } = placeByStation(file, scaled, stationLine(file, given, context), context.unit));
  else if (kind === "longitude") {
    if (!context.system) throw refusal("system-missing", { file });
    records = placeBySatellite(scaled, names.includes("height"), {
      system: context.system,
      geoid: context.geoid,
      heightAt: given.heightAt ?? "mark",
      jobUnit: context.unit,
    });
  }
  return {
    format: format === "delimited" && layout.columns.some((c) => typeof c === "object") ? "fixed" : format,
    records,
    layout,
    beyond,
    ...(tables?.reference ? { reference: tables.reference } : {}),
    ...(table ? {} : { encoding: given.encoding ?? guessEncoding(bytes) }),
  };
}

export interface LaidOut {
  /** The rows as text: the file itself, or a table of it. */
  text: Uint8Array;
  layout: CompleteLayout;
  /** Names of the columns where the file gives them apart from its rows. */
  head?: string[];
}

/** How a file's rows are laid out, complete by guessing what is not given. Undefined for formats that have no rows. */
export function layOut(
  file: string,
  bytes: Uint8Array,
  given: IntakeOptions,
  format: Format,
  tables: Tables | undefined,
  order: "NE" | "EN",
): LaidOut | undefined {
  if (format === "landxml" || format === "dxf") return undefined;
  if (tables) {
    // Blanks, comments and quotes mean nothing special in a table.
    const table = pickTable(file, tables.tables, given.layout?.table),
      text = tableText(table);
    const layout = {
      ...given.layout,
      table: table.name,
      delimiter: TABLE_DELIMITER,
      quote: '"',
      comment: "",
      decimal: given.layout?.decimal ?? ".",
    };
    return { text, layout: guessLayout(text, order, layout, table.head), ...(table.head ? { head: table.head } : {}) };
  }
  checkText(file, bytes);
  const cut = given.layout?.columns?.some((c) => typeof c === "object");
  return {
    text: bytes,
    layout:
      format === "fixed" && !cut ? guessFixed(bytes, order, given.layout) : guessLayout(bytes, order, given.layout),
  };
}

function stationLine(file: string, given: IntakeOptions, context: DeliveryContext): StationLine {
  const { line } = given;
  if (!line) throw refusal("line-missing", { file });
  if ("points" in line) return straightLine(line.points, line.start);
  const found = context.references
    .filter((r) => r.file === line.file)
    .flatMap((r) => r.reference.lines)
    .find((l) => l.name === line.alignment);
  if (!found) throw refusal("line-unknown", { file, line: `${line.alignment} (${line.file})` });
  // A closed line is walked round once.
  return found.closed ? { ...found, xyz: Float64Array.from([...found.xyz, ...found.xyz.subarray(0, 3)]) } : found;
}
