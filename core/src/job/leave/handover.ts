/** Each entry of the handover written from the job's state and what was derived, and read back before it leaves. */
import { layOutTexts, TEXT_HEIGHT } from "../../drawing/layout";
import { refusal } from "../../errors";
import { writeDelimited } from "../../handover/delimited";
import { writeDxf } from "../../handover/dxf/write";
import { writeGeoJson } from "../../handover/geojson";
import { writeGeoPackage } from "../../handover/gpkg/write";
import { writeGpx } from "../../handover/gpx";
import { writeKml } from "../../handover/kml";
import { writeLandXml } from "../../handover/landxml/write";
import { listTable } from "../../handover/lists";
import type { BroughtFile, HandoverFile, PackageFile } from "../../handover/files";
import type { Proof } from "../../handover/proof/found";
import { proveDxf, proveGeoJson, proveGeoPackage, proveKml, proveLandXml } from "../../handover/proof/geometry";
import { proveGpx } from "../../handover/proof/gpx";
import { proveDelimited, proveWorkbook } from "../../handover/proof/tables";
import { writeWorkbook } from "../../handover/workbook";
import { sameJson } from "../../math/json";
import { METRES } from "../../math/units";
import { layoutSource, paperScale } from "./drawn";
import { handoverSource, pointsFor, sheetsOf, type JobThen, type RowsOf } from "./handover-source";
import type { JobState } from "../model/model";
import type { Derived } from "../chain/values";

export interface Written {
  bytes: Uint8Array;
  proof: Proof;
}

/** One format that leaves: its bytes, and what is found when they are read back. */
interface Writer<F extends HandoverFile> {
  write(job: Leaving<F>): Uint8Array | Promise<Uint8Array>;
  prove(bytes: Uint8Array, job: Leaving<F>): Proof | Promise<Proof>;
}

interface Leaving<F extends HandoverFile> extends RowsOf {
  file: F;
  state: JobState;
  derived: Derived;
}

/** What the core writes by itself, one at a time. */
export type OwnFile = Exclude<HandoverFile, BroughtFile | PackageFile>;

const WRITERS: { [F in OwnFile["format"]]: Writer<Extract<OwnFile, { format: F }>> } = {
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
  gpx: {
    write: ({ file, source }) => writeGpx(file, source),
    prove: (bytes, { file, source }) => proveGpx(file, bytes, source),
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

/** Writes one file and reads it back. Throws a Refusal when something that it needs is not there. */
export async function writeFile(file: OwnFile, state: JobState, derived: Derived, last?: JobThen): Promise<Written> {
  const writer = WRITERS[file.format] as Writer<OwnFile>,
    job = { file, source: handoverSource(file, state, derived), state, derived, last },
    bytes = await writer.write(job);
  return { bytes, proof: await writer.prove(bytes, job) };
}
