// @long: left out of npm run test:quick.
/** What leaves comes back: our text, LandXML and GeoPackage read by the intake give the same points, lines, surface. */
import fc from "fast-check";
import { lineFeatures } from "../../src/handover/features";
import { openTables, readDelivery, type Delivery } from "../../src/intake/deliver";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import { handoverSource } from "../../src/job/leave/handover-source";
import type { JobState } from "../../src/job/model/model";
import type { Derived } from "../../src/job/chain/values";
import { runChain } from "../../src/job/chain/chain";
import { openRecipe } from "../../src/job/recipe/recipe";
import { CODES, derive, type Row } from "../job";
import { surveyXml } from "../survey";

async function readBack(file: OwnFile, state: JobState, derived: Derived, layout?: object): Promise<Delivery> {
  const { bytes } = await writeFile(file, state, derived),
    format = ({ csv: "delimited", landxml: "landxml", gpkg: "sqlite", dxf: "dxf" } as const)[file.format as "csv"];
  return readDelivery(file.file, bytes, { format, ...layout } as never, await openTables(file.file, bytes, format), {
    unit: state.unit,
    order: "NE",
    references: [],
    isControl: () => false,
  });
}

/** Points by their numbers, in the order of the numbers. */
const pointsOf = ({ records: r }: Delivery) =>
  new Map(r.number.all().map((number, k) => [number, [r.e[k]!, r.n[k]!, r.z[k]!]]));

const CODE = ["SPOT", "TOP1", "TOP1 via", "TOP2", "PATH flow", "PATH", "BED", "TREE 4", "nothing known; & <it>"];
const row = fc.record({
  e: fc.double({ min: -5000, max: 600_000, noNaN: true }),
  n: fc.double({ min: -5000, max: 6_000_000, noNaN: true }),
  z: fc.option(fc.double({ min: -100, max: 3000, noNaN: true }), { nil: undefined }),
  code: fc.constantFrom(...CODE),
});
/** Points within a few hundred metres, so that lines and triangles are of a survey's size. */
const yard = fc
  .tuple(fc.array(row, { minLength: 4, maxLength: 25 }), fc.constantFrom(0, 512_000.25))
  .map(([rows, far]) =>
    rows.map((r, k): Row => ({
      number: String(k + 1),
      // Without a zero that has a sign: as text both are 0.
      e: far + (r.e % 300) + 0,
      n: far + (r.n % 300) + 0,
      z: r.z === undefined ? r.z : r.z + 0,
      code: r.code,
    })),
  );
const CASES = { numRuns: Number(process.env.FC_RUNS ?? 40) };

