/** The Survey part of LandXML: setups, backsights and raw observations, collected element by element. */
import { fromPackedDms } from "../math/angles";
import type { RecordList } from "../records/records";
import type { Observations, Survey, SurveyBacksight, SurveySetup } from "../records/survey";
import { readTime } from "./delimited";
import { numbersOf, type XmlElement } from "./xml";

interface Reading {
  setup: string; row: number; number: string; description: string; note: string; time: string; backsight: boolean; at?: [number, number, number];
  circle: number; azimuth: number; zenith: number; slope: number; targetHeight: number; face: 1 | 2;
}
interface Place { at: [number, number, number]; row: number; control: boolean }
interface SetupRead extends Omit<SurveySetup, "backsights"> { backsights: (SurveyBacksight & { setup: string })[] }

const number = (text: string | undefined) => (text === undefined || text.trim() === "" ? NaN : Number(text));

export class SurveyReader {
  private readonly setups = new Map<string, SetupRead>();
  private readonly loose: (SurveyBacksight & { setup: string })[] = [];
  private readonly readings: Reading[] = [];
  private setup: SetupRead | undefined;
  private backsight: (SurveyBacksight & { setup: string }) | undefined;
  private reading: Reading | undefined;
  private group: XmlElement | undefined;

  open(x: XmlElement): void {
    const a = x.attributes;
    switch (x.name) {
      case "InstrumentSetup": {
        const id = a.id ?? a.stationName ?? `setup ${this.setups.size + 1}`;
        this.setup = { id, station: (a.stationName ?? "").trim(), row: x.row, instrumentHeight: number(a.instrumentHeight), backsights: [] };
        this.setups.set(id, this.setup);
        break;
      }
      case "Backsight":
        this.backsight = { setup: this.setup?.id ?? a.setupID ?? "", number: "", circle: number(a.circle), azimuth: number(a.azimuth) };
        break;
      case "ObservationGroup": this.group = x; break;
      case "RawObservation":
        this.reading = {
          setup: a.setupID ?? this.group?.attributes.setupID ?? this.setup?.id ?? "", row: x.row, number: "", description: "", note: "", time: a.timeStamp ?? "",
          backsight: (a.purpose ?? this.group?.attributes.purpose) === "backsight", circle: number(a.horizAngle), azimuth: number(a.azimuth), zenith: number(a.zenithAngle),
          slope: number(a.slopeDistance), targetHeight: number(a.targetHeight ?? this.group?.attributes.targetHeight), face: a.directFace === "false" || a.directFace === "0" ? 2 : 1,
        };
    }
  }

  /** Whether the element was one of the survey's. */
  close(x: XmlElement): boolean {
    switch (x.name) {
      case "InstrumentPoint":
        if (this.setup) {
          this.setup.station = nameOf(x) || this.setup.station;
          this.setup.stationAt = placeIn(x);
        }
        return true;
      case "BacksightPoint":
        if (this.backsight) {
          this.backsight.number = nameOf(x);
          this.backsight.at = placeIn(x);
        }
        return true;
      case "Backsight":
        if (this.backsight) (this.setup && this.backsight.setup === this.setup.id ? this.setup.backsights : this.loose).push(this.backsight);
        this.backsight = undefined;
        return true;
      case "TargetPoint":
        if (this.reading) {
          const { desc, code } = x.attributes;
          this.reading.number = (x.attributes.name ?? x.attributes.pntRef ?? "").trim();
          this.reading.description = desc ?? code ?? "";
          this.reading.at = placeIn(x);
        }
        return true;
      case "FieldNote":
        if (this.reading) this.reading.note = x.text.trim();
        return true;
      case "RawObservation":
        if (this.reading) this.readings.push(this.reading);
        this.reading = undefined;
        return true;
      case "InstrumentSetup": this.setup = undefined; return true;
      case "ObservationGroup": this.group = undefined; return true;
      default: return false;
    }
  }

