// @long: left out of npm run test:quick.
/** What a person adds to the drawing: it stands where it was put, follows its points and lines, and outlives a reading. */
import { displayList } from "../../src/drawing/display";
import { stretched, type PathStroke } from "../../src/drawing/strokes";
import { lineStyle, styleReach } from "../../src/drawing/line-styles";
import { layOutTexts, type Layout } from "../../src/drawing/layout";
import { editText, type TextEdit } from "../../src/drawing/added/edit";
import type { Added, Words } from "../../src/drawing/added/model";
import { layoutSource } from "../../src/job/leave/drawn";
import { writeFile } from "../../src/job/leave/handover";
import { runChain } from "../../src/job/chain/chain";
import { writeRecipe } from "../../src/job/recipe/write";
import { openRecipe, parseRecipe, type Recipe } from "../../src/job/recipe/recipe";
import type { JobState } from "../../src/job/model/model";
import { csvOf, derive, type Row } from "../job";

/** A fence of two straights at right angles, a square bed, two trees with their notes; 3 : 4 : 5 for whole distances. */
const rows: Row[] = [
  { number: "1", e: 3000, n: 7000, z: 10, code: "FENCE2" },
  { number: "2", e: 3030, n: 7040, z: 10, code: "FENCE2" },
  { number: "3", e: 3070, n: 7010, z: 10, code: "FENCE2" },
  { number: "4", e: 3100, n: 7000, z: 10, code: "BED" },
  { number: "5", e: 3120, n: 7000, z: 10, code: "BED" },
  { number: "6", e: 3120, n: 7020, z: 10, code: "BED" },
  { number: "7", e: 3100, n: 7020, z: 10, code: "BED loop" },
  { number: "8", e: 3000, n: 7080, z: 12.5, code: "TREE 6" },
  { number: "9", e: 3050, n: 7080, z: 13.5, code: "TREE 8" },
];
const CODES = [
  { code: "FENCE", name: "Fence", kind: "line" as const },
  { code: "BED", name: "Planting bed", kind: "area" as const },
  { code: "TREE", ground: false, attributes: [{ name: "spread", type: "number" as const }], label: "{spread} m" },
];
const FENCE = { code: "FENCE", run: "2", from: "day1:1" },
  BED = { code: "BED", run: "", from: "day1:4" };

const job = (added: Added[], of = rows, more: Partial<Recipe> = {}) =>
  derive(of, { codeBook: { codes: CODES }, drawing: { points: [] }, added, ...more });
/** At 1 : 500, half a metre to a millimetre. */
function laidOut(j: { state: JobState; derived: ReturnType<typeof runChain> }): Layout {
  return layOutTexts(layoutSource(j.state, j.derived, { notes: true, points: true, contours: true }), 0.5);
}
const textOf = (l: Layout, part: string) => l.texts.find((t) => t.lines.join(" ").includes(part))!;