describe("read back by the intake", () => {
  test("text: every point to half of the last decimal written, by any delimiter and decimal sign", () =>
    fc.assert(
      fc.asyncProperty(
        yard,
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom(",", ";", "\t"),
        fc.constantFrom(".", ","),
        fc.constantFrom("utf-8", "utf-8-mark", "latin1"),
        fc.constantFrom("lf", "crlf"),
        async (rows, decimals, delimiter, decimal, encoding, lineEnd) => {
          const { state, derived } = derive(rows),
            style = { delimiter, decimal, encoding, lineEnd } as object;
          const back = await readBack({ file: "a.csv", format: "csv", decimals, ...style }, state, derived, {
            layout: {
              delimiter,
              decimal,
              skipRows: 1,
              columns: ["number", "northing", "easting", "elevation", "description"],
            },
          });
          const found = pointsOf(back),
            half = 0.5 * 10 ** -decimals + 1e-9;
          expect([...found.keys()]).toEqual(rows.map((r) => r.number));
          for (const r of rows) {
            const [e, n, z] = found.get(String(r.number))!;
            expect(Math.abs(e! - r.e)).toBeLessThanOrEqual(half);
            expect(Math.abs(n! - r.n)).toBeLessThanOrEqual(half);
            if (r.z === undefined) expect(z).toBeNaN();
            else expect(Math.abs(z! - r.z)).toBeLessThanOrEqual(half);
          }
          const { description, texts } = back.records;
          expect(rows.map((_, k) => texts[description[k]!])).toEqual(rows.map((r) => r.code));
        },
      ),
      CASES,
    ));

  test("LandXML and GeoPackage: the same points, lines and surface, to the last digit", () =>
    fc.assert(
      fc.asyncProperty(yard, fc.constantFrom("landxml", "gpkg"), async (rows, format) => {
        const { state, derived } = derive(rows, { surfaces: [{ name: "ground" }] });
        const surface = derived.surfaces[0]!;
        fc.pre(surface.ok);
        const file: OwnFile = { file: "a", format: format as "gpkg" },
          back = await readBack(file, state, derived),
          found = pointsOf(back);
        for (const r of rows) expect(found.get(String(r.number))).toEqual([r.e, r.n, r.z ?? NaN]);

        // Lines: the ways of chords, or the corners with what their arcs sweep; in plan exactly.
        const lines = lineFeatures(handoverSource(file, state, derived)),
          read = (back.reference?.lines ?? []).filter((l) => l.kind === "feature" || l.kind === "polyline");
        expect(read.map((l) => l.name).sort()).toEqual(lines.map((f) => f.name).sort());
        for (const f of lines) {
          const same = read.filter((l) => l.name === f.name);
          const length = (xyz: ArrayLike<number>, closed: boolean, sweeps?: Float64Array) => {
            let sum = 0;
            const count = xyz.length / 3;
            for (let k = closed ? 0 : 1; k < count; k++) {
              const before = closed ? (k + count - 1) % count : k - 1,
                chord = Math.hypot(xyz[3 * k]! - xyz[3 * before]!, xyz[3 * k + 1]! - xyz[3 * before + 1]!),
                turn = Math.abs(sweeps?.[before] ?? 0);
              sum += turn > 1e-12 ? (chord * turn) / (2 * Math.sin(turn / 2)) : chord;
            }
            return sum;
          };
          const own =
            format === "landxml"
              ? f.line.pieces.some((p) => p.type === "curve")
                ? undefined
                : f.line.length
              : length(f.xyz, false);
          if (own !== undefined)
            expect(same.map((l) => length(l.xyz, l.closed, l.sweep))).toContainEqual(expect.closeTo(own, 6));
          expect(same.map((l) => [l.xyz[0], l.xyz[1]])).toContainEqual([f.xyz[0], f.xyz[1]]);
        }

        // The surface: as many triangles, each with corners that the job's mesh has.
        const [s] = back.reference!.surfaces,
          { tri, x, y, z, origin } = surface.value.surface;
        expect([s!.name, s!.faces.length]).toEqual(["ground", tri.length]);
        const corner = (e: number, n: number, level: number) => `${e} ${n} ${level}`;
        tri.forEach((v, h) => {
          const at = 3 * s!.faces[h]!;
          expect(corner(s!.points[at]!, s!.points[at + 1]!, s!.points[at + 2]!)).toBe(
            corner(origin[0] + x[v]!, origin[1] + y[v]!, z[v]!),
          );
        });
      }),
      CASES,
    ));

  test("raw observations come back with their angles and distances; points keep their coordinates", async () => {
    const K1 = { number: "K1", e: 3000, n: 7000, z: 92 },
      K2 = { number: "K2", e: 3060, n: 7010, z: 93 },
      targets = [
        { number: "101", e: 3020, n: 7030, z: 95, height: 1.8, faces: 2, code: "TOP1" },
        { number: "102", e: 3040, n: 7050, z: 96, height: 1.3, faces: 1, code: "TOP1" },
        { number: "103", e: 3050, n: 7035, z: 96, height: 1.3, faces: 1, code: "SPOT" },
      ],
      xml = surveyXml([K1, K2], [{ id: "S1", at: K1, height: 1.6, zero: 0.4, backsight: K2, targets, index: 1e-4 }]);
    const recipe = { recipe: 1 as const, codeBook: { codes: CODES }, intakes: [{ id: "day", file: "day.xml" }] },
      { state } = openRecipe(recipe, () => new TextEncoder().encode(xml)),
      derived = runChain(state);
    const back = await readBack({ file: "s.xml", format: "landxml" }, state, derived);
    const was = state.delivered.find((d) => d.survey)!.survey!,
      now = back.survey!;
    expect(now.observations.count).toBe(was.observations.count);
    for (const column of ["circle", "zenith", "slope", "targetHeight"] as const)
      was.observations[column]
        .subarray(0, was.observations.count)
        .forEach((value, k) => expect(now.observations[column][k]).toBeCloseTo(value, 12));
    expect(now.setups.map((s) => [s.station, s.instrumentHeight, s.backsights.map((b) => b.number)])).toEqual(
      was.setups.map((s) => [s.station, s.instrumentHeight, s.backsights.map((b) => b.number)]),
    );
    const found = pointsOf(back),
      { points: t } = state;
    for (let i = 0; i < t.count; i++)
      if (!t.deleted[i]) expect(found.get(t.number[i]!)).toEqual([t.e[i], t.n[i], t.z[i]]);
  });
});
