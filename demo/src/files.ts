/** The demo's files: two crews' texts, the design surface, the book, the recipe and the truth. A fixed seed: the same bytes each time. */
import { GENERAL_BOOK } from "@bramble/core";
import type { Added } from "@bramble/core/drawing/added/model";
import { writeGeoid } from "@bramble/core/intake/geoid";
import { demoAdditions } from "./additions.ts";
import { CONTROL, CREW_A, CREW_B, observe, SEED, type Shot } from "./crews.ts";
import { surveyXml } from "./survey.ts";
import { HEAP, level, RAMP, STACK, SUMP, VOLUMES } from "./truth.ts";

export interface DemoFiles {
  [name: string]: string | Uint8Array;
}

export const DEMO_NAME = "Gorsefold Quarry";
export const DESIGN = { id: "design", file: "gorsefold-design.xml" } as const;
/** Of the gate yard's text. */
export const YARD_LAYOUT = {
  delimiter: ",",
  columns: ["number", "northing", "easting", "elevation", "description"],
} as const;

export function demoFiles(size?: number, seed = SEED): DemoFiles {
  const { a, b, blunders } = observe(size, seed);
  const survey = surveyXml(a);
  const json = (data: unknown) => `${JSON.stringify(data, null, 2)}\n`;
  return {
    [CREW_A.file]: survey,
    [CREW_B.file]: textB(b),
    [DESIGN.file]: designXml(),
    "gorsefold-geoid.gtx": geoidGrid(),
    "gorsefold-codes.json": json(GENERAL_BOOK),
    "recipe.json": json(
      recipe(blunders.find((x) => x.kind === "axes-swapped")!.points, b, demoAdditions(survey, a, b)),
    ),
    "truth.json": json({
      name: DEMO_NAME,
      seed,
      points: a.length - 1 + b.length + CONTROL.length,
      volumes: VOLUMES,
      heap: HEAP,
      stack: STACK,
      sump: SUMP,
      ramp: RAMP,
      blunders,
    }),
  };
}