describe("measures along lines", () => {
  test("bearing and distance stand beside their pieces, along them, and read upright", () => {
    const l = laidOut(job([{ name: "m", measures: FENCE, show: ["bearing", "distance"] }]));
    // From 1 to 2: 30 east, 40 north, 50 in all; from 2 to 3: 40 east, 30 south.
    const first = textOf(l, "50.000"),
      second = l.texts.filter((t) => t.lines[0]!.includes("50.000"))[1]!;
    expect(first.lines).toEqual(["36°52′12″  50.000"]);
    expect(second.lines).toEqual(["126°52′12″  50.000"]);
    // Told apart, though they may say the same.
    expect([first, second].map((t) => [t.added, t.time])).toEqual([
      ["m", 0],
      ["m", 1],
    ]);
    expect(first.angle).toBeCloseTo(Math.atan2(40, 30), 12);
    expect(second.angle).toBeCloseTo(Math.atan2(-30, 40), 12);
    // Beside the middle, at a right angle to the piece, no farther than a few millimetres.
    const [de, dn] = [first.e - 3015, first.n - 7020];
    expect(de * 30 + dn * 40).toBeCloseTo(0, 6);
    expect(Math.hypot(de, dn)).toBeGreaterThan(0.5);
    expect(Math.hypot(de, dn)).toBeLessThan(2);
  });

  test("a bearing follows its line when a point moves, in the style that the job asks for", () => {
    const moved = rows.map((r) => (r.number === "2" ? { ...r, e: 3000, n: 7050 } : r)),
      added: Added[] = [{ name: "m", measures: FENCE, show: ["bearing", "distance"] }];
    expect(textOf(laidOut(job(added, moved)), "50.000").lines).toEqual(["0°00′00″  50.000"]);
    expect(textOf(laidOut(job(added, rows, { angle: "bearing-dms" })), "50.000").lines).toEqual([
      "N 36°52′12″ E  50.000",
    ]);
  });

  test("beside a piece on the side that is free; of one too short for its text nearby; of an arc its radius", () => {
    const show: Added[] = [{ name: "m", measures: FENCE, show: ["distance"] }],
      first = (added: Added[]) => textOf(laidOut(job([...show, ...added])), "50.000"),
      free = first([]),
      // What a person put where it would stand.
      taken = first([{ name: "w", words: "i", to: { at: [free.e, free.n] }, height: 0.5 }]);
    expect([taken.e + free.e, taken.n + free.n]).toEqual([expect.closeTo(2 * 3015, 6), expect.closeTo(2 * 7020, 6)]);
    expect(taken.angle).toBe(free.angle);
    const short = rows.map((r) => (r.number === "2" ? { ...r, e: 3001, n: 7001 } : r)),
      // Not for want of room: no symbols of shots stand in its way.
      near = textOf(laidOut(job(show, short, { drawing: { points: [], hidden: { kinds: ["point"] } } })), "1.414");
    expect(near.angle).toBe(0);
    expect(Math.hypot(near.e - 3000.5, near.n - 7000)).toBeLessThan(5);
    // A quarter of a circle of 10 m.
    const arc = [
      ...rows.slice(3),
      { number: "21", e: 3200, n: 7000, z: 10, code: "FENCE2" },
      { number: "22", e: 3200 + 10 * (1 - Math.SQRT1_2), n: 7000 + 10 * Math.SQRT1_2, z: 10, code: "FENCE2 via" },
      { number: "23", e: 3210, n: 7010, z: 10, code: "FENCE2" },
    ];
    const arcs: Added = { name: "m", measures: { code: "FENCE", run: "2", from: "day1:7" }, show: ["distance"] },
      made = job([arcs], arc),
      of = made.derived.lines.find((l) => l.code === "FENCE")!;
    expect(of.pieces.map((p) => p.type)).toEqual(["arc"]);
    const beside = textOf(laidOut(made), "R");
    expect(beside.lines).toEqual(["15.708  R 10.000"]);
    // Along its chord it would leave the arc: either side of its middle, or nearby.
    const middle = { e: 3200 + 10 * (1 - Math.SQRT1_2), n: 7000 + 10 * Math.SQRT1_2 },
      words = [beside, { e: 2 * middle.e - beside.e, n: 2 * middle.n - beside.n }].map(({ e, n }, k): Added => ({
        name: `${k}`,
        words: "i",
        to: { at: [e, n] },
        height: 0.5,
      }));
    expect(beside.angle).toBeCloseTo(Math.PI / 4, 3);
    expect(textOf(laidOut(job([...words, arcs], arc)), "R").angle).toBe(0);
  });

  test("where the middle of a piece has no room on either side it stands farther along; clear of the line's marks", () => {
    const show: Added = { name: "m", measures: FENCE, show: ["distance"] },
      first = (added: Added[], style = "solid") =>
        textOf(
          laidOut(
            job([show, ...added], rows, {
              codeBook: { codes: CODES.map((c) => (c.code === "FENCE" ? { ...c, style } : c)) },
            }),
          ),
          "50.000",
        );
    const free = first([]),
      other = { e: 2 * 3015 - free.e, n: 2 * 7020 - free.n },
      dot = (k: number, { e, n }: { e: number; n: number }): Added => ({
        name: `dot ${k}`,
        words: "i",
        to: { at: [e, n] },
        height: 0.5,
      });
    const along = first([dot(1, free), dot(2, other)]),
      // Across the piece as before; along it by more than nothing, within its ends.
      [de, dn] = [along.e - free.e, along.n - free.n];
    expect(along.angle).toBe(free.angle);
    expect(Math.min(Math.hypot(de, dn), Math.hypot(along.e - other.e, along.n - other.n))).toBeGreaterThan(0.4);
    const way = ((along.e - 3015) * 30 + (along.n - 7020) * 40) / 50;
    expect(Math.abs(way)).toBeLessThan(25 - along.halfWidth / 2);
    // No room anywhere along it: not beyond its ends, but near it.
    const all = Array.from({ length: 26 }, (_, k) => k - 13).flatMap((k) =>
      [free, other].map((t, j) => dot(2 * k + j, { e: t.e + 1.2 * k, n: t.n + 1.6 * k })),
    );
    expect(first(all).angle).toBe(0);
    // Both rails of a dry wall, at 1 : 500.
    const apart = (t: { e: number; n: number }) => Math.hypot(t.e - 3015, t.n - 7020);
    expect(apart(first([], "stones")) - apart(free)).toBeCloseTo(styleReach(lineStyle("stones")) / 2, 6);
  });

  test("only what the window shows is written of a vast line, and no area of an open one", () => {
    const { state, derived } = job([{ name: "m", measures: FENCE, show: ["distance", "area"] }]),
      want = { notes: true, points: false, contours: false };
    const within = (maxE: number) =>
      layOutTexts(
        { ...layoutSource(state, derived, want), within: { minE: 2990, minN: 6990, maxE, maxN: 7100 } },
        0.5,
      ).texts.flatMap((t) => (t.added ? [t.lines[0]] : []));
    expect(within(3100)).toEqual(["50.000", "50.000"]);
    expect(within(3030)).toEqual(["50.000"]);
  });

  test("name and area stand within a closed line, in the unit shown", () => {
    const l = laidOut(job([{ name: "m", measures: BED, show: ["name", "area"] }])),
      text = textOf(l, "Planting bed");
    expect(text.lines[0]).toBe("Planting bed  400.0 m²");
    expect([text.e > 3100, text.e < 3120, text.n > 7000, text.n < 7020]).toEqual([true, true, true, true]);
    const ha = laidOut(job([{ name: "m", measures: BED, show: ["area"] }], rows, { areaUnit: "ha" }));
    expect(textOf(ha, "ha").lines[0]).toBe("0.0400 ha");
  });
});

