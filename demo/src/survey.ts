/** Crew A's total station: what it reads of the positions that it shoots, as LandXML 1.2. */
import { CONTROL, type Shot } from "./crews.ts";

const RADIUS = 6_371_000,
  REFRACTION = 0.13;
export const TARGET_HEIGHT = 1.65,
  BACKSIGHT_HEIGHT = 1.75;

interface Setup {
  id: string;
  at: (typeof CONTROL)[number];
  sight: (typeof CONTROL)[number];
  height: number;
  zero: number;
  collimation: number;
  index: number;
}

const SECOND = Math.PI / 648_000;

/** Two setups: the first half of the shots from K1, the rest from K2, each with K3 or K1 sighted in both faces. */
export function surveyXml(shots: readonly Shot[]): string {
  const [k1, k2, k3] = CONTROL as [Setup["at"], Setup["at"], Setup["at"]];
  const setups: Setup[] = [
    { id: "S1", at: k1, sight: k3, height: 1.563, zero: 0.7231, collimation: 2.5 * SECOND, index: 4 * SECOND },
    { id: "S2", at: k2, sight: k1, height: 1.612, zero: 3.9147, collimation: 2.5 * SECOND, index: 4 * SECOND },
  ];
  // The last shot is the repeat on the mark that both setups see.
  const half = Math.floor(shots.length / 2),
    parts = [shots.slice(0, half), shots.slice(half)];
  const points = CONTROL.map(
    (k) =>
      `<CgPoint name="${k.number}" pntSurv="control" code="MARK" desc="${k.number}">${k.n.toFixed(3)} ${k.e.toFixed(3)} ${k.z.toFixed(3)}</CgPoint>`,
  ).join("\n");
  const survey = setups
    .map(
      (s, i) => `<InstrumentSetup id="${s.id}" stationName="${s.at.number}" instrumentHeight="${s.height.toFixed(3)}">
<InstrumentPoint pntRef="${s.at.number}"/>
<Backsight id="${s.id}-b" circle="${degrees(read(s, s.sight, BACKSIGHT_HEIGHT).circle)}" setupID="${s.id}"><BacksightPoint pntRef="${s.sight.number}"/></Backsight>
</InstrumentSetup>
<ObservationGroup id="${s.id}-backsight" purpose="backsight" setupID="${s.id}">
${both(s)}
</ObservationGroup>
<ObservationGroup id="${s.id}-shots" purpose="sideshot" setupID="${s.id}">
${parts[i]!.map((shot) => observation(s, shot)).join("\n")}
</ObservationGroup>`,
    )
    .join("\n");
  return `<?xml version="1.0" encoding="UTF-8"?>
<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2" date="2031-04-17" time="16:20:00">
<Units><Metric areaUnit="squareMeter" linearUnit="meter" volumeUnit="cubicMeter" temperatureUnit="celsius" pressureUnit="milliBars" angularUnit="decimal degrees" directionUnit="decimal degrees"/></Units>
<CgPoints>
${points}
</CgPoints>
<Survey><SurveyHeader name="Gorsefold, day 1"/>
${survey}
</Survey>
</LandXML>
`;
}

/** Circle and zenith in radians and the slope, without the instrument's own errors. */
function read(s: Setup, at: { e: number; n: number; z: number }, height: number) {
  const de = at.e - s.at.e,
    dn = at.n - s.at.n,
    flat = Math.hypot(de, dn),
    full = 2 * Math.PI;
  const rise = at.z + height - s.at.z - s.height - ((1 - REFRACTION) * flat * flat) / (2 * RADIUS);
  return {
    circle: (((Math.atan2(de, dn) - s.zero) % full) + full) % full,
    zenith: Math.PI / 2 - Math.atan2(rise, flat),
    slope: Math.hypot(flat, rise),
  };
}

function degrees(radians: number): string {
  const full = 2 * Math.PI;
  return (((((radians % full) + full) % full) * 180) / Math.PI).toFixed(6);
}

/** Shots in one face are corrected for the instrument's errors, as devices do; the backsight in two faces shows them. */
function observation(s: Setup, shot: Shot): string {
  const { circle, zenith, slope } = read(s, shot, TARGET_HEIGHT);
  return row(
    s,
    TARGET_HEIGHT,
    circle,
    zenith,
    slope,
    true,
    `name="${shot.number}" desc="${escaped(shot.description)}"`,
  );
}

function both(s: Setup): string {
  const { circle, zenith, slope } = read(s, s.sight, BACKSIGHT_HEIGHT),
    c = s.collimation / Math.sin(zenith),
    target = `pntRef="${s.sight.number}" name="${s.sight.number}"`;
  return [
    row(s, BACKSIGHT_HEIGHT, circle - c, zenith + s.index, slope, true, target),
    row(s, BACKSIGHT_HEIGHT, circle + Math.PI + c, 2 * Math.PI - zenith + s.index, slope, false, target),
  ].join("\n");
}

function row(
  s: Setup,
  height: number,
  circle: number,
  zenith: number,
  slope: number,
  direct: boolean,
  target: string,
): string {
  return `<RawObservation setupID="${s.id}" targetHeight="${height.toFixed(3)}" horizAngle="${degrees(circle)}" zenithAngle="${degrees(zenith)}" slopeDistance="${slope.toFixed(4)}" directFace="${direct}"><TargetPoint ${target}/></RawObservation>`;
}

function escaped(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll('"', "&quot;");
}
