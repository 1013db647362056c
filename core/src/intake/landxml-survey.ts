/** The Survey part of LandXML: setups, backsights and raw observations, collected element by element. */
import { readDecimal } from "../math/decimal";
import { fromPackedDms } from "../math/angles";
import { Doubles, Ints } from "../math/grow";
import { TextStore } from "../math/texts";
import type { RecordList } from "../records/records";
import type { Observations, Survey, SurveyBacksight, SurveySetup } from "../records/survey";
import { readTime } from "./delimited";
import { numbersOf, type XmlElement } from "./xml";

interface Reading {
  setup: string;
  row: number;
  number: string;
  description: string;
  note: string;
  time: string;
  circle: number;
  azimuth: number;
  zenith: number;
  slope: number;
  targetHeight: number;
  face: 1 | 2;
  /** Observed for the orientation. */
  sight: boolean;
}
interface Position {
  at: [number, number, number];
  row: number;
  control: boolean;
}
interface SetupRead extends Omit<SurveySetup, "backsights"> {
  backsights: (SurveyBacksight & { setup: string })[];
}

const number = (text: string | undefined) => readDecimal(text ?? "");

export class SurveyReader {
  private readonly setups = new Map<string, SetupRead>();
  private readonly loose: (SurveyBacksight & { setup: string })[] = [];
  private readonly column = {
    setup: new Ints(),
    row: new Ints(),
    number: new Ints(),
    description: new Ints(),
    note: new Ints(),
    time: new Ints(),
    face: new Ints(),
    circle: new Doubles(),
    azimuth: new Doubles(),
    zenith: new Doubles(),
    slope: new Doubles(),
    targetHeight: new Doubles(),
  };
  private readonly texts = new TextStore();
  private setup: SetupRead | undefined;
  private backsight: (SurveyBacksight & { setup: string }) | undefined;
  private reading: Reading | undefined;
  private group: XmlElement | undefined;

  open(x: XmlElement): void {
    const a = x.attributes;
    switch (x.name) {
      case "InstrumentSetup": {
        const id = a.id ?? a.stationName ?? `setup ${this.setups.size + 1}`;
        this.setup = {
          id,
          station: (a.stationName ?? "").trim(),
          row: x.row,
          instrumentHeight: number(a.instrumentHeight),
          backsights: [],
        };
        this.setups.set(id, this.setup);
        break;
      }
      case "Backsight":
        this.backsight = {
          setup: this.setup?.id ?? a.setupID ?? "",
          number: "",
          circle: number(a.circle),
          azimuth: number(a.azimuth),
        };
        break;
      case "ObservationGroup":
        this.group = x;
        break;
      case "RawObservation":
        this.reading = {
          setup: a.setupID ?? this.group?.attributes.setupID ?? this.setup?.id ?? "",
          row: x.row,
          number: "",
          description: "",
          note: "",
          time: a.timeStamp ?? "",
          circle: number(a.horizAngle),
          azimuth: number(a.azimuth),
          zenith: number(a.zenithAngle),
          slope: number(a.slopeDistance),
          targetHeight: number(a.targetHeight ?? this.group?.attributes.targetHeight),
          face: a.directFace === "false" || a.directFace === "0" ? 2 : 1,
          sight: (a.purpose ?? this.group?.attributes.purpose) === "backsight",
        };
    }
  }

  /** Whether the element was one of the survey's. */
  close(x: XmlElement): boolean {
    switch (x.name) {
      case "InstrumentPoint":
        if (this.setup) {
          this.setup.station = nameOf(x) || this.setup.station;
          this.setup.stationAt = positionIn(x);
        }
        return true;
      case "BacksightPoint":
        if (this.backsight) {
          this.backsight.number = nameOf(x);
          this.backsight.at = positionIn(x);
        }
        return true;
      case "Backsight":
        if (this.backsight)
          (this.setup && this.backsight.setup === this.setup.id ? this.setup.backsights : this.loose).push(
            this.backsight,
          );
        this.backsight = undefined;
        return true;
      case "TargetPoint":
        if (this.reading) {
          const { desc, code } = x.attributes;
          this.reading.number = (x.attributes.name ?? x.attributes.pntRef ?? "").trim();
          this.reading.description = desc ?? code ?? "";
        }
        return true;
      case "FieldNote":
        if (this.reading) this.reading.note = x.text.trim();
        return true;
      case "RawObservation":
        if (this.reading) this.keep(this.reading);
        this.reading = undefined;
        return true;
      case "InstrumentSetup":
        this.setup = undefined;
        return true;
      case "ObservationGroup":
        this.group = undefined;
        return true;
      default:
        return false;
    }
  }

  private keep(r: Reading): void {
    const { column: c, texts } = this;
    for (const key of ["setup", "number", "description", "note", "time"] as const) c[key].push(texts.of(r[key]));
    for (const key of ["circle", "azimuth", "zenith", "slope", "targetHeight"] as const) c[key].push(r[key]);
    c.row.push(r.row);
    c.face.push(r.face);
    if (r.sight && r.number !== "") this.loose.push({ setup: r.setup, number: r.number, circle: NaN, azimuth: NaN });
  }