describe("dimensions and words", () => {
  test("a dimension says the distance, its line to the right of the way, ticks at both ends", () => {
    const l = laidOut(
      job([{ name: "d", dimension: [{ point: "day1:4" }, { at: [3120, 7000] }], right: 4, height: 2.5 }]),
    );
    expect(textOf(l, "20.000 m")).toMatchObject({ height: 2.5, added: "d", angle: 0 });
    // Going east its right is south.
    const [along] = l.strokes;
    expect(along!.way).toEqual([3100, 6996, 3120, 6996].map((x) => expect.closeTo(x, 9)));
    expect(l.strokes).toHaveLength(5);
    expect(l.strokes.every((x) => x.added === "d")).toBe(true);
  });

  test("labels and notes keep clear of a dimension's lines", () => {
    const label = (l: Layout) => l.texts.find((t) => t.is === "point" && t.lines[0] === "3")!,
      before = label(laidOut(job([], rows, { drawing: {} }))),
      across: Added = {
        name: "d",
        dimension: [{ at: [before.e - 20, before.n] }, { at: [before.e + 300, before.n] }],
        right: 0,
      };
    const after = laidOut(job([across], rows, { drawing: {} })),
      moved = label(after);
    expect(after.strokes.length).toBeGreaterThan(0);
    // Half of two lines of text of 1.8 mm at 1 : 500.
    expect(Math.abs(moved.n - before.n)).toBeGreaterThan(0.9);
  });

  test("words stand beside their point as far as they were put, turned to the right, with a leader", () => {
    const words: Added = {
      name: "w",
      words: "to be felled\nby March",
      to: { point: "day1:8" },
      by: [12, 7],
      turn: 30,
      leader: true,
    };
    const at = (l: Layout) => textOf(l, "to be felled"),
      t = at(laidOut(job([words])));
    expect(t).toMatchObject({ lines: ["to be felled", "by March"], e: 3012, n: 7087 });
    expect(t.angle).toBeCloseTo(-Math.PI / 6, 12);
    expect(t.leader!.slice(0, 2)).toEqual([3000, 7080]);
    const moved = rows.map((r) => (r.number === "8" ? { ...r, e: 2990 } : r));
    expect(at(laidOut(job([words], moved)))).toMatchObject({ e: 3002, n: 7087 });
  });
});

