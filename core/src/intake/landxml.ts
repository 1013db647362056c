/**
 * LandXML 1.2 → points, raw observations, reference lines and surfaces, in one pass over the file.
 *
 * Coordinates stand as northing, easting, level. Angles are read by Units (angularUnit, directionUnit), lengths by
 * linearUnit; what the file does not say is taken as the schema says (radians) unless its angles are too large for
 * that. Spirals are not read: the element that holds one is left out, with a note.
 */
import { KINDS } from "../records/kinds";
import { refusal } from "../errors";
import { unitFactor, type Unit } from "../math/units";
import { plural } from "../math/words";
import { scaleReference, type Reference } from "../records/reference";
import { scaleRecords, RecordList, type Records } from "../records/records";
import type { Survey } from "../records/survey";
import { readTime, type Progress } from "./delimited";
import { GeometryReader } from "./landxml-geometry";
import { SurveyReader } from "./landxml-survey";
import { numbersOf, readXml, type XmlElement } from "./xml";

export interface LandXml {
  records: Records;
  survey?: Survey;
  reference?: Reference;
}

/** Linear units of LandXML by their length in metres, or a unit of ours where it is one exactly. */
const LINEAR: Record<string, Unit | number> = {
  meter: "m",
  foot: "ft",
  ussurveyfoot: "ftUS",
  millimeter: 0.001,
  centimeter: 0.01,
  kilometer: 1000,
  inch: 0.0254,
  mile: 1609.344,
};

/** Numbers that are control elsewhere in the job: shots on them are checks and make no point. */
export type IsControl = (number: string) => boolean;

/** `given` is the file's unit where the person says it; else the file's Units do, else the job's. */
export function readLandXml(
  file: string,
  bytes: Uint8Array,
  jobUnit: Unit,
  given: Unit | undefined,
  isControl: IsControl,
  progress?: Progress,
): LandXml {
  const list = new RecordList();
  const survey = new SurveyReader();
  const geometry = new GeometryReader(list.notes);
  const positions = new Map<string, { at: [number, number, number]; row: number; control: boolean }>();
  let units: Record<string, string> = {},
    root = false;

  const cgPoint = (x: XmlElement) => {
    const a = x.attributes,
      at = numbersOf(x.text),
      [n, e, z = NaN] = at;
    const number = (a.name ?? a.oID ?? "").trim();
    // A point without text may refer to another one: it says nothing new.
    if (a.pntRef !== undefined && x.text.trim() === "") return;
    if (number === "") return void list.refused.push({ row: x.row, reason: "the point has no name" });
    if (!Number.isFinite(n) || !Number.isFinite(e))
      return void list.refused.push({ row: x.row, reason: `point ${number}: its northing and easting cannot be read` });
    if (at.length > 2 && Number.isNaN(z))
      return void list.refused.push({ row: x.row, reason: `point ${number}: its elevation is no decimal` });
    const control = a.pntSurv === "control";
    positions.set(number, { at: [e!, n!, z], row: x.row, control });
    list.add(x.row, number, e!, n!, z, {
      kind: control ? KINDS.indexOf("control") : a.pntSurv === "proposed" ? KINDS.indexOf("design") : -1,
      description: a.code ?? a.desc ?? "",
      note: a.code !== undefined && a.desc !== undefined && a.desc !== a.code ? a.desc : "",
      time: a.timeStamp ? readTime(a.timeStamp) : NaN,
    });
  };

  readXml(
    file,
    bytes,
    {
      open: (x) => {
        if (!x.parent) {
          root = true;
          if (x.name !== "LandXML")
            throw refusal("file-format", { file, what: "LandXML", why: `it starts with <${x.name}>` });
        }
        survey.open(x);
        geometry.open(x);
      },
      close: (x) => {
        if (x.parent?.name === "Units") units = x.attributes;
        else if (x.name === "CgPoint" && x.parent?.name === "CgPoints") cgPoint(x);
        else if (!survey.close(x)) geometry.close(x);
        // Children of one element are read as they close; nothing else holds on to them.
        x.text = "";
      },
    },
    progress,
  );
  if (!root) throw refusal("file-empty", { file });

  const factor = linearFactor(units.linearUnit, given, jobUnit, file);
  const read = survey.finish(units, list, positions, isControl);
  const records = scaleRecords(list.records(255), factor);
  const reference = geometry.finish((number) => positions.get(number)?.at);
  const parts = [
    reference.lines.length && plural(reference.lines.length, "line"),
    reference.surfaces.length && plural(reference.surfaces.length, "surface"),
  ].filter(Boolean);
  if (parts.length) records.notes.push(`It brings ${parts.join(" and ")} as reference.`);
  return {
    records,
    ...(read ? { survey: withRows(scaleSurvey(read, factor), records) } : {}),
    ...(parts.length ? { reference: scaleReference(reference, factor) } : {}),
  };
}

function linearFactor(written: string | undefined, given: Unit | undefined, jobUnit: Unit, file: string): number {
  if (given) return unitFactor(given, jobUnit);
  if (written === undefined) return 1;
  const known = LINEAR[written.toLowerCase()];
  if (known === undefined)
    throw refusal("file-format", {
      file,
      what: "LandXML",
      why: `its unit “${written}” is not known; say the unit of the file`,
    });
  return typeof known === "string" ? unitFactor(known, jobUnit) : known * unitFactor("m", jobUnit);
}

function scaleSurvey(s: Survey, factor: number): Survey {
  if (factor === 1) return s;
  const at = (p?: [number, number, number]) =>
    p ? { 0: p[0] * factor, 1: p[1] * factor, 2: p[2] * factor } : undefined;
  const tuple = (p?: [number, number, number]) => {
    const q = at(p);
    return q ? ([q[0], q[1], q[2]] as [number, number, number]) : undefined;
  };
  return {
    ...s,
    setups: s.setups.map((k) => ({
      ...k,
      instrumentHeight: k.instrumentHeight * factor,
      stationAt: tuple(k.stationAt),
      backsights: k.backsights.map((b) => ({ ...b, at: tuple(b.at) })),
    })),
    observations: {
      ...s.observations,
      slope: s.observations.slope.map((v) => v * factor),
      targetHeight: s.observations.targetHeight.map((v) => v * factor),
    },
  };
}

/** Rows as the records finally have them: several records of one line were given the lines after it. */
function withRows(s: Survey, records: Records): Survey {
  const rowOf = new Map(records.number.all().map((number, i) => [number, records.row[i]!]));
  return { ...s, numberRow: Int32Array.from(s.numbers, (number) => rowOf.get(number) ?? 0) };
}
