/** What single bytes and digits of files mean, by the words of their standards. */
import fc from "fast-check";
import { number } from "../../src/handover/dxf/text";
import { boxOf, wayGeometry } from "../../src/handover/gpkg/geometry";
import { writeFile } from "../../src/job/leave/handover";
import { readGeometryBlob } from "../../src/intake/geometry-blob";
import { derive } from "../job";

test("a number of a drawing reads back as the same double, however small or large, and has no exponent", () =>
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (x) => {
      const text = number(x);
      expect(text).toMatch(/^-?\d+(\.\d+)?$/);
      expect(Number(text) === x).toBe(true);
      expect(number(-x)).toBe(x === 0 ? "0" : text.startsWith("-") ? text.slice(1) : `-${text}`);
    }),
    { examples: [[1.5e-7], [-2.5e-21], [1e21], [123456789.125e20], [5e-324], [-0]] },
  ));

test("the header of a GeoPackage's geometry has its envelope: least and most of east, then of north", () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: -999, max: 999 }), fc.integer({ min: 5000, max: 9999 })), { minLength: 2 }),
      fc.boolean(),
      (corners, levels) => {
        const xyz = corners.flatMap(([e, n]) => [e, n, 7]),
          blob = wayGeometry(4326, xyz, levels ? corners.map(() => 7) : undefined, false, boxOf(xyz)),
          view = new DataView(blob.buffer),
          [e, n] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
        expect([view.getUint8(3), view.getInt32(4, true)]).toEqual([0b11, 4326]);
        expect([8, 16, 24, 32].map((at) => view.getFloat64(at, true))).toEqual([
          Math.min(...e),
          Math.max(...e),
          Math.min(...n),
          Math.max(...n),
        ]);
        const way = readGeometryBlob(blob)!.ways[0]!;
        expect(Array.from(way)).toEqual(levels ? xyz : corners.flatMap((c) => [...c, NaN]));
      },
    ),
  ));

test("colours of KML are written opacity, blue, green, red, of points, lines and areas alike", async () => {
  const codes = [
    { code: "POST", color: "#102ab3" },
    { code: "HEDGE", kind: "line" as const, color: "#0a0b0c" },
    { code: "BED", kind: "area" as const, color: "#fedcba" },
  ];
  const { state, derived } = derive(
    ["POST", "HEDGE", "HEDGE", "BED", "BED", "BED"].map((code, k) => ({
      number: k + 1,
      e: 512_000 + (k % 3) * 10,
      n: 5_640_000 + k * k,
      z: 1,
      code,
    })),
    { codeBook: { codes }, system: "EPSG:25832" },
  );
  const { bytes } = await writeFile({ file: "a.kml", format: "kml" }, state, derived),
    kml = new TextDecoder().decode(bytes);
  const styles = new Map(
    [...kml.matchAll(/<Style id="(\w+)">(.*?)<\/Style>/g)].map(([, id, style]) => [
      id,
      [...style!.matchAll(/<(\w+Style)><color>(\w+)<\/color>/g)].map(([, kind, color]) => `${kind} ${color}`),
    ]),
  );
  const styleOf = (kind: string) =>
    styles.get(new RegExp(`<styleUrl>#(\\w+)</styleUrl>(?:(?!<Placemark>).)*<${kind}>`).exec(kml)![1]!);
  expect(styleOf("LineString")).toContain("LineStyle ff0c0b0a");
  expect(styleOf("Polygon")).toEqual(["IconStyle ffbadcfe", "LineStyle ffbadcfe", "PolyStyle 40badcfe"]);
  expect([...styles.values()].flat()).toContain("IconStyle ffb32a10");
});