describe("texts moved by hand", () => {
  const note = (more: object): Added => ({ name: "n", text: { note: "day1:9", code: "TREE" }, ...more }) as Added;

  test("a note stands where it was put, larger and turned; hidden it is not there and not missed", () => {
    const plain = laidOut(job([])),
      moved = laidOut(job([note({ by: [-20, 5], turn: -15, height: 4 })]));
    expect(textOf(plain, "8 m").added).toBeUndefined();
    expect(textOf(moved, "8 m")).toMatchObject({ e: 3030, n: 7085, height: 4, added: "n" });
    expect(textOf(moved, "8 m").angle).toBeCloseTo(Math.PI / 12, 12);
    const hidden = laidOut(job([note({ hidden: true })]));
    expect(textOf(hidden, "8 m")).toBeUndefined();
    expect(hidden.unplaced).toEqual([]);
    expect([plain.notes, moved.notes, hidden.notes]).toEqual([2, 2, 2]);
  });

  test("others keep clear of it; two that were put onto one another are told", () => {
    const onto = (name: string, row: number, e: number): Added => ({
      name,
      text: { note: `day1:${row}` },
      by: [e, 20],
    });
    const l = laidOut(job([onto("a", 8, 25), onto("b", 9, -25)]));
    expect(l.collisions).toEqual([["a", "b"]]);
    expect(laidOut(job([onto("a", 8, 25), onto("b", 9, 25)])).collisions).toEqual([]);
  });

  test("where notes or labels are too many to be written, what a person added or placed is written still", () => {
    const crowd = Array.from({ length: 40 }, (_, k): Row => ({
      number: `${20 + k}`,
      e: 3000 + 0.1 * k,
      n: 7080,
      z: 12,
      code: `TREE ${k}`,
    }));
    const added: Added[] = [
      { name: "w", words: "to be felled", to: { at: [3000, 7200] } },
      { name: "n", text: { note: "day1:12" }, by: [100, 0] },
      { name: "l", text: { label: "day1:12" }, by: [100, 20] },
    ];
    const { state, derived } = job(added, [...rows, ...crowd], { drawing: { points: [{ set: "*", number: true }] } }),
      l = layOutTexts(
        { ...layoutSource(state, derived, { notes: true, points: true, contours: false }), mostOrNone: true },
        0.5,
      );
    expect(l.crowded).toBe(true);
    expect(l.texts.map((t) => t.added)).toEqual(["w", "n", "l"]);
  });

  test("labels of points and of contours are moved and hidden alike", () => {
    const ground: Partial<Recipe> = {
      drawing: { points: [{ set: "*", number: true }] },
      surfaces: [{ name: "ground" }],
      contours: [{ surface: "ground", interval: 0.5, index: 1 }],
    };
    const slope = [0, 1, 2, 3, 4, 5].flatMap((r) =>
      [0, 1, 2, 3, 4, 5].map((c): Row => ({ number: `${r}${c}`, e: 40 * c, n: 40 * r, z: 100 + r, code: "SPOT" })),
    );
    const plain = laidOut(job([], slope, ground)),
      label = plain.texts.find((t) => t.is === "contour")!,
      level = Number(label.lines[0]);
    const contour = (more: object): Added =>
      ({ name: "c", text: { contour: "ground", level, near: [label.e + 1, label.n] }, ...more }) as Added;
    const moved = laidOut(job([contour({ by: [3, 4] })], slope, ground)),
      own = moved.texts.find((t) => t.added === "c")!;
    expect([own.lines, own.e, own.n]).toEqual([
      label.lines,
      expect.closeTo(label.e + 3, 6),
      expect.closeTo(label.n + 4, 6),
    ]);
    const count = (l: Layout) => l.texts.filter((t) => t.is === "contour").length;
    expect([count(moved), count(laidOut(job([contour({ hidden: true })], slope, ground)))]).toEqual([
      count(plain),
      count(plain) - 1,
    ]);
    // Of another surface at the same level it is not.
    const two: Partial<Recipe> = {
      ...ground,
      surfaces: [{ name: "ground" }, { name: "other" }],
      contours: [...ground.contours!, { surface: "other", interval: 0.5, index: 1 }],
    };
    const of = laidOut(job([contour({ hidden: true })], slope, two)).texts.filter((t) => t.is === "contour"),
      all = laidOut(job([], slope, two)).texts.filter((t) => t.is === "contour");
    expect(of.filter((t) => t.layer === "other").length).toBeGreaterThanOrEqual(
      all.filter((t) => t.layer === "other").length,
    );
    const labels: Added[] = [{ name: "l", text: { label: "day1:8" }, by: [2, -6] }];
    // The eighth row is the second of the second line.
    expect(laidOut(job(labels, slope, ground)).texts.find((t) => t.added === "l")).toMatchObject({
      lines: ["11"],
      e: 42,
      n: 34,
    });
    // It stands there alone, not beside its point as well.
    expect(laidOut(job(labels, slope, ground)).texts.filter((t) => t.lines[0] === "11")).toHaveLength(1);
  });
});