/** Crew B's rover: a header, quoted descriptions, precision and attributes. */
function textB(shots: Shot[]): string {
  const head = "Number,Easting,Northing,Elevation,Description,Precision,attr:spread,attr:height,attr:kind\n";
  const quoted = (d: string) => (/[",]/.test(d) || d.includes(" ") ? `"${d.replaceAll('"', '""')}"` : d);
  return (
    head +
    shots
      .map((s) => {
        const { spread = "", height = "", kind = "" } = s.attributes ?? {};
        const figures = [s.e, s.n, s.z].map((x) => x.toFixed(3));
        return `${[s.number, ...figures, quoted(s.description), s.precision!.toFixed(3), spread, height, kind].join()}\n`;
      })
      .join("")
  );
}

/** What the office has done with the demo so far: the exchanged axes put right, the zero kept out of the terrain. */
export function demoRepairs(swapped: string[], b: Shot[]) {
  return swapped.map((number) => {
    const s = b.find((x) => x.number === number)!;
    return { number, northing: +s.e.toFixed(3), easting: +s.n.toFixed(3) };
  });
}

/** Levels at the spots, numbers at control; notes come from the code book. */
export const DEMO_DRAWING = {
  points: [
    { set: "control", number: true, elevation: true, height: 2 },
    { set: "spot levels", elevation: true, height: 1.6 },
  ],
  order: ["Ground", "Water", "Vegetation", "Road", "Built", "Boundary", "Services", "Control"],
};

export const DEMO_PARTS = {
  sets: [
    { name: "spot levels", rule: { codes: ["SPOT"] } },
    { name: "control", rule: { kind: ["control"] } },
    { name: "bench tops", rule: { codes: ["TOP", "CREST"] } },
    { name: "trees and shrubs", rule: { codes: ["TREE", "SHRUB"] } },
    {
      name: "poor precision",
      rule: { all: [{ kind: ["measured"] }, { intake: [CREW_B.id] }, { not: { elevation: [80, 140] } }] },
    },
  ],
  surfaces: [
    {
      name: "existing ground",
      points: "*ground",
      breaklines: { codes: ["*"], crossing: "mean" },
      // Twice the spacing of the shots and some: no slivers along the rim.
      edge: { fit: 20 },
    },
    { name: "stage and basin", file: DESIGN.file, surface: "stage and basin" },
  ],
  contours: [{ surface: "existing ground", interval: 1, index: 5, base: 0 }],
  volumes: [
    { name: "to stage level 98", surface: "existing ground", level: 98 },
    { name: "to bench 102, deadband", surface: "existing ground", level: 102, deadband: 0.05 },
    {
      name: "stage and basin",
      from: "existing ground",
      to: "stage and basin",
      within: [
        {
          name: "west half",
          ring: [
            [3150, 7085],
            [3195, 7085],
            [3195, 7175],
            [3150, 7175],
          ],
        },
        {
          name: "east half",
          ring: [
            [3195, 7085],
            [3240, 7085],
            [3240, 7175],
            [3195, 7175],
          ],
        },
      ],
      bulking: { cut: 1.3 },
    },
    { name: "spoil heap", heap: "existing ground", toe: { code: "HEAPTOE" } },
    { name: "stone stack", heap: "existing ground", toe: { code: "STACKTOE" } },
    { name: "sump", storage: "existing ground", from: 86.4, to: 92.4, step: 0.5, within: { code: "SUMPRIM" } },
  ],
  differences: [
    { name: "spots under the terraces", points: "spot levels", surface: "stage and basin", tolerance: 0.5 },
  ],
  handover: [
    {
      file: "points.csv",
      format: "csv",
      columns: ["number", "northing", "easting", "elevation", "code", "description"],
      decimals: 3,
      points: "*",
      header: true,
    },
    { file: "sheet.pdf", format: "pdf", title: "Topographic survey" },
    { file: "drawing.dxf", format: "dxf", points: "*" },
    { file: "survey.xml", format: "landxml" },
    { file: "questions.pdf", format: "report", as: "pdf", of: "crew" },
    { file: "{job}.zip", format: "package" },
  ],
};

function recipe(swapped: string[], b: Shot[], added: Added[]) {
  return {
    recipe: 1,
    name: DEMO_NAME,
    date: "2031-04-17",
    unit: "m",
    codeBook: "gorsefold-codes.json",
    drawing: DEMO_DRAWING,
    intakes: [
      { ...CREW_A, format: "landxml", clash: "stop" },
      { ...CREW_B, format: "delimited", clash: "add", add: 1000 },
      { ...DESIGN, format: "landxml" },
    ],
    edits: [
      ...demoRepairs(swapped, b).map(({ number, ...set }) => ({ points: number, intake: CREW_B.id, set })),
      { points: zeroNumber(), intake: CREW_B.id, set: { surface: "out" } },
    ],
    ...DEMO_PARTS,
    added,
  };
}

function zeroNumber(): string {
  return observe().blunders.find((x) => x.kind === "zero-elevation")!.points[0]!;
}

/** Seating terraces round a stage and a shallow basin, as a LandXML 1.2 surface. */
function designXml(): string {
  const points: [number, number, number][] = [];
  const faces: [number, number, number][] = [];
  const rings = [
    [12, 92.8],
    [20, 92.8],
    [20.5, 93.6],
    [28, 93.6],
    [28.5, 94.4],
    [36, 94.4],
    [36.5, 95.2],
    [44, 95.2],
  ] as const;
  const around = 36,
    centre = [3195, 7130] as const;
  for (const [r, z] of rings)
    for (let k = 0; k < around; k++) {
      const t = (2 * Math.PI * k) / around;
      points.push([centre[0] + r * Math.cos(t), centre[1] + r * Math.sin(t), z]);
    }
  points.push([centre[0], centre[1], 92.5]);
  for (let k = 0; k < around; k++) {
    const next = (k + 1) % around;
    faces.push([points.length - 1, k, next]);
    for (let r = 0; r + 1 < rings.length; r++) {
      const a = r * around + k,
        b = r * around + next,
        c = a + around,
        d = b + around;
      faces.push([a, c, d], [a, d, b]);
    }
  }
  const P = points
    .map(([e, n, z], i) => `<P id="${i + 1}">${n.toFixed(3)} ${e.toFixed(3)} ${z.toFixed(3)}</P>`)
    .join("\n");
  const F = faces.map((f) => `<F>${f.map((v) => v + 1).join(" ")}</F>`).join("\n");
  return `<?xml version="1.0" encoding="UTF-8"?>
<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2" date="2031-04-17" time="08:00:00">
<Units><Metric areaUnit="squareMeter" linearUnit="meter" volumeUnit="cubicMeter"
  temperatureUnit="celsius" pressureUnit="milliBars"/></Units>
<Surfaces><Surface name="stage and basin"><Definition surfType="TIN"><Pnts>
${P}
</Pnts><Faces>
${F}
</Faces></Definition></Surface></Surfaces>
</LandXML>
`;
}

/** An invented geoid: a gently tilted grid of half a degree, for jobs in latitude and longitude. */
function geoidGrid(): Uint8Array {
  const rows = 5,
    columns = 7;
  const metres = Float32Array.from(
    { length: rows * columns },
    (_, k) => 42 + 0.35 * Math.floor(k / columns) - 0.22 * (k % columns) + 0.05 * Math.sin(k),
  );
  return writeGeoid({ south: 50, west: 8, stepLat: 0.5, stepLon: 0.5, rows, columns, metres });
}

/** A small second job in US survey feet: a gate yard. */
export function yardText(): string {
  const rows: string[] = [];
  const z = (e: number, n: number) => 301.2 + 0.012 * (e - 9800) + 0.02 * (n - 23200);
  const add = (e: number, n: number, code: string) =>
    rows.push(`${rows.length + 1},${n.toFixed(2)},${e.toFixed(2)},${z(e, n).toFixed(2)},${code}`);
  for (let i = 0; i < 6; i++)
    for (let j = 0; j < 5; j++) add(9800 + 40 * i + ((j * 7) % 5), 23200 + 35 * j + ((i * 5) % 4), "SPOT");
  [
    [9790, 23190],
    [10012, 23188],
    [10015, 23352],
    [9788, 23350],
  ].forEach(([e, n], i) => add(e!, n!, i === 3 ? "FENCE loop" : "FENCE"));
  [
    [9840, 23230],
    [9900, 23226],
    [9930, 23262],
    [9905, 23300],
  ].forEach(([e, n], i) => add(e!, n!, i === 2 ? "ROAD via" : i === 3 ? "ROAD end" : "ROAD"));
  return `${rows.join("\n")}\n`;
}

export { level as trueLevel };
