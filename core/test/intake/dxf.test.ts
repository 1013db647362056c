/** DXF as reference: what a published reader finds in sound drawings is found, and damaged ones end in a sentence. */
import DxfParser from "dxf-parser";
import fc from "fast-check";
import { Refusal } from "../../src";
import { readDxf } from "../../src/intake/dxf";
import { readEntities } from "../../src/intake/dxf-entities";

const read = (text: string) => readDxf("d.dxf", new TextEncoder().encode(text), "m");
type Pair = readonly [code: number, value: string | number];
const written = (...pairs: Pair[]) =>
  [[0, "SECTION"], [2, "ENTITIES"], ...pairs, [0, "ENDSEC"], [0, "EOF"]].flat().join("\n");
const corner = (k: number, e: number, n: number, z: number): Pair[] => [
  [10 + k, e],
  [20 + k, n],
  [30 + k, z],
];

const length = fc.integer({ min: -99_999, max: 99_999 }).map((k) => k / 100),
  place = fc.tuple(length, length, length),
  layer = fc.constantFrom("0", "KERB", "Top of bank", "__proto__", "constructor");
const entity: fc.Arbitrary<Pair[]> = fc.oneof(
  fc.tuple(layer, place).map(([l, at]): Pair[] => [[0, "POINT"], [8, l], ...corner(0, ...at)]),
  fc
    .tuple(layer, place, place)
    .map(([l, a, b]): Pair[] => [[0, "LINE"], [8, l], ...corner(0, ...a), ...corner(1, ...b)]),
  fc
    .tuple(layer, fc.array(fc.tuple(length, length, length), { minLength: 2, maxLength: 6 }), fc.boolean(), length)
    .map(([l, list, closed, z]): Pair[] => [
      [0, "LWPOLYLINE"],
      [8, l],
      [90, list.length],
      [70, closed ? 1 : 0],
      [38, z],
      ...list.flatMap(([e, n, bulge]): Pair[] => [
        [10, e],
        [20, n],
        [42, bulge / 1000],
      ]),
    ]),
  fc
    .tuple(layer, fc.array(place, { minLength: 2, maxLength: 6 }), fc.boolean())
    .map(([l, list, closed]): Pair[] => [
      [0, "POLYLINE"],
      [8, l],
      [66, 1],
      ...corner(0, 0, 0, 0),
      [70, closed ? 9 : 8],
      ...list.flatMap((at): Pair[] => [[0, "VERTEX"], [8, l], ...corner(0, ...at), [70, 32]]),
      [0, "SEQEND"],
    ]),
  fc
    .tuple(layer, fc.array(place, { minLength: 4, maxLength: 4 }))
    .map(([l, list]): Pair[] => [[0, "3DFACE"], [8, l], ...list.flatMap((at, k) => corner(k, ...at))]),
);

test("a published reader finds the same entities, layers, corners, bulges and closures", () => {
  fc.assert(
    fc.property(fc.array(entity, { minLength: 1, maxLength: 8 }), (list) => {
      const text = written(...list.flat()),
        theirs = new DxfParser().parseSync(text)!.entities as unknown as {
          type: string;
          layer: string;
          shape?: boolean;
          position?: { x: number; y: number; z: number };
          vertices?: { x: number; y: number; z?: number; bulge?: number }[];
          elevation?: number;
        }[],
        ours = readEntities(text).entities;
      expect(ours.map((x) => [x.type, x.layer, x.closed])).toEqual(
        theirs.map((x) => [x.type, x.layer, x.shape ?? false]),
      );
      ours.forEach((x, k) => {
        const { position, elevation, type, ...its } = theirs[k]!,
          vertices = its.vertices ?? [{ ...position!, bulge: 0 }];
        // It adds an empty corner to faces.
        const corners = type === "3DFACE" ? vertices.slice(0, 4) : vertices;
        expect(x.vertices).toEqual(corners.map((v) => ({ x: v.x, y: v.y, z: v.z ?? elevation, bulge: v.bulge ?? 0 })));
      });
    }),
  );
});

