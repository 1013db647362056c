/** Each entry of the handover written from the job's state and what was derived, and read back before it leaves. */
import { layOutTexts, TEXT_HEIGHT } from "../drawing/layout";
import { refusal } from "../errors";
import { rowWriter, writeDelimited } from "../handover/delimited";
import { writeDxf } from "../handover/dxf/write";
import { writeGeoJson } from "../handover/geojson";
import { writeGeoPackage } from "../handover/gpkg/write";
import { writeKml } from "../handover/kml";
import { writeLandXml } from "../handover/landxml/write";
import { listTable } from "../handover/lists";
import { pointsOf, type HandoverFile, type HandoverFormat, type PointColumns } from "../handover/model";
import { pointsTable } from "../handover/columns";
import type { Proof } from "../handover/proof/found";
import { proveDxf, proveGeoJson, proveGeoPackage, proveKml, proveLandXml } from "../handover/proof/geometry";
import { proveDelimited, proveWorkbook } from "../handover/proof/tables";
import type { HandoverSource } from "../handover/source";
import { MOST_ROWS, writeWorkbook } from "../handover/workbook";
import type { OutTable } from "../handover/table";
import { sameJson } from "../math/json";
import { METRES } from "../math/units";
import { pointsOfSelection } from "../sets/sets";
import { layoutSource, paperScale } from "./drawn";
import type { JobState } from "./model";
import { setContext } from "./sets";
import { settingOf } from "./settings";
import type { Derived, Made } from "./values";

/** A job as it was, with all that followed from it. */
export interface JobThen {
  state: JobState;
  derived: Derived;
}

export interface Written {
  bytes: Uint8Array;
  proof: Proof;
}

/** One format that leaves: its bytes, and what is found when they are read back. */
interface Writer<F extends HandoverFile> {
  write(job: Leaving<F>): Uint8Array | Promise<Uint8Array>;
  prove(bytes: Uint8Array, job: Leaving<F>): Proof | Promise<Proof>;
}

interface Leaving<F extends HandoverFile> {
  file: F;
  source: HandoverSource;
  state: JobState;
  derived: Derived;
  /** The job when the file was made last, where it was. */
  last: JobThen | undefined;
}

type SingleFile = Exclude<HandoverFile, { format: "package" }>;

const WRITERS: { [F in SingleFile["format"]]: Writer<Extract<SingleFile, { format: F }>> } = {
  csv: {
    write: ({ file, ...job }) => writeDelimited(pointsFor(file, job), file),
    prove: (bytes, { file, ...job }) => proveDelimited(file.file, bytes, pointsFor(file, job), file),
  },
  xlsx: {
    write: ({ file, source, ...job }) => writeWorkbook(sheetsOf(file, { source, ...job }), source.date),
    prove: (bytes, { file, ...job }) => proveWorkbook(file.file, bytes, sheetsOf(file, job)),
  },
  dxf: {
    write({ file, source, state, derived }) {
      const metres = METRES[state.unit],
        unitsPerMm = (state.drawing?.scale ?? paperScale(state.points, metres)) / 1000 / metres,
        drawn = layoutSource(state, derived, { notes: true, points: true, contours: true }),
        layout = layOutTexts(drawn, unitsPerMm);
      return writeDxf({
        ...source,
        file,
        symbols: derived.symbols,
        layout,
        textHeight: TEXT_HEIGHT * unitsPerMm,
        unitsPerMm,
      });
    },
    prove: (bytes, { file, source }) => proveDxf(file, bytes, source),
  },
  landxml: {
    write: ({ file, source }) => writeLandXml(file, source),
    prove: (bytes, { file, source }) => proveLandXml(file, bytes, source),
  },
  geojson: {
    write({ file, source }) {
      const bytes = writeGeoJson(file, source);
      if (bytes.length > MOST_JSON)
        throw refusal("handover-large", {
          file: file.file,
          what: `${Math.round(bytes.length / 1e6)} MB`,
          instead: "Leave its surfaces or contours out, or hand over a GeoPackage",
        });
      return bytes;
    },
    prove: (bytes, { file, source }) => proveGeoJson(file, bytes, source),
  },
  kml: {
    write: ({ file, source }) => writeKml(file, source),
    prove: (bytes, { file, source }) => proveKml(file, bytes, source),
  },
  gpkg: {
    write: ({ file, source }) => writeGeoPackage(file, source),
    prove: (bytes, { file, source }) => proveGeoPackage(file, bytes, source),
  },
  list: {
    write: ({ file, source }) => writeDelimited(listTable(file, source), file),
    prove: (bytes, { file, source }) => proveDelimited(file.file, bytes, listTable(file, source), file),
  },
  codebook: {
    write: ({ source }) => new TextEncoder().encode(`${JSON.stringify(source.book, null, 2)}\n`),
    prove(bytes, { file, source }) {
      if (!sameJson(JSON.parse(new TextDecoder().decode(bytes)), source.book))
        throw refusal("handover-proof", { file: file.file, why: "the book is another" });
      return { counts: { codes: source.book.codes?.length ?? 0 }, difference: 0 };
    },
  },
};