test("a size or an offset beyond all measure is laid out like any other, and only what it covers is in its way", () => {
  const added: Added[] = [
    { name: "far", words: "far", to: { point: "day1:8" }, by: [9e5, 9e5], leader: true },
    { name: "long", words: "x".repeat(2000), to: { at: [3050, 6000] }, height: 50, turn: 45 },
    { name: "vast", symbol: "day1:9", size: [10_000, 10_000] },
  ];
  const at50 = ({ state, derived }: ReturnType<typeof job>) =>
      layOutTexts(layoutSource(state, derived, { notes: true, points: true, contours: true }), 0.05),
    l = at50(job(added)),
    near = (x: Layout) => [textOf(x, "6 m").e, textOf(x, "6 m").n];
  expect(l.texts.filter((t) => t.is === "added").map((t) => t.added)).toEqual(["far", "long"]);
  expect(l.unplaced).toEqual([]);
  expect(near(l)).toEqual(near(at50(job([]))));
  // Where the long one lies nothing else does.
  const over = at50(job([{ ...(added[1] as Words), turn: 0, to: { at: [3000, 7080] } }]));
  expect(over.texts.every((t) => t.is === "added" || Math.abs(t.n - 7080) > 0.05 * 25)).toBe(true);
});

describe("editing a text", () => {
  const tools = (j: ReturnType<typeof job>) => ({
    table: j.state.points,
    intakes: j.state.intakes,
    lines: j.derived.lines,
    added: j.state.added,
  });
  /** The job with an edit of the first text that holds these words, and its layout. */
  const edited = (j: ReturnType<typeof job>, part: string, edit: TextEdit | null, more: Partial<Recipe> = {}) => {
    const change = editText(textOf(laidOut(j), part), edit, tools(j))!,
      added = [...j.state.added.filter((a) => a.name !== change.name), ...(change.after ? [change.after] : [])];
    return job(added, rows, more);
  };

  test("moved twice and turned it stands where it was brought; put back it is where it was", () => {
    const plain = job([]),
      at = textOf(laidOut(plain), "8 m"),
      once = edited(plain, "8 m", { move: [10, 4] }),
      twice = edited(once, "8 m", { move: [1, 1] }),
      turned = edited(twice, "8 m", { turn: 90 }),
      t = textOf(laidOut(turned), "8 m");
    expect(turned.state.added).toHaveLength(1);
    expect([t.e, t.n]).toEqual([expect.closeTo(at.e + 11, 2), expect.closeTo(at.n + 5, 2)]);
    expect(t.angle).toBeCloseTo(-Math.PI / 2, 9);
    expect(textOf(laidOut(edited(turned, "8 m", { height: 4 })), "8 m")).toMatchObject({ height: 4, e: t.e });
    const back = edited(turned, "8 m", null);
    expect(back.state.added).toEqual([]);
    expect(textOf(laidOut(back), "8 m")).toMatchObject({ e: at.e, n: at.n, angle: 0 });
  });

  test("a note that its line repeats is moved alone, and follows when the line moves", () => {
    const along = {
        codeBook: { codes: [{ ...CODES[0]!, label: "{line} wire", labelAt: { place: "auto" as const, every: 30 } }] },
      },
      j = job([], rows, along),
      notes = laidOut(j).texts.filter((t) => t.lines[0] === "FENCE 2 wire");
    expect(notes.length).toBeGreaterThan(2);
    const second = notes.find((t) => t.time === 1)!,
      { name, after } = editText(second, { move: [5, 5] }, tools(j))!,
      moved = laidOut(job([after!], rows, along)).texts.filter((t) => t.lines[0] === "FENCE 2 wire");
    expect(moved.filter((t) => t.added === name)).toHaveLength(1);
    const own = moved.find((t) => t.added === name)!;
    expect([own.e, own.n]).toEqual([expect.closeTo(second.e + 5, 2), expect.closeTo(second.n + 5, 2)]);
    expect(moved).toHaveLength(notes.length);
    const north = rows.map((r) => (r.code!.startsWith("FENCE") ? { ...r, n: r.n + 100 } : r)),
      followed = laidOut(job([after!], north, along)).texts.find((t) => t.added === name)!;
    expect(followed.n).toBeCloseTo(own.n + 100, 6);
  });

  test("words are moved and said anew, a dimension goes with its line, a measure stays with its own", () => {
    const words: Added = { name: "w", words: "gate", to: { point: "day1:8\t8" }, by: [1, 1] },
      j = job([words, { name: "m", measures: FENCE, show: ["distance"] }]);
    expect(editText(textOf(laidOut(j), "gate"), { move: [2, 3], height: 5 }, tools(j))!.after).toEqual({
      ...words,
      by: [3, 4],
      height: 5,
    });
    expect(editText(textOf(laidOut(j), "gate"), null, tools(j))!.after).toBeNull();
    expect(editText(textOf(laidOut(j), "gate"), { words: " wide\ngate " }, tools(j))!.after).toEqual({
      ...words,
      words: "wide\ngate",
    });
    expect(editText(textOf(laidOut(j), "gate"), { words: " " }, tools(j))!.after).toEqual(words);
    const measure = textOf(laidOut(j), "50.000");
    expect(editText(measure, { move: [2, 3] }, tools(j))).toBeUndefined();
    expect(editText(measure, { height: 3 }, tools(j))!.after).toEqual({ ...j.state.added[1], height: 3 });
    expect(editText(measure, null, tools(j))!.after).toBeNull();
    // Going north its right is east; what is along the way does not move it.
    const up: Added = { name: "d", dimension: [{ at: [3200, 7000] }, { at: [3200, 7030] }], right: -1 },
      k = job([up]);
    expect(editText(textOf(laidOut(k), "30.000 m"), { move: [4, 7], height: 3 }, tools(k))!.after).toEqual({
      ...up,
      right: 3,
      height: 3,
    });
    // Moved twice each goes on from where the first move brought it.
    const gate = edited(edited(j, "gate", { move: [2, 3] }), "gate", { move: [0.5, -1] });
    expect(gate.state.added.find((a) => a.name === "w")).toEqual({ ...words, by: [3.5, 3] });
    const twice = editText(textOf(laidOut(job([{ ...up, right: 3 }])), "30.000 m"), { move: [2, 0] }, tools(k))!;
    expect(
      editText(textOf(laidOut(job([twice.after!])), "30.000 m"), { move: [-1, 0] }, tools(job([twice.after!])))!.after,
    ).toEqual({ ...up, right: expect.closeTo((twice.after as typeof up).right - 1, 9) });
  });
});

