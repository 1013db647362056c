/** The forward model of a total station: what it reads of known positions, and its LandXML. Independent of the reduction's code. */
export interface TruePosition {
  number: string;
  e: number;
  n: number;
  z: number;
}
export interface TrueTarget extends TruePosition {
  height: number;
  faces: number;
  code?: string;
}
export interface TrueSetup {
  id: string;
  at: TruePosition;
  height: number;
  zero: number;
  backsight: TruePosition;
  targets: TrueTarget[];
  collimation?: number;
  index?: number;
}

const RADIUS = 6_371_000,
  REFRACTION = 0.13;

/** Circle, zenith and slope distance of a target: the slope is found from the exact level difference by iteration. */
export function observe(s: TrueSetup, t: TrueTarget): { circle: number; zenith: number; slope: number } {
  const de = t.e - s.at.e,
    dn = t.n - s.at.n,
    flat = Math.hypot(de, dn);
  const rise = t.z + t.height - s.at.z - s.height - ((1 - REFRACTION) * flat * flat) / (2 * RADIUS);
  const full = 2 * Math.PI,
    circle = (((Math.atan2(de, dn) - s.zero) % full) + full) % full;
  return { circle, zenith: Math.PI / 2 - Math.atan2(rise, flat), slope: Math.hypot(flat, rise) };
}

const degrees = (x: number) => ((x * 180) / Math.PI).toFixed(12);

function readings(s: TrueSetup, t: TrueTarget): string {
  const { circle, zenith, slope } = observe(s, t);
  const c = (s.collimation ?? 0) / Math.sin(zenith),
    i = s.index ?? 0,
    full = 2 * Math.PI;
  const one = (h: number, z: number, face: boolean) =>
    `<RawObservation setupID="${s.id}" targetHeight="${t.height}" horizAngle="${degrees((h + full) % full)}" zenithAngle="${degrees(z)}" slopeDistance="${slope.toFixed(9)}" directFace="${face}"><TargetPoint name="${t.number}" desc="${t.code ?? "SPOT"}"/></RawObservation>`;
  return (
    one(circle - c, zenith + i, true) +
    (t.faces === 2 ? `\n${one(circle + Math.PI + c, full - zenith + i, false)}` : "")
  );
}

export function surveyXml(control: readonly TruePosition[], setups: readonly TrueSetup[]): string {
  const points = control
    .map((p) => `<CgPoint name="${p.number}" pntSurv="control">${p.n} ${p.e} ${p.z}</CgPoint>`)
    .join("\n");
  const survey = setups
    .map(
      (
        s,
      ) => `<InstrumentSetup id="${s.id}" stationName="${s.at.number}" instrumentHeight="${s.height}"><InstrumentPoint pntRef="${s.at.number}"/>
<Backsight id="${s.id}-b" setupID="${s.id}"><BacksightPoint pntRef="${s.backsight.number}"/></Backsight></InstrumentSetup>
<ObservationGroup id="${s.id}-g" setupID="${s.id}">
${[{ ...s.backsight, height: 1.5, faces: 2 }, ...s.targets].map((t) => readings(s, t)).join("\n")}
</ObservationGroup>`,
    )
    .join("\n");
  return `<?xml version="1.0"?>
<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2">
<Units><Metric linearUnit="meter" angularUnit="decimal degrees" directionUnit="decimal degrees"/></Units>
<CgPoints>
${points}
</CgPoints><Survey>
${survey}
</Survey></LandXML>`;
}
