/** What leaves is read by independent readers: dxf-parser, ezdxf and GDAL. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import DxfParser from "dxf-parser";
import { runChain } from "../../src/job/chain";
import { writeFile } from "../../src/handover/files";
import { derive, type Row } from "../job";

const rows: Row[] = [
  { number: "1", e: 3000.125, n: 7000.25, z: 92.5, code: "TOP" }, { number: "2", e: 3020.5, n: 7004.0, z: 93.25, code: "TOP via" }, { number: "3", e: 3040.5, n: 7000.75, z: 94, code: "TOP" },
  { number: "4", e: 3005, n: 7030, z: 99, code: 'SPOT; by the "gate", é 水' }, { number: "5", e: 3035, n: 7032, z: 97.5, code: "BED" }, { number: "6", e: 3045, n: 7036, z: 96.5, code: "BED" }, { number: "7", e: 3040, n: 7044, code: "BED loop" },
];
const { state, derived } = derive(rows, { name: "Plot", surfaces: [{ name: "ground", breaklines: { codes: ["*"] } }], contours: [{ surface: "ground", interval: 1 }], sets: [{ name: "tops", rule: { codes: ["TOP"] } }] });
const dxf = writeFile({ file: "a.dxf", format: "dxf" }, state, derived);

describe("DXF", () => {
  const parsed = new DxfParser().parseSync(dxf)!;
  const of = (type: string) => parsed.entities.filter((e) => e.type === type) as unknown as { layer: string; vertices: { x: number; y: number; z: number }[]; position: { x: number; y: number; z: number }; text: string; shape?: boolean; elevation?: number }[];

  test("points, 3D polylines, contours and labels at their exact places, on the layers of the book", () => {
    expect(of("POINT").map((p) => [p.position.x, p.position.y, p.position.z])).toEqual(rows.map((r) => [r.e, r.n, r.z ?? 0]));
    const top = of("POLYLINE").find((p) => p.layer === "TOP")!;
    expect(top.vertices[0]).toMatchObject({ x: 3000.125, y: 7000.25, z: 92.5 });
    expect(top.vertices.at(-1)).toMatchObject({ x: 3040.5, y: 7000.75, z: 94 });
    expect(top.vertices.length).toBeGreaterThan(5);
    expect(of("POLYLINE").find((p) => p.layer === "BED")!.shape).toBe(true);
    const contours = derived.contours[0]!;
    if (!contours.ok) throw contours.refusal;
    expect(of("LWPOLYLINE")).toHaveLength(contours.value.level.length);
    expect(Object.keys(parsed.tables.layer.layers)).toEqual(expect.arrayContaining(["TOP", "BED", "SPOT", "CONTOURS-ground", "POINT-NUMBERS"]));
    expect(of("TEXT").map((t) => t.text)).toEqual(expect.arrayContaining(["1", "7"]));
  });

  test("ezdxf finds nothing to repair, and GDAL reads every entity", () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), "dxf-"));
    const file = path.join(folder, "a.dxf");
    fs.writeFileSync(file, dxf);
    const audit = execFileSync("/usr/bin/python3", ["-c", `
import ezdxf, sys, json
doc = ezdxf.readfile(sys.argv[1])
a = doc.audit()
print(json.dumps({"errors": [str(e) for e in a.errors], "fixes": [str(e.message) for e in a.fixes], "version": doc.dxfversion, "units": doc.units,
  "texts": [t.dxf.text for t in doc.modelspace().query("TEXT")], "color": doc.layers.get("TOP").rgb}))`, file], { encoding: "utf8" });
    const report = JSON.parse(audit);
    expect(report).toMatchObject({ errors: [], fixes: [], version: "AC1021", units: 6 });
    expect(report.texts).toContain('SPOT; by the "gate", é 水');
    const info = execFileSync("ogrinfo", ["-al", "-so", file], { encoding: "utf8" });
    const count = Number(/Feature Count: (\d+)/.exec(info)![1]);
    expect(count).toBe(of("POINT").length + of("POLYLINE").length + of("LWPOLYLINE").length + of("TEXT").length);
    fs.rmSync(folder, { recursive: true });
  });

  test("a level not known neither drags a line to 0 nor passes for one", () => {
    const bed = of("POLYLINE").find((p) => p.layer === "BED")!;
    expect(bed.vertices.map((v) => v.z)).toEqual([97.5, 96.5, 96.5]);
    expect(of("POINT").filter((p) => p.layer === "POINTS-WITHOUT-ELEVATION")).toHaveLength(1);
  });

  test("a large job keeps every line within the format: handles are one of a kind", () => {
    const handles = dxf.split("\r\n").flatMap((l, i, all) => (i % 2 === 0 && l === "5" ? [all[i + 1]!] : []));
    expect(new Set(handles).size).toBe(handles.length);
    expect(dxf.split("\r\n").length % 2).toBe(1);
  });
});

describe("points as text", () => {
  test("columns, order, rounding, quoting and sets", () => {
    expect(writeFile({ file: "p.csv", format: "csv", columns: ["number", "easting", "elevation", "code", "note"], decimals: 2, delimiter: ";", points: "4, 7" }, state, derived)).toBe(
      'number;easting;elevation;code;note\n4;3005.00;99.00;SPOT;"by the ""gate"", é 水"\n7;3040.00;;BED;\n');
    expect(writeFile({ file: "p.csv", format: "csv", columns: ["number"], points: "tops", header: false }, state, derived)).toBe("1\n2\n3\n");
    expect(writeFile({ file: "p.csv", format: "csv", columns: ["number"], points: "*ground", header: false }, state, derived)).toBe("1\n2\n3\n4\n5\n6\n");
  });

  test("a file whose contours could not be made is refused with the reason", () => {
    const bad = { ...state, surfaces: [{ name: "ground", points: "nothing" }], sets: [{ name: "nothing", rule: { codes: ["X"] } }] };
    expect(() => writeFile({ file: "a.dxf", format: "dxf" }, bad, runChain(bad))).toThrow("“ground” cannot be made because surface “ground” could not be made.");
  });
});
