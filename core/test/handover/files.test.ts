// @long: left out of npm run test:quick, since it reads with programs that it does not install.
/** What leaves is read by independent readers: dxf-parser, ezdxf and GDAL. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import DxfParser from "dxf-parser";
import { runChain } from "../../src/job/chain/chain";
import {
  HANDOVER_KINDS,
  heldBy,
  needsSystem,
  newFile,
  sayingsOf,
  wordsOfFile,
  type HandoverFile,
} from "../../src/handover/files";
import { checkPartShape } from "../../src/job/model/validate";
import { writeFile } from "../../src/job/leave/handover";
import { derive, type Row } from "../job";

const rows: Row[] = [
  { number: "1", e: 3000.125, n: 7000.25, z: 92.5, code: "TOP" },
  { number: "2", e: 3020.5, n: 7004.0, z: 93.25, code: "TOP via" },
  { number: "3", e: 3040.5, n: 7000.75, z: 94, code: "TOP" },
  { number: "4", e: 3005, n: 7030, z: 99, code: 'SPOT; by the "gate", é 水 ⌀' },
  { number: "5", e: 3035, n: 7032, z: 97.5, code: "BED" },
  { number: "6", e: 3045, n: 7036, z: 96.5, code: "BED" },
  { number: "7", e: 3040, n: 7044, code: "BED loop" },
];
const { state, derived } = derive(rows, {
  name: "Plot",
  surfaces: [{ name: "ground", breaklines: { codes: ["*"] } }],
  contours: [{ surface: "ground", interval: 1 }],
  sets: [{ name: "tops", rule: { codes: ["TOP"] } }],
});
const written = async (...of: Parameters<typeof writeFile>) => new TextDecoder().decode((await writeFile(...of)).bytes);
let dxf: string;
beforeAll(async () => {
  dxf = await written({ file: "a.dxf", format: "dxf" }, state, derived);
});

describe("DXF", () => {
  let parsed: NonNullable<ReturnType<DxfParser["parseSync"]>>;
  beforeAll(() => {
    parsed = new DxfParser().parseSync(dxf)!;
  });
  const of = (type: string) =>
    parsed.entities.filter((e) => e.type === type) as unknown as {
      layer: string;
      vertices: { x: number; y: number; z: number }[];
      position: { x: number; y: number; z: number };
      text: string;
      shape?: boolean;
      elevation?: number;
    }[];

  test("points, 3D polylines, contours and labels at their exact places, on the layers of the book", async () => {
    expect(of("POINT").map((p) => [p.position.x, p.position.y, p.position.z])).toEqual(
      rows.map((r) => [r.e, r.n, r.z ?? 0]),
    );
    const top = of("POLYLINE").find((p) => p.layer === "TOP")!;
    expect(top.vertices[0]).toMatchObject({ x: 3000.125, y: 7000.25, z: 92.5 });
    expect(top.vertices.at(-1)).toMatchObject({ x: 3040.5, y: 7000.75, z: 94 });
    expect(top.vertices.length).toBeGreaterThan(5);
    expect(of("POLYLINE").find((p) => p.layer === "BED")!.shape).toBe(true);
    const contours = derived.contours[0]!;
    if (!contours.ok) throw contours.refusal;
    expect(of("LWPOLYLINE").filter((p) => p.layer.startsWith("CONTOURS"))).toHaveLength(contours.value.level.length);
    expect(of("LWPOLYLINE").map((p) => p.layer)).toEqual(expect.arrayContaining(["TOP-PLAN", "BED-PLAN"]));
    expect(Object.keys(parsed.tables.layer.layers)).toEqual(
      expect.arrayContaining(["TOP", "BED", "SPOT", "CONTOURS-ground", "POINT-NUMBERS"]),
    );
    expect(of("TEXT").map((t) => t.text)).toEqual(expect.arrayContaining(["1", "7"]));
  });

  test("contours leave as their surface's look has them: colour, weight, rounded, or on layers that are off", async () => {
    const of = async (look: object) => {
      const drawing = { surfaces: [{ surface: "ground", ...look }] },
        now = { ...state, drawing };
      return written({ file: "a.dxf", format: "dxf" }, now, runChain(now));
    };
    const layer = (text: string, name: string) =>
      new DxfParser().parseSync(text)!.tables.layer.layers[name] as { visible: boolean };
    const chosen = await of({ color: "#336699", weight: 0.36, smooth: true });
    expect(chosen).toMatch(new RegExp(`CONTOURS-ground\\r?\\n(?:.*\\r?\\n){2,8} *420\\r?\\n *${0x336699}\\r?\\n`));
    // The format's nearest weight to 0.36 mm, in hundredths.
    expect(chosen).toMatch(/CONTOURS-ground\r?\n(?:.*\r?\n){2,12} *370\r?\n *35\r?\n/);
    const vertices = (text: string) =>
      new DxfParser()
        .parseSync(text)!
        .entities.filter((e) => e.layer === "CONTOURS-ground")
        .reduce((sum, e) => sum + (e as unknown as { vertices: unknown[] }).vertices.length, 0);
    expect(vertices(chosen)).toBeGreaterThan(1.5 * vertices(dxf));
    expect(layer(dxf, "CONTOURS-ground").visible).toBe(true);
    expect(layer(await of({ hidden: true }), "CONTOURS-ground").visible).toBe(false);
    expect(await of({ hidden: true })).not.toContain("CONTOUR-LABELS-");
  });

  test("layers hidden on the sheet leave switched off, points and lines alike, or with nothing on them", async () => {
    const hidden = { ...state, drawing: { hidden: { layers: ["TOP", "SPOT"] } } },
      off = new DxfParser().parseSync(await written({ file: "a.dxf", format: "dxf" }, hidden, runChain(hidden)))!,
      isOn = (d: typeof off, name: string) => (d.tables.layer.layers[name] as { visible: boolean }).visible;
    expect(["TOP", "TOP-PLAN", "SPOT", "BED", "BED-PLAN"].map((name) => isOn(off, name))).toEqual([
      false,
      false,
      false,
      true,
      true,
    ]);
    const out = { ...hidden, hiddenLayers: "out" as const },
      without = new DxfParser().parseSync(await written({ file: "a.dxf", format: "dxf" }, out, runChain(out)))!,
      layers = new Set(without.entities.map((e) => e.layer));
    expect([...layers].filter((name) => /^(TOP|SPOT)/.test(name))).toEqual([]);
    expect(layers).toContain("BED-PLAN");
  });

  test("ezdxf finds nothing to repair, and GDAL reads every entity", async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), "dxf-"));
    const file = path.join(folder, "a.dxf");
    fs.writeFileSync(file, dxf);
    const audit = execFileSync(
      "/usr/bin/python3",
      [
        "-c",
        `
import ezdxf, sys, json
doc = ezdxf.readfile(sys.argv[1])
a = doc.audit()
print(json.dumps({"errors": [str(e) for e in a.errors], "fixes": [str(e.message) for e in a.fixes],
  "version": doc.dxfversion, "units": doc.units,
  "texts": [t.dxf.text for t in doc.modelspace().query("TEXT")], "color": doc.layers.get("TOP").rgb}))`,
        file,
      ],
      { encoding: "utf8" },
    );
    const report = JSON.parse(audit);
    expect(report).toMatchObject({ errors: [], fixes: [], version: "AC1021", units: 6 });
    expect(report.texts).toContain('SPOT; by the "gate", é 水 ⌀');
    // Texts beyond ASCII come through in both, by the code page that the header names.
    const texts = execFileSync("ogrinfo", ["-al", "-q", file], { encoding: "utf8", stdio: "pipe" });
    expect(texts).toContain('SPOT; by the "gate", é 水 ⌀');
    const info = execFileSync("ogrinfo", ["-al", "-so", file], { encoding: "utf8", stdio: "pipe" });
    const count = Number(/Feature Count: (\d+)/.exec(info)![1]);
    // Of a block GDAL gives each of its strokes.
    expect(count).toBeGreaterThanOrEqual(
      of("POINT").length + of("POLYLINE").length + of("LWPOLYLINE").length + of("TEXT").length + of("INSERT").length,
    );
    fs.rmSync(folder, { recursive: true });
  });

  test("arcs are arcs, styles are line types and marks, symbols are blocks with attributes: as ezdxf reads them", async () => {
    const book = {
      codes: [
        { code: "FENCE", kind: "line" as const, style: "posts" },
        { code: "PATH", kind: "line" as const, style: "dash" },
        { code: "WALL", kind: "line" as const, style: "stones" },
        {
          code: "TREE",
          symbol: "tree",
          size: { attribute: "spread" },
          rotation: { fixed: 30 },
          attributes: [{ name: "spread", type: "number" as const, unit: "m" }],
          label: "⌀ {spread:1}",
        },
      ],
    };
    const ring: Row[] = [
      [10, 0],
      [0, 10],
      [-10, 0],
    ].map(([e, n], k) => ({
      number: `R${k}`,
      e: 100 + e!,
      n: 50 + n!,
      z: 5,
      code: `PATH via${k === 2 ? " loop" : ""}`,
    }));
    const all: Row[] = [
      ...ring,
      { number: "F1", e: 0, n: 0, z: 1, code: "FENCE" },
      { number: "F2", e: 20, n: 10, z: 2, code: "FENCE via" },
      { number: "F3", e: 40, n: 0, z: 3, code: "FENCE" },
      { number: "W1", e: 0, n: 80, z: 1, code: "WALL" },
      { number: "W2", e: 30, n: 80, z: 1, code: "WALL" },
      { number: "T1", e: 60, n: 60, z: 4.25, code: "TREE 6; old" },
    ];
    const job = derive(all, { codeBook: book, drawing: { scale: 500 } });
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), "dxf-")),
      file = path.join(folder, "b.dxf");
    fs.writeFileSync(file, await written({ file: "b.dxf", format: "dxf" }, job.state, job.derived));
    const read = JSON.parse(
      execFileSync(
        "/usr/bin/python3",
        [
          "-c",
          `
import ezdxf, sys, json
doc = ezdxf.readfile(sys.argv[1]); m = doc.modelspace(); a = doc.audit()
def arc(v): return [v.dxf.center.x, v.dxf.center.y, v.dxf.radius, (v.dxf.end_angle - v.dxf.start_angle) % 360]
def insert(i): return [i.dxf.insert.x, i.dxf.insert.y, i.dxf.xscale, i.dxf.rotation,
  {t.dxf.tag: t.dxf.text for t in i.attribs}]
ways = m.query("LWPOLYLINE")
arcs = {p.dxf.layer: [arc(v) for v in p.virtual_entities() if v.dxftype() == "ARC"] for p in ways}
inserts = {}
for i in m.query("INSERT"): inserts.setdefault(i.dxf.name, []).append(insert(i))
lt = doc.linetypes.get("DASH")
print(json.dumps({"errors": [str(e) for e in a.errors], "fixes": [e.message for e in a.fixes], "arcs": arcs,
  "inserts": inserts, "types": {p.dxf.layer: p.dxf.linetype for p in ways},
  "dash": lt.simplified_line_pattern() if hasattr(lt, "simplified_line_pattern") else [],
  "off": [l.dxf.name for l in doc.layers if l.is_off()],
  "notes": [[t.dxf.text, t.dxf.layer] for t in m.query("TEXT") if t.dxf.layer.endswith("NOTES")],
  "walls": len(m.query('LWPOLYLINE[layer=="WALL-PLAN"]')), "strokes": len(doc.blocks.get("SYMBOL-TREE"))}))`,
          file,
        ],
        { encoding: "utf8" },
      ),
    );
    fs.rmSync(folder, { recursive: true });
    expect(read).toMatchObject({
      errors: [],
      fixes: [],
      walls: 2,
      notes: [["⌀ 6.0", "TREE-NOTES"]],
      types: { "PATH-PLAN": "DASH", "FENCE-PLAN": "BYLAYER" },
    });
    // The full circle in two halves, the fence's arc through its three shots.
    for (const [e, n, radius, turn] of read.arcs["PATH-PLAN"])
      expect([e, n, radius, turn]).toEqual([
        expect.closeTo(100, 9),
        expect.closeTo(50, 9),
        expect.closeTo(10, 9),
        expect.closeTo(180, 9),
      ]);
    expect(read.arcs["PATH-PLAN"]).toHaveLength(2);
    expect(read.arcs["FENCE-PLAN"]).toEqual([
      [
        expect.closeTo(20, 9),
        expect.closeTo(-15, 9),
        expect.closeTo(25, 9),
        expect.closeTo((2 * (Math.asin(20 / 25) * 180)) / Math.PI, 9),
      ],
    ]);
    // Posts stand on the arc's chords, every 5 mm of paper: 2.5 m at 1:500.
    const posts = read.inserts["MARK-POSTS"] as [number, number, number][];
    expect(posts.length).toBe(Math.floor((job.derived.lines.find((l) => l.code === "FENCE")!.length - 1.25) / 2.5) + 1);
    for (const [e, n, scale] of posts)
      expect([Math.abs(Math.hypot(e - 20, n + 15) - 25) < 0.011, scale]).toEqual([true, 0.5]);
    expect(read.inserts["SYMBOL-TREE"]).toEqual([
      [
        60,
        60,
        expect.closeTo(6, 5),
        -30,
        { NUMBER: "T1", CODE: "TREE", ELEVATION: "4.25", DESCRIPTION: "TREE 6; old" },
      ],
    ]);
    expect(read.strokes).toBeGreaterThan(9);
    expect(read.off).toEqual(expect.arrayContaining(["POINT-NUMBERS", "POINT-DESCRIPTIONS"]));
  });

  test("a level not known neither drags a line to 0 nor passes for one", async () => {
    const bed = of("POLYLINE").find((p) => p.layer === "BED")!;
    expect(bed.vertices.map((v) => v.z)).toEqual([97.5, 96.5, 96.5]);
    expect(of("POINT").filter((p) => p.layer === "POINTS-WITHOUT-ELEVATION")).toHaveLength(1);
  });

  test("a zero that is an open finding does not pass for a level; settled it is one", async () => {
    const ground = Array.from({ length: 9 }, (_, k) => ({
        number: k + 1,
        e: 10 * (k % 3),
        n: 10 * (k >> 1),
        z: 95 + k,
        code: "SPOT",
      })),
      layers = async (accepted: object[]) => {
        const job = derive([...ground, { number: 10, e: 5, n: 5, z: 0, code: "SPOT" }], { accepted } as never),
          text = await written({ file: "a.dxf", format: "dxf" }, job.state, job.derived);
        return new DxfParser()
          .parseSync(text)!
          .entities.filter((e) => e.type === "POINT")
          .map((e) => e.layer)
          .at(-1);
      };
    expect(await layers([])).toBe("POINTS-WITHOUT-ELEVATION");
    expect(await layers([{ kind: "zero-elevation", points: "10", reason: "sea level" }])).toBe("SPOT");
  });

  test("a large job keeps every line within the format: handles are one of a kind", async () => {
    const handles = dxf.split("\r\n").flatMap((l, i, all) => (i % 2 === 0 && l === "5" ? [all[i + 1]!] : []));
    expect(new Set(handles).size).toBe(handles.length);
    expect(dxf.split("\r\n").length % 2).toBe(1);
  });
});

describe("points as text", () => {
  test("columns, order, rounding, quoting and sets", async () => {
    expect(
      await written(
        {
          file: "p.csv",
          format: "csv",
          columns: ["number", "easting", "elevation", "code", "note"],
          decimals: 2,
          delimiter: ";",
          points: "4, 7",
        },
        state,
        derived,
      ),
    ).toBe('number;easting;elevation;code;note\n4;3005.00;99.00;SPOT;"by the ""gate"", é 水 ⌀"\n7;3040.00;;BED;\n');
    expect(
      await written(
        { file: "p.csv", format: "csv", columns: ["number"], points: "tops", header: false },
        state,
        derived,
      ),
    ).toBe("1\n2\n3\n");
    expect(
      await written(
        { file: "p.csv", format: "csv", columns: ["number"], points: "*ground", header: false },
        state,
        derived,
      ),
    ).toBe("1\n2\n3\n4\n5\n6\n");
  });

  test("with a decimal comma lengths have one, and what parts columns as well is in quotes", async () => {
    const file: HandoverFile = {
      file: "p.csv",
      format: "csv",
      columns: ["number", "easting", "elevation", "code"],
      decimal: ",",
      points: "4, 7",
    };
    expect(await written({ ...file, delimiter: ";", header: false }, state, derived)).toBe(
      "4;3005,000;99,000;SPOT\n7;3040,000;;BED\n",
    );
    const quoted = await written(file, state, derived);
    expect(quoted).toContain('4,"3005,000","99,000",SPOT');
    // What is no length keeps its point.
    const dotted = derive([{ number: "1.5", e: 1, n: 2, z: 3, code: "SPOT" }]);
    const alone: HandoverFile = { ...file, points: "*", header: false, delimiter: ";" };
    expect(await written(alone, dotted.state, dotted.derived)).toBe("1.5;1,000;3,000;SPOT\n");
  });

  test("by choice, texts that a spreadsheet would compute stand behind an apostrophe; numbers do not", async () => {
    const texts = ["=1+1", "+cmd", "-2.5", "@SUM(A1)", "-2,5", "-", "+4", "plain", "=a,b", "-1e3", "-0x10"];
    const odd = derive(texts.map((code, k) => ({ number: String(k + 1), e: 1, n: -2, z: -3, code })));
    const file: HandoverFile = { file: "p.csv", format: "csv", columns: ["northing", "description"], header: false };
    const lines = async (guard?: boolean) =>
      (await written({ ...file, ...(guard ? { guard } : {}) }, odd.state, odd.derived))
        .trimEnd()
        .split("\n")
        .map((l) => l.replace("-2.000,", ""));
    expect(await lines()).toEqual([...texts.slice(0, 4), '"-2,5"', ...texts.slice(5, 8), '"=a,b"', "-1e3", "-0x10"]);
    expect(await lines(true)).toEqual([
      "'=1+1",
      "'+cmd",
      "-2.5",
      "'@SUM(A1)",
      '"-2,5"',
      "'-",
      "+4",
      "plain",
      '"\'=a,b"',
      "-1e3",
      "'-0x10",
    ]);
  });

  test("a file whose contours could not be made is refused with the reason", async () => {
    const bad = {
      ...state,
      surfaces: [{ name: "ground", points: "nothing", breaklines: { codes: [] } }],
      sets: [{ name: "nothing", rule: { codes: ["X"] } }],
    };
    await expect(written({ file: "a.dxf", format: "dxf" }, bad, runChain(bad))).rejects.toThrow(
      "Surface “ground” has no points with an elevation",
    );
  });
});

describe("formats as they are described", () => {
  const file = (format: string, more: object = {}) => ({ file: "a", format, ...more }) as HandoverFile;

  test("what each holds where nothing is said, and what it cannot be asked for", () => {
    const held = Object.fromEntries(
      (["landxml", "gpkg", "geojson", "kml", "gpx", "dxf", "pdf", "csv"] as const).map((f) => [f, heldBy(file(f))]),
    );
    const all = ["points", "lines", "surfaces", "contours"];
    expect(held).toEqual({
      landxml: [...all, "survey"],
      gpkg: all,
      geojson: all,
      kml: ["points", "lines", "contours"],
      gpx: ["points", "lines"],
      dxf: all,
      pdf: ["points", "lines", "contours"],
      csv: [],
    });
    expect(heldBy(file("dxf", { triangles: false, contours: false }))).toEqual(["points", "lines"]);
    expect(heldBy(file("kml", { holds: ["lines"] }))).toEqual(["lines"]);
    for (const [format, what] of [
      ["kml", "surfaces"],
      ["gpx", "contours"],
      ["geojson", "survey"],
    ] as const)
      expect(checkPartShape("handover", file(format, { holds: [what] }))?.message).toContain(`"${what}" is not one of`);
  });

  test("each kind that is offered is called something else, makes a file under a free name, and says what it is", () => {
    const made: HandoverFile[] = [];
    for (const kind of [...HANDOVER_KINDS, ...HANDOVER_KINDS]) made.push(newFile(kind, made));
    expect(new Set(made.map((f) => f.file)).size).toBe(made.length);
    for (const f of made) expect(checkPartShape("handover", f)).toBeUndefined();
    const words = made.slice(0, HANDOVER_KINDS.length).map(wordsOfFile);
    expect(new Set(words).size).toBe(words.length);
    expect(words).toEqual(
      expect.arrayContaining(["points as text", "DXF drawing", "LandXML", "list of areas", "back to the crew", "GPX"]),
    );
    expect(wordsOfFile(file("recipe", { with: "files" }))).toBe("recipe with its files");
    expect([needsSystem(file("kml")), needsSystem(file("geojson")), needsSystem(file("dxf"))]).toEqual([
      true,
      false,
      false,
    ]);
    expect(needsSystem(file("geojson", { coordinates: "latitude-longitude" }))).toBe(true);
  });

  test("a decimal comma beside a delimiting comma asks for another delimiter", () => {
    const decimal = sayingsOf(file("csv")).find((x) => x.said === "decimal")!.control;
    if (decimal.as !== "choice") throw new Error("it is a choice");
    expect(decimal.along!(",", {})).toEqual({ delimiter: ";" });
    expect(decimal.along!(",", { delimiter: "\t" })).toEqual({});
    expect(decimal.along!(".", {})).toEqual({});
  });
});
