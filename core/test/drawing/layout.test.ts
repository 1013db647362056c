// @long: left out of npm run test:quick.
/** Texts on the paper: none on another, none on a symbol, those without room listed. */
import fc from "fast-check";
import { type CodeEntry, type DrawingSettings, type JobState, runChain } from "../../src";
import { boxesMeet, covers, Crowd, type TextBox } from "../../src/drawing/crowd";
import { drawSymbols } from "../../src/drawing/content";
import { layOutTexts, sizeOnPaper, type DrawnText, type Layout } from "../../src/drawing/layout";
import { drawRank, isDrawn, kindsInOrder } from "../../src/drawing/order";
import { layoutSource } from "../../src/job/leave/drawn";
import { halfSize } from "../../src/drawing/stand";
import { LINE_STYLES, styleReach } from "../../src/drawing/line-styles";
import { symbolOf, symbolReach } from "../../src/drawing/symbols";
import { stateOf, type Row } from "../job";

const codes: CodeEntry[] = [
  {
    code: "TREE",
    symbol: "tree",
    size: { attribute: "spread" },
    group: "Green",
    attributes: [{ name: "spread", type: "number", unit: "m" }, { name: "kind" }],
    label: "{kind} {spread:1} m",
  },
  { code: "LAMP", symbol: "lamp", group: "Services", label: "lamp {number}" },
  { code: "SPOT", symbol: "spot" },
  { code: "PIPE", kind: "line", group: "Services", label: "⌀ 0.30", labelAt: { every: 20 } },
  { code: "BED", kind: "area", group: "Green", label: "bed" },
];
const all = { notes: true, points: true, contours: false };
const stateWith = (rows: Row[], drawing: DrawingSettings = {}) => stateOf(rows, { codeBook: { codes }, drawing });

function lay(state: JobState, unitsPerMm: number): Layout {
  return layOutTexts(layoutSource(state, runChain(state), all), unitsPerMm);
}
const boxOf = (t: DrawnText, unitsPerMm: number): TextBox => {
  const [halfWidth, halfHeight] = halfSize(t);
  return { x: t.e / unitsPerMm, y: t.n / unitsPerMm, halfWidth, halfHeight, angle: t.angle };
};

const scene = fc
  .array(
    fc.record({
      e: fc.integer({ min: 0, max: 1200 }),
      n: fc.integer({ min: 0, max: 1200 }),
      is: fc.constantFrom("TREE 6 birch", "TREE 14 oak", "LAMP", "SPOT", "PIPE1", "BED1"),
      z: fc.integer({ min: 0, max: 99 }),
    }),
    { minLength: 3, maxLength: 40 },
  )
  .map((list) => list.map((x, k): Row => ({ number: k + 1, e: x.e / 10, n: x.n / 10, z: x.z / 7, code: x.is })));

test("in any scene at any scale no two texts overlap and none covers a symbol; what has no place is listed", () => {
  fc.assert(
    fc.property(scene, fc.constantFrom(0.1, 0.2, 0.5, 1), (rows, u) => {
      const state = stateWith(rows),
        layout = lay(state, u),
        boxes = layout.texts.map((t) => boxOf(t, u));
      for (let a = 0; a < boxes.length; a++)
        for (let b = a + 1; b < boxes.length; b++) expect(boxesMeet(boxes[a]!, boxes[b]!, 0)).toBe(false);
      const symbols = drawSymbols(state.points, runChain(state).coded, "m");
      for (let k = 0; k < symbols.point.length; k++) {
        const look = symbols.looks[symbols.look[k]!]!,
          i = symbols.point[k]!,
          radius = look.shot ? 0.5 : symbolReach(symbolOf(look.symbol)!, sizeOnPaper(symbols, k, u));
        const hollow = !Number.isNaN(symbols.ground[k]!) && radius > 3;
        for (const box of boxes)
          expect(covers(box, { x: state.points.e[i]! / u, y: state.points.n[i]! / u, radius, hollow }, -0.01)).toBe(
            false,
          );
      }
      const notes = layout.texts.filter((t) => t.is === "note").length,
        missed = layout.unplaced.filter((x) => x.is === "note").length;
      expect(notes + missed).toBe(layout.notes);
      expect(notes + missed).toBeGreaterThanOrEqual(rows.filter((r) => /TREE|LAMP/.test(r.code!)).length);
      expect(lay(state, u)).toEqual(layout);
    }),
    { numRuns: 100 },
  );
});