describe("a symbol with its own size, turned by a second shot", () => {
  const own: Added = { name: "s", symbol: "day1:8", size: [6, 1.5], toward: { point: "day1:9" } };
  /** Its primitive at 1 : 500, half a metre to a millimetre. */
  const drawn = (added: Added[], of = rows) => {
    const { derived, state } = job(added, of);
    return displayList({ lines: [], symbols: derived.symbols, drawing: state.drawing ?? {}, unitsPerMm: 0.5 }).flatMap(
      (p) => (p.is === "symbol" && p.point >= 7 ? [p] : []),
    );
  };

  test("it is as long and as wide as said, along the way to the second shot, and follows both", () => {
    const [it, other] = drawn([own]);
    expect(it).toMatchObject({ size: 12, aspect: 0.25, turn: 90 });
    expect(drawn([])[1]).toEqual(other);
    const moved = rows.map((r) => (r.number === "9" ? { ...r, e: 2950, n: 7030 } : r));
    expect(drawn([own], moved)[0]).toMatchObject({ turn: -135 });
    expect(drawn([{ name: "s", symbol: "day1:8", toward: { at: [3000, 7000] } }])[0]).toMatchObject({
      turn: 180,
      aspect: 1,
      size: drawn([])[0]!.size,
    });
  });

  test("its strokes reach a quarter as far across as along; what is round becomes chords near the ellipse", () => {
    const round = stretched(
        [
          { at: [0, 0], radius: 0.5 },
          { at: [0.1, 0], radius: 0.2, from: 0, to: 90 },
        ],
        0.25,
      ),
      [whole, part] = round as PathStroke[];
    for (let k = 0; k < whole!.path.length; k += 2)
      expect((whole!.path[k]! / 0.125) ** 2 + (whole!.path[k + 1]! / 0.5) ** 2).toBeCloseTo(1, 12);
    expect([whole!.closed, part!.closed]).toEqual([true, undefined]);
    expect(part!.path.slice(0, 2)).toEqual([expect.closeTo(0.075, 12), 0]);
    expect(part!.path.slice(-2)).toEqual([expect.closeTo(0.025, 12), expect.closeTo(0.2, 12)]);
    expect(stretched([{ path: [1, 2, 3, 4], closed: true }], 3)).toEqual([{ path: [3, 2, 9, 4], closed: true }]);
  });

  test("in a drawing file it has its two scales and its turn", async () => {
    const { state, derived } = job([own]),
      dxf = new TextDecoder().decode((await writeFile({ file: "a.dxf", format: "dxf" }, state, derived)).bytes),
      // Of the block's reference: factors across, along and up, and the turn to the left.
      inserted =
        /INSERT(?:(?!INSERT)[^])*?SYMBOL-SPOT(?:(?!INSERT)[^])*?\n *41\s+(\S+)\s+42\s+(\S+)\s+43\s+\S+\s+50\s+(\S+)/;
    expect(inserted.exec(dxf)!.slice(1).map(Number)).toEqual([1.5, 6, -90]);
  });

  test("notes keep clear of its longer side, and one whose second shot is gone is told and left as it was", () => {
    const gone: Added = { name: "s", symbol: "day1:8", size: [6, 1.5], toward: { point: "day1:99" } };
    expect(laidOut(job([gone])).lost).toEqual(["s"]);
    expect(
      laidOut(job([{ name: "d", dimension: [{ at: [3000, 7000] }, { point: "day1:99" }], right: 0 }])).lost,
    ).toEqual(["d"]);
    // The shot of a line has no symbol of its own.
    const { derived } = job([{ name: "s", symbol: "day1:1", size: [6, 1.5] }]);
    expect([derived.symbols.ground[0], derived.symbols.aspect!.size]).toEqual([NaN, 0]);
    expect(drawn([gone])).toEqual(drawn([]));
    const far = (size: [number, number]) => {
      const t = textOf(laidOut(job([{ name: "s", symbol: "day1:8", size }])), "6 m");
      return Math.hypot(t.e - 3000, t.n - 7080);
    };
    // Half of what it is wider by, in the job's unit.
    expect(far([1, 2.4]) - far([1, 1])).toBeCloseTo(0.7, 2);
  });
});

