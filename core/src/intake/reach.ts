/** What a delivery says beyond all reach is refused row by row, whatever format it came in (math/reach.ts). */
import { isBeyondReach, REACH } from "../math/reach";
import { formatGrouped } from "../math/round";
import type { Unit } from "../math/units";
import { plural } from "../math/words";
import { LONGEST_NAME } from "../shape";
import { pickRecords, type Records } from "../records/records";
import type { Reference } from "../records/reference";
import type { Survey } from "../records/survey";

interface Given {
  records: Records;
  survey?: Survey;
  reference?: Reference;
}

/** The delivery without rows, lines and surfaces beyond reach; raw measurements beyond it count as not taken. */
export function withinReach<D extends Given>(delivery: D, unit: Unit): D {
  const beyond = `beyond ±${formatGrouped(REACH, 0)} ${unit}`,
    notes: string[] = [],
    records = withoutBadRows(delivery.records, beyond),
    reference = delivery.reference && withoutFarLines(delivery.reference, beyond, notes),
    survey = delivery.survey && withoutFarMeasurements(delivery.survey, beyond, notes);
  return {
    ...delivery,
    records: notes.length ? { ...records, notes: [...records.notes, ...notes] } : records,
    ...(reference ? { reference } : {}),
    ...(survey ? { survey } : {}),
  };
}

function withoutBadRows(r: Records, beyond: string): Records {
  const keep = new Uint8Array(r.count).fill(1),
    refused = r.refused.slice();
  for (let i = 0; i < r.count; i++) {
    const reason = farIn(r, i, beyond) ?? longIn(r, i);
    if (reason === undefined) continue;
    keep[i] = 0;
    refused.push({ row: r.row[i]!, reason });
  }
  return keep.includes(0) ? { ...pickRecords(r, keep), refused: refused.sort((a, b) => a.row - b.row) } : r;
}

function farIn(r: Records, i: number, beyond: string): string | undefined {
  const [name, value] = isBeyondReach(r.e[i]!)
    ? ["easting", r.e[i]!]
    : isBeyondReach(r.n[i]!)
      ? ["northing", r.n[i]!]
      : ["elevation", r.z[i]!];
  return isBeyondReach(value as number) ? `the ${name} ${value} lies ${beyond}` : undefined;
}

/** A number that is no name of a point, but a text that slipped in. */
function longIn({ number }: Records, i: number): string | undefined {
  if (number.roomOf(i) <= LONGEST_NAME) return undefined;
  const { length } = number.at(i);
  return length > LONGEST_NAME ? `the number has ${length} letters, and may have ${LONGEST_NAME}` : undefined;
}

function withoutFarLines(r: Reference, beyond: string, notes: string[]): Reference {
  const lines = r.lines.filter((l) => !l.xyz.some(isBeyondReach)),
    surfaces = r.surfaces.filter((s) => !s.points.some(isBeyondReach)),
    left = r.lines.length - lines.length + r.surfaces.length - surfaces.length;
  if (left === 0) return r;
  notes.push(`${plural(left, "line or surface has", "lines and surfaces have")} corners ${beyond}, and were left out.`);
  return { lines, surfaces };
}

function withoutFarMeasurements(s: Survey, beyond: string, notes: string[]): Survey {
  const { observations: o } = s,
    kept = Int32Array.from(o.setup.keys()).filter(
      (k) =>
        !isBeyondReach(o.slope[k]!) &&
        !isBeyondReach(o.targetHeight[k]!) &&
        !isBeyondReach(s.setups[o.setup[k]!]!.instrumentHeight),
    ),
    left = o.count - kept.length;
  if (left === 0) return s;
  notes.push(
    `${plural(left, "measurement has a length", "measurements have lengths")} ${beyond}, and count as not taken.`,
  );
  const column = <T extends Float64Array | Int32Array | Uint8Array>(of: T): T => {
    const out = of.slice(0, kept.length) as T;
    kept.forEach((k, i) => (out[i] = of[k]!));
    return out;
  };
  const observations: Survey["observations"] = {
    count: kept.length,
    setup: column(o.setup),
    target: column(o.target),
    face: column(o.face),
    circle: column(o.circle),
    azimuth: column(o.azimuth),
    zenith: column(o.zenith),
    slope: column(o.slope),
    targetHeight: column(o.targetHeight),
    row: column(o.row),
  };
  return { ...s, observations };
}