/** Bytes of a JSON text that a reader can hold as one. */
const MOST_JSON = 400e6;

/** Writes one file that is no package and reads it back. Throws a Refusal when something that it needs is not there. */
export async function writeFile(
  file: HandoverFile,
  state: JobState,
  derived: Derived,
  last?: JobThen,
): Promise<Written> {
  if (file.format === "package") throw refusal("handover-circle", { file: file.file });
  const writer = WRITERS[file.format] as Writer<SingleFile>,
    job = { file, source: handoverSource(file, state, derived), state, derived, last },
    bytes = await writer.write(job);
  return { bytes, proof: await writer.prove(bytes, job) };
}

/** What a file is written from. Surfaces and contours that it would hold must have been made. */
export function handoverSource(file: HandoverFile, state: JobState, derived: Derived): HandoverSource {
  const rows = pointsOfSelection(pointsOf(file) ?? "*", setContext(state, derived), `handover “${file.file}”`);
  const wants = (what: string) => holdsOf(file).includes(what);
  const source: Omit<HandoverSource, "labels"> = {
    name: state.name,
    client: state.client ?? "",
    date: state.date,
    unit: state.unit,
    areaUnit: settingOf(state, "areaUnit"),
    system: state.system,
    book: state.book,
    intakes: state.intakes,
    delivered: state.delivered,
    table: state.points,
    coded: derived.coded,
    rows,
    lines: derived.lines,
    chains: derived.chains,
    surfaces: wants("surfaces") || wants("contours") ? valuesOf(derived.surfaces).map((s) => s.surface) : [],
    contours: wants("contours") ? valuesOf(derived.drawnContours) : [],
    setups: derived.setupReports,
    pointSetups: derived.pointSetups,
    drawing: state.drawing ?? {},
    hidden: settingOf(state, "hiddenLayers"),
  };
  return { ...source, labels: labelsOf(derived) };
}

/** What of the geometry a file holds. */
function holdsOf(file: HandoverFile): readonly string[] {
  if ("holds" in file && file.holds) return file.holds;
  switch (file.format) {
    case "landxml":
    case "geojson":
    case "gpkg":
      return ["points", "lines", "surfaces", "contours"];
    case "kml":
      return ["points", "lines", "contours"];
    case "dxf":
      return [...(file.triangles === false ? [] : ["surfaces"]), ...(file.contours === false ? [] : ["contours"])];
    default:
      return [];
  }
}

/** All of a list; throws why the first that could not be made was not. */
function valuesOf<T>(all: readonly Made<T>[]): T[] {
  return all.map((m) => {
    if (!m.ok) throw m.refusal;
    return m.value;
  });
}

/** Notes of points by the points' rows. */
function labelsOf({ notes, symbols }: Derived): Map<number, string> {
  const labels = new Map<number, string>();
  for (const { symbol, text } of notes) {
    if (symbol < 0) continue;
    const row = symbols.point[symbol]!;
    labels.set(row, labels.has(row) ? `${labels.get(row)}; ${text}` : text);
  }
  return labels;
}

type Job = Omit<Leaving<HandoverFile>, "file">;

/** The points of a file as a table; of a file of changes those whose row reads otherwise than the last time. */
function pointsFor(file: PointColumns & { file: string; format: HandoverFormat }, { source, last }: Job): OutTable {
  const now = pointsTable(file, source, source.rows);
  if (file.only !== "changed" || !last) return now;
  const then = handoverSource({ ...file, only: undefined } as HandoverFile, last.state, last.derived),
    readThen = rowWriter(pointsTable(file, then, then.rows), {}),
    readNow = rowWriter(now, {});
  const rowThen = new Map(Array.from(then.rows, (row, k) => [then.table.id[row]!, k]));
  const changed = source.rows.filter((row, k) => {
    const was = rowThen.get(source.table.id[row]!);
    return was === undefined || readThen(was) !== readNow(k);
  });
  return pointsTable(file, source, changed);
}

/** A workbook's sheets: the points, and the lines and areas where there are any. */
function sheetsOf(file: PointColumns & { file: string; format: HandoverFormat }, job: Job): OutTable[] {
  const sheets = [
    pointsFor(file, job),
    ...(["lines", "areas"] as const).map((of) => listTable({ of }, job.source)).filter((t) => t.count > 0),
  ];
  const long = sheets.find((t) => t.count >= MOST_ROWS);
  if (long)
    throw refusal("handover-large", {
      file: file.file,
      what: `${long.count} rows`,
      instead: "Hand the points over as text, or fewer of them",
    });
  return sheets;
}