describe("damaged drawings", () => {
  const polyline = (...end: Pair[]) =>
    written(
      [0, "POLYLINE"],
      [8, "A"],
      [70, 8],
      ...[1, 2, 3].flatMap((k): Pair[] => [[0, "VERTEX"], [8, "A"], ...corner(0, k, 2 * k, k)]),
      ...end,
      [0, "POINT"],
      [8, "B"],
      ...corner(0, 7, 8, 9),
    );
  test.each<[string, Pair[]]>([
    ["no SEQEND", []],
    ["a SEQEND damaged by one letter", [[0, "SEQENT"]]],
  ])("%s: the polyline ends where another entity begins", (_, end) => {
    const { records, reference } = read(polyline(...end));
    expect(Array.from(reference.lines[0]!.xyz)).toEqual([1, 2, 1, 2, 4, 2, 3, 6, 3]);
    expect([records.count, records.e[0], records.n[0], records.z[0]]).toEqual([1, 7, 8, 9]);
  });

  test("a count of two thousand million corners takes no room; two are there", () => {
    const { reference } = read(
      written([0, "LWPOLYLINE"], [8, "A"], [90, 2_000_000_000], [10, 1], [20, 2], [10, 3], [20, 4]),
    );
    expect(Array.from(reference.lines[0]!.xyz)).toEqual([1, 2, NaN, 3, 4, NaN]);
  });

  test("an entity called __proto__ is one that is not read; the others are", () => {
    const { records } = read(written([0, "__proto__"], [8, "A"], [0, "POINT"], [8, "B"], ...corner(0, 1, 2, 3)));
    expect(records.count).toBe(1);
    expect(records.notes.join()).toContain("1 entity of the kind __proto__ was not read");
  });

  test("what is no number is told with its line, and that entity alone is left out", () => {
    const { records } = read(
      written([0, "POINT"], [8, "A"], [10, "12,5"], [20, 1], [0, "POINT"], [8, "A"], ...corner(0, 1, 2, 3)),
    );
    expect([records.count, records.e[0]]).toEqual([1, 1]);
    expect(records.notes).toContain("Line 10: “12,5” is no number; the POINT of layer A was left out.");
    for (const wrong of ["0x10", "1e", "", "NaN", "Infinity", "1.2.3"])
      expect(read(written([0, "POINT"], [10, wrong], [20, 1])).records.count).toBe(0);
  });

  test.each([
    ["0\nSECTION\n2\nENTITIES\nx\nPOINT\n", /line 5 should be a group code and is “x”/],
    ["0\nSECTION\n2\nENTITIES\n0", /ends in line 5, behind a group code/],
    [`0\nSECTION\n${"9".repeat(500)}\n`, /line 3 should be a group code/],
  ])("text that is no pairs is refused with the line", (text, says) => {
    expect(() => read(text)).toThrow(Refusal);
    expect(() => read(text)).toThrow(says);
  });

  test("a mesh of corners is no line, and its corners are not joined", () => {
    for (const flag of [16, 64]) {
      const { reference, records } = read(
        written(
          [0, "POLYLINE"],
          [8, "A"],
          [70, flag],
          ...[1, 2, 3].flatMap((k): Pair[] => [[0, "VERTEX"], ...corner(0, k, k, k)]),
          [0, "SEQEND"],
        ),
      );
      expect(reference.lines).toEqual([]);
      expect(records.notes.join()).toContain("1 entity of the kind POLYLINE was not read");
    }
  });

  test("whatever is cut, repeated or exchanged in a drawing, reading ends with what is there or a sentence", () => {
    fc.assert(
      fc.property(
        fc.array(entity, { minLength: 1, maxLength: 5 }),
        fc.array(fc.tuple(fc.nat(), fc.constantFrom("cut", "twice", "letter", "swap"), fc.nat(255)), { maxLength: 6 }),
        (list, damages) => {
          const lines = written(...list.flat()).split("\n");
          for (const [where, what, letter] of damages) {
            const k = where % lines.length;
            if (what === "cut") lines.splice(k, 1 + (letter % 3));
            else if (what === "twice") lines.splice(k, 0, lines[k] ?? "0");
            else if (what === "letter") lines[k] = (lines[k] ?? "").slice(1) + String.fromCharCode(letter);
            else [lines[k], lines[0]] = [lines[0] ?? "", lines[k] ?? ""];
            if (lines.length === 0) lines.push("0");
          }
          try {
            const { records, reference } = read(lines.join("\n"));
            expect(records.count + reference.lines.length).toBeLessThanOrEqual(lines.length / 2);
          } catch (e) {
            expect(e).toBeInstanceOf(Refusal);
          }
        },
      ),
      { numRuns: 1000 },
    );
  });
});