  /** The survey, with a record added for each number that was observed and is no control. Undefined when the file has none. */
  finish(units: Record<string, string>, list: RecordList, places: Map<string, Place>, isControl: (number: string) => boolean): Survey | undefined {
    if (this.setups.size === 0 && this.readings.length === 0) return undefined;
    for (const b of this.loose) this.setups.get(b.setup)?.backsights.push(b);
    const inAngles = angleReader(units.angularUnit, this.readings.map((r) => r.circle), list.notes);
    const inDirections = angleReader(units.directionUnit ?? units.angularUnit, this.readings.map((r) => r.azimuth), list.notes);
    const setups: SurveySetup[] = [...this.setups.values()].map((s) => ({
      ...s, backsights: s.backsights.map(({ number: sighted, circle, azimuth, at }): SurveyBacksight => ({ number: sighted, circle: inAngles(circle), azimuth: inDirections(azimuth), ...(at ? { at } : {}) })),
    }));
    const setupAt = new Map(setups.map((s, i) => [s.id, i]));
    const numbers: string[] = [], index = new Map<string, number>();
    const of = (name: string) => {
      let i = index.get(name);
      if (i === undefined) index.set(name, (i = numbers.push(name) - 1));
      return i;
    };
    const kept = this.readings.filter((r) => {
      const reason = r.number === "" ? "the observation has no target point"
        : !setupAt.has(r.setup) ? `point ${r.number}: its setup “${r.setup}” is not in the file`
          : Number.isNaN(r.circle) && Number.isNaN(r.azimuth) ? `point ${r.number}: the horizontal angle cannot be read`
            : Number.isNaN(r.zenith) || !(r.slope > 0) ? `point ${r.number}: ${Number.isNaN(r.zenith) ? "the zenith angle" : "the slope distance"} cannot be read` : undefined;
      if (reason) list.refused.push({ row: r.row, reason });
      return !reason;
    });
    const observed = new Set<string>();
    for (const r of kept) {
      const place = places.get(r.number);
      if (place?.control || isControl(r.number) || observed.has(r.number)) continue;
      observed.add(r.number);
      // A point that the file also gives by coordinates keeps its record; one merely set up on or sighted is known by them.
      if (place) continue;
      list.add(r.row, r.number, NaN, NaN, NaN, {
        description: r.description, note: r.note, time: r.time ? readTime(r.time) : NaN, targetHeight: r.targetHeight, observed: true,
      });
    }
    const count = kept.length, setup = new Int32Array(count), target = new Int32Array(count), face = new Uint8Array(count), row = new Int32Array(count);
    const circle = new Float64Array(count), azimuth = new Float64Array(count), zenith = new Float64Array(count), slope = new Float64Array(count), targetHeight = new Float64Array(count);
    for (const [k, r] of kept.entries()) {
      [setup[k], target[k], face[k], row[k]] = [setupAt.get(r.setup)!, of(r.number), r.face, r.row];
      [circle[k], azimuth[k], zenith[k], slope[k]] = [inAngles(r.circle), inDirections(r.azimuth), inAngles(r.zenith), r.slope];
      targetHeight[k] = Number.isNaN(r.targetHeight) ? 0 : r.targetHeight;
    }
    const observations: Observations = { count, setup, target, face, circle, azimuth, zenith, slope, targetHeight, row };
    for (const s of setups) {
      of(s.station);
      for (const b of s.backsights) of(b.number);
    }
    return { setups, observations, numbers, numberRow: new Int32Array(numbers.length) };
  }
}

function nameOf(x: XmlElement): string {
  return (x.attributes.pntRef ?? x.attributes.name ?? "").trim();
}

function placeIn(x: XmlElement): [number, number, number] | undefined {
  const [n, e, z = NaN] = numbersOf(x.text);
  return n !== undefined && e !== undefined && Number.isFinite(n) && Number.isFinite(e) ? [e, n, z] : undefined;
}

/** Angles of the file → radians. The schema's default is radians, which no device means when it writes 90. */
function angleReader(unit: string | undefined, sample: readonly number[], notes: string[]): (x: number) => number {
  switch (unit?.toLowerCase()) {
    case "decimal degrees": return (x) => (x * Math.PI) / 180;
    case "grads": return (x) => (x * Math.PI) / 200;
    case "decimal dd.mm.ss": return fromPackedDms;
    case "radians": return (x) => x;
    default: {
      if (!sample.some((x) => Math.abs(x) > 4 * Math.PI)) return (x) => x;
      const note = "The file does not say the unit of its angles; they were read as decimal degrees.";
      if (!notes.includes(note)) notes.push(note);
      return (x) => (x * Math.PI) / 180;
    }
  }
}