test("texts read upright, along their lines, and repeat", () => {
  const { texts } = lay(
    stateWith(
      [
        [100, 0],
        [0, 3],
      ].map(([e, n], k) => ({ number: k + 1, e: e!, n: n!, z: 1, code: "PIPE" })),
      { points: [] },
    ),
    0.5,
  );
  expect(texts).toHaveLength(5);
  for (const t of texts) {
    expect(t.lines).toEqual(["⌀ 0.30"]);
    expect(t.angle).toBeCloseTo(Math.atan2(-3, 100), 9);
  }
});

test("an area's note stands within it, a tree's within its crown where there is room", () => {
  const square = [
    [0, 0],
    [40, 0],
    [40, 40],
    [0, 40],
  ].map(([e, n], k): Row => ({ number: `B${k}`, e: e!, n: n!, z: 1, code: `BED${k === 3 ? " loop" : ""}` }));
  const { texts } = lay(
    stateWith([...square, { number: "T", e: 100, n: 20, z: 1, code: "TREE 20 elm" }], { points: [] }),
    0.2,
  );
  expect(texts.find((t) => t.lines[0] === "bed")).toMatchObject({ e: expect.closeTo(20, 0), n: expect.closeTo(20, 0) });
  const elm = texts.find((t) => t.lines[0] === "elm 20.0 m")!;
  expect(Math.hypot(elm.e - 100, elm.n - 20)).toBeLessThan(10);
  expect(elm.leader).toBeUndefined();
});

test("labels of points by set: what, how high, with which decimals; the first entry speaks", () => {
  const rows: Row[] = [
    { number: "1", e: 0, n: 0, z: 101.234, code: "SPOT" },
    { number: "2", e: 50, n: 0, z: 102, code: "LAMP" },
    { number: "3", e: 99, n: 0, code: "SPOT" },
  ];
  const set = { sets: [{ name: "lamps", rule: { codes: ["LAMP"] } }] };
  const state = stateOf(rows, {
    codeBook: { codes },
    ...set,
    drawing: {
      points: [
        { set: "lamps", number: true, code: true, height: 3 },
        { set: "*", elevation: true, decimals: 1 },
        { set: "nothing of that name", number: true },
      ],
    },
  });
  const labels = lay(state, 0.5).texts.filter((t) => t.is === "point");
  expect(labels.map((t) => [t.lines, t.height])).toEqual([
    [["101.2"], 1.8],
    [["2", "LAMP"], 3],
  ]);
});

test("what is hidden by group, layer or kind takes no room and has no note", () => {
  const rows: Row[] = [
    { number: "1", e: 0, n: 0, z: 1, code: "LAMP" },
    { number: "2", e: 50, n: 0, z: 1, code: "TREE 6 birch" },
  ];
  const notes = (drawing: DrawingSettings) =>
    lay(stateWith(rows, { ...drawing, points: [] }), 0.5).texts.map((t) => t.lines[0]);
  expect(notes({})).toHaveLength(2);
  expect(notes({ hidden: { groups: ["Services"] } })).toEqual(["birch 6.0 m"]);
  expect(notes({ hidden: { layers: ["TREE"] } })).toEqual(["lamp 1"]);
  expect(notes({ hidden: { kinds: ["point"] } })).toEqual([]);
  expect(isDrawn({ group: "G", layer: "L", kind: "line" }, { kinds: ["area"] })).toBe(true);
});