test("what is added outlives another reading and a recipe; what lost its point is told by name", () => {
  const added: Added[] = [
    { name: "m", measures: FENCE, show: ["distance"] },
    { name: "w", words: "gate", to: { point: "day1:3" }, by: [1, 1] },
    { name: "peg", words: "peg", to: { point: "*number:901" } },
    { name: "label", text: { label: "*number:901" }, by: [1, 1] },
    { name: "from", measures: { code: "FENCE", run: "9", from: "*number:901" }, show: ["name"] },
    { name: "size", symbol: "*number:901", size: [3, 2] },
    { name: "gone", words: "?", to: { point: "day1:77" } },
  ];
  const { state, derived } = job(added, rows, { computed: [{ number: "901", by: { at: [3010, 7010] } }] });
  expect(textOf(laidOut({ state, derived }), "peg")).toMatchObject({ e: 3010, n: 7010 });
  expect(layoutSource(state, derived, { notes: true, points: true, contours: true }).added!.lost).toEqual([
    "from",
    "gone",
  ]);
  expect(JSON.stringify(state.added).match(/\*made:\d+/g)).toHaveLength(4);
  const recipe = writeRecipe(state, state.points, () => "day1.csv");
  expect(recipe.added).toEqual(added);
  const again = openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () => new TextEncoder().encode(csvOf(rows))),
    texts = (l: Layout) => l.texts.map((t) => [t.lines, t.e, t.n, t.added]);
  expect(texts(laidOut({ state: again.state, derived: runChain(again.state) }))).toEqual(
    texts(laidOut({ state, derived })),
  );
  // Points of another reading have other ids: their rows are what they were.
  const other = { ...state, points: { ...state.points, id: state.points.id.map((id) => id + 500) } },
    moved = laidOut({ state: other, derived: runChain(other) });
  expect(moved.texts.filter((t) => t.added === "m" || t.added === "w").length).toBe(
    laidOut({ state, derived }).texts.filter((t) => t.added === "m" || t.added === "w").length,
  );
});