  /**
   * The survey, with a record added for each number that was observed and is no control. Undefined when the file has
   * none.
   */
  finish(
    units: Record<string, string>,
    list: RecordList,
    positions: Map<string, Position>,
    isControl: (number: string) => boolean,
  ): Survey | undefined {
    const {
        column: c,
        texts: { texts },
      } = this,
      read = c.row.count;
    if (this.setups.size === 0 && read === 0) return undefined;
    for (const b of this.loose) {
      const sights = this.setups.get(b.setup)?.backsights;
      // One that the setup names itself, or that was observed in both faces, is one backsight.
      if (!sights?.some((x) => x.number === b.number)) sights?.push(b);
    }
    const inAngles = angleReader(units.angularUnit, c.circle, list.notes),
      inDirections = angleReader(units.directionUnit ?? units.angularUnit, c.azimuth, list.notes);
    const setups: SurveySetup[] = [...this.setups.values()].map((s) => ({
      ...s,
      backsights: s.backsights.map(({ number: sighted, circle, azimuth, at }): SurveyBacksight => ({
        number: sighted,
        circle: inAngles(circle),
        azimuth: inDirections(azimuth),
        ...(at ? { at } : {}),
      })),
    }));
    const setupAt = new Map(setups.map((s, i) => [s.id, i]));
    // Numbers go by their index among the survey's own; −1 for a text that names no point.
    const numbers: string[] = [],
      numberAt = new Int32Array(texts.length).fill(-1),
      observed = new Uint8Array(texts.length),
      index = new Map<string, number>();
    const o: Observations = {
      count: 0,
      setup: new Int32Array(read),
      target: new Int32Array(read),
      face: new Uint8Array(read),
      circle: new Float64Array(read),
      azimuth: new Float64Array(read),
      zenith: new Float64Array(read),
      slope: new Float64Array(read),
      targetHeight: new Float64Array(read),
      row: new Int32Array(read),
    };
    for (let i = 0; i < read; i++) {
      const text = c.number.at(i),
        name = texts[text]!,
        setup = setupAt.get(texts[c.setup.at(i)]!);
      const circle = c.circle.at(i),
        azimuth = c.azimuth.at(i),
        zenith = c.zenith.at(i),
        slope = c.slope.at(i);
      const reason =
        name === ""
          ? "the observation has no target point"
          : setup === undefined
            ? `point ${name}: its setup “${texts[c.setup.at(i)]}” is not in the file`
            : Number.isNaN(circle) && Number.isNaN(azimuth)
              ? `point ${name}: the horizontal angle cannot be read`
              : Number.isNaN(zenith) || !(slope > 0)
                ? `point ${name}: ${Number.isNaN(zenith) ? "the zenith angle" : "the slope distance"} cannot be read`
                : undefined;
      if (reason) {
        list.refused.push({ row: c.row.at(i), reason });
        continue;
      }
      const height = c.targetHeight.at(i),
        k = o.count++;
      if (numberAt[text] === -1) {
        numberAt[text] = numbers.push(name) - 1;
        index.set(name, numberAt[text]!);
      }
      [o.setup[k], o.target[k], o.face[k], o.row[k]] = [setup!, numberAt[text]!, c.face.at(i), c.row.at(i)];
      [o.circle[k], o.azimuth[k], o.zenith[k], o.slope[k], o.targetHeight[k]] = [
        inAngles(circle),
        inDirections(azimuth),
        inAngles(zenith),
        slope,
        Number.isNaN(height) ? 0 : height,
      ];
      // A point that the file also gives by coordinates keeps its record; one merely set up on or sighted is known by
      // them.
      if (observed[text] || positions.has(name) || isControl(name)) continue;
      observed[text] = 1;
      const time = texts[c.time.at(i)]!;
      list.add(c.row.at(i), name, NaN, NaN, NaN, {
        description: texts[c.description.at(i)]!,
        note: texts[c.note.at(i)]!,
        time: time ? readTime(time) : NaN,
        targetHeight: height,
        observed: true,
      });
    }
    for (const name of setups.flatMap((s) => [s.station, ...s.backsights.map((b) => b.number)]))
      if (!index.has(name)) index.set(name, numbers.push(name) - 1);
    return { setups, observations: o.count === read ? o : cut(o), numbers, numberRow: new Int32Array(numbers.length) };
  }
}

/** Refused readings leave their slots at the end. */
function cut(o: Observations): Observations {
  const { count } = o;
  return {
    count,
    setup: o.setup.slice(0, count),
    target: o.target.slice(0, count),
    face: o.face.slice(0, count),
    circle: o.circle.slice(0, count),
    azimuth: o.azimuth.slice(0, count),
    zenith: o.zenith.slice(0, count),
    slope: o.slope.slice(0, count),
    targetHeight: o.targetHeight.slice(0, count),
    row: o.row.slice(0, count),
  };
}

function nameOf(x: XmlElement): string {
  return (x.attributes.pntRef ?? x.attributes.name ?? "").trim();
}

function positionIn(x: XmlElement): [number, number, number] | undefined {
  const [n, e, z = NaN] = numbersOf(x.text);
  return n !== undefined && e !== undefined && Number.isFinite(n) && Number.isFinite(e) ? [e, n, z] : undefined;
}

/** Angles of the file → radians. The schema's default is radians, which no device means when it writes 90. */
function angleReader(unit: string | undefined, sample: Doubles, notes: string[]): (x: number) => number {
  switch (unit?.toLowerCase()) {
    case "decimal degrees":
      return (x) => (x * Math.PI) / 180;
    case "grads":
      return (x) => (x * Math.PI) / 200;
    case "decimal dd.mm.ss":
      return fromPackedDms;
    case "radians":
      return (x) => x;
    default: {
      let largest = 0;
      for (let i = 0; i < sample.count; i++) if (Math.abs(sample.at(i)) > largest) largest = Math.abs(sample.at(i));
      if (largest <= 4 * Math.PI) return (x) => x;
      const note = "The file does not say the unit of its angles; they were read as decimal degrees.";
      if (!notes.includes(note)) notes.push(note);
      return (x) => (x * Math.PI) / 180;
    }
  }
}