test("notes of points in a crowd are placed before those with room, whatever their order", () => {
  const lonely = { number: 1, e: 500, n: 500, z: 1, code: "LAMP" },
    crowd = [0, 1, 2].map((k): Row => ({ number: k + 2, e: k, n: 0, z: 1, code: "LAMP" })),
    notes = lay(stateWith([lonely, ...crowd]), 1).texts.flatMap((x) => (x.is === "note" ? x.lines : []));
  expect(notes).toEqual(["lamp 2", "lamp 3", "lamp 4", "lamp 1"]);
});

const at = (x: number, y: number, radius = 0) => ({ x, y, radius, hollow: false });

test("texts keep clear of a line's marks, as far as these reach to either side", () => {
  const widest = LINE_STYLES.reduce((a, b) => (styleReach(b) > styleReach(a) ? b : a)),
    reach = styleReach(widest),
    book: CodeEntry[] = [...codes, { code: "MARKED", kind: "line", style: widest.name }];
  const rows: Row[] = [
    { number: 1, e: 0, n: 0, z: 1, code: "MARKED" },
    { number: 2, e: 100, n: 0, z: 1, code: "MARKED" },
    ...Array.from({ length: 19 }, (_, k): Row => ({ number: k + 3, e: 5 * k + 5, n: reach + 1.2, z: 1, code: "SPOT" })),
  ];
  expect(reach).toBeGreaterThan(0.5);
  const { texts } = lay(stateOf(rows, { codeBook: { codes: book } }), 1),
    // Of the spots: the ends of the line have their labels where the line ends.
    boxes = texts.filter((t) => t.point > 1).map((t) => boxOf(t, 1));
  expect(boxes.length).toBeGreaterThan(5);
  for (const box of boxes) for (let e = 0; e <= 100; e++) expect(covers(box, at(e, 0, reach), -0.05)).toBe(false);
});

test("no leader runs through a text, and no contour's label lies on one", () => {
  // A slope of a metre in ten; its lamps stand in a cluster, with room for what they say farther off.
  const ground = Array.from({ length: 196 }, (_, k): Row => {
      const [e, n] = [7 * (k % 14), 7 * Math.floor(k / 14)];
      return { number: k + 1, e, n, z: e / 10, code: "SPOT" };
    }),
    lamps = Array.from({ length: 30 }, (_, k): Row => ({
      number: k + 200,
      e: 41 + 3 * (k % 6),
      n: 43 + 3 * Math.floor(k / 6),
      z: 5,
      code: "LAMP",
    })),
    slope = [...ground, ...lamps],
    state = {
      ...stateWith(slope),
      surfaces: [{ name: "ground" }],
      contours: [{ surface: "ground", interval: 0.2, index: 1 }],
    };
  const source = layoutSource(state, runChain(state), { ...all, contours: true });
  const is = { contours: 0, leaders: 0, meeting: 0, crossed: 0 };
  for (const u of [0.2, 0.25, 0.3, 0.4, 0.5, 0.7, 1]) {
    const { texts } = layOutTexts(source, u),
      boxes = texts.map((t) => boxOf(t, u));
    for (const [k, { leader, is: kind }] of texts.entries()) {
      if (kind === "contour") is.contours++;
      const after = boxes.slice(k + 1);
      if (after.some((box) => boxesMeet(boxes[k]!, box, 0))) is.meeting++;
      if (!leader) continue;
      is.leaders++;
      const [e0, n0, e1, n1] = leader.map((x) => x / u) as [number, number, number, number],
        along = Array.from({ length: 19 }, (_, s) =>
          at(e0 + ((e1 - e0) * (s + 1)) / 20, n0 + ((n1 - n0) * (s + 1)) / 20),
        );
      // Those placed after it keep clear of it along its whole way.
      if (after.some((box) => along.some((spot) => covers(box, spot, -0.05)))) is.crossed++;
    }
  }
  expect(is).toEqual({ contours: expect.any(Number), leaders: expect.any(Number), meeting: 0, crossed: 0 });
  expect(Math.min(is.contours, is.leaders)).toBeGreaterThan(5);
});

test("labels of which twice the paper would be full are not looked for; with room for them all are", () => {
  const rows = (apart: number) =>
    Array.from({ length: 2500 }, (_, k): Row => ({
      number: k + 1,
      e: apart * (k % 50),
      n: apart * Math.floor(k / 50),
      z: 9,
      code: "SPOT",
    }));
  const tight = lay(stateWith(rows(0.5)), 0.5);
  expect([tight.crowded, tight.labels, tight.texts.length, tight.unplaced.length]).toEqual([true, 2500, 0, 0]);
  const wide = lay(stateWith(rows(20)), 0.5);
  expect([wide.crowded, wide.labels, wide.texts.length]).toEqual([false, 2500, 2500]);
});

test("measured symbols are to scale, fixed ones to paper, and no measured one vanishes", () => {
  const state = stateWith([
    { number: "1", e: 0, n: 0, z: 1, code: "TREE 6" },
    { number: "2", e: 9, n: 0, z: 1, code: "TREE" },
    { number: "3", e: 9, n: 9, z: 1, code: "TREE x" },
    { number: "4", e: 5, n: 5, z: 1, code: "LAMP" },
  ]);
  const s = drawSymbols(state.points, runChain(state).coded, "m"),
    size = (k: number, u: number) => sizeOnPaper(s, k, u);
  expect([size(0, 0.2), size(0, 0.5), size(0, 5)]).toEqual([30, 12, symbolOf("tree")!.size / 2]);
  expect([size(1, 0.2), size(2, 0.2), size(3, 0.2)]).toEqual([
    symbolOf("tree")!.size,
    symbolOf("tree")!.size,
    symbolOf("lamp")!.size,
  ]);
  const feet = stateOf([{ number: "1", e: 0, n: 0, z: 1, code: "TREE 6" }], { unit: "ft", codeBook: { codes } });
  expect(drawSymbols(feet.points, runChain(feet).coded, "ft").ground[0]).toBeCloseTo(6 / 0.3048, 4);
});

test("a crowd says whether a box is free as a search through all would", () => {
  const box = fc.record({
    x: fc.double({ min: -40, max: 40, noNaN: true }),
    y: fc.double({ min: -40, max: 40, noNaN: true }),
    halfWidth: fc.double({ min: 0.5, max: 9, noNaN: true }),
    halfHeight: fc.double({ min: 0.5, max: 2, noNaN: true }),
    angle: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
  });
  fc.assert(
    fc.property(
      fc.array(box, { maxLength: 12 }),
      fc.array(
        fc.record({
          x: fc.integer({ min: -40, max: 40 }),
          y: fc.integer({ min: -40, max: 40 }),
          radius: fc.double({ min: 0.2, max: 15, noNaN: true }),
          hollow: fc.boolean(),
        }),
        { maxLength: 8 },
      ),
      box,
      (boxes, rounds, one) => {
        const crowd = new Crowd();
        for (const b of boxes) crowd.addBox(b);
        for (const r of rounds) crowd.addRound(r);
        expect(crowd.isFree(one)).toBe(!boxes.some((b) => boxesMeet(one, b)) && !rounds.some((r) => covers(one, r)));
      },
    ),
  );
});

test("kinds, groups and layers are drawn in the order that the job says; what is not named lies below", () => {
  expect(kindsInOrder({})).toEqual(["area", "line", "point"]);
  expect(kindsInOrder({ kindOrder: ["point", "area"] })).toEqual(["line", "point", "area"]);
  const rank = drawRank({ order: ["Low", "High"], layerOrder: ["B", "A"] }),
    things = [
      ["High", "A"],
      ["High", "B"],
      ["Low", "A"],
      ["High", "C"],
      ["Other", "A"],
      ["Low", "C"],
    ].map(([group, layer]) => ({ group: group!, layer: layer! }));
  expect(things.sort((a, b) => rank(a) - rank(b)).map((x) => x.group + x.layer)).toEqual([
    "OtherA",
    "LowC",
    "LowA",
    "HighC",
    "HighB",
    "HighA",
  ]);
});
