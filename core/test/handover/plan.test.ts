// @long: left out of npm run test:quick.
/** Plan sheets: what stands where on the paper. */
import fc from "fast-check";
import { tableWithin } from "../../src/handover/plan/tables";
import type { OutTable } from "../../src/handover/table";
import { textWidth } from "../../src/drawing/text-width";
import type { PlanFile } from "../../src/handover/files";
import type { Page, PathMark, TextMark } from "../../src/handover/plan/page";
import { planPages, planSheets } from "../../src/handover/plan/plan";
import { frameOf, fromPaper, onPaper } from "../../src/handover/plan/sheets";
import { planSource } from "../../src/job/leave/handover-source";
import { derive, type Row } from "../job";

/** A square of 100 m with a hedge along its south side, a tree in its middle and a bed; ground rising to the east. */
const rows: Row[] = [
  ...[0, 1, 2, 3, 4, 5].flatMap((r) =>
    [0, 1, 2, 3, 4, 5].map((c): Row => ({
      number: `S${r}${c}`,
      e: 3000 + 20 * c,
      n: 7000 + 20 * r,
      z: 100 + c,
      code: "SPOT",
    })),
  ),
  { number: "H1", e: 3000, n: 7005, z: 100, code: "HEDGE" },
  { number: "H2", e: 3100, n: 7005, z: 105, code: "HEDGE" },
  { number: "T1", e: 3050, n: 7050, z: 102.5, code: "TREE 4" },
  { number: "B1", e: 3010, n: 7080, z: 100, code: "BED" },
  { number: "B2", e: 3020, n: 7080, z: 100, code: "BED" },
  { number: "B3", e: 3020, n: 7090, z: 100, code: "BED loop" },
];
const CODES = [
  { code: "SPOT", name: "Spot level" },
  { code: "HEDGE", name: "Hedge", kind: "line" as const, color: "#116611" },
  { code: "BED", name: "Planting bed", kind: "area" as const },
  { code: "TREE", name: "Tree", symbol: "block", color: "#aa0000", ground: false },
  { code: "LAMP", name: "Lamp" },
];
const { state, derived } = derive(rows, {
  name: "Yard",
  client: "Trust",
  crew: "A",
  date: "2031-04-18",
  codeBook: { codes: CODES },
  surfaces: [{ name: "ground" }],
  contours: [{ surface: "ground", interval: 0.5 }],
});

const plan = (more: Partial<PlanFile>): PlanFile => ({ file: "a.pdf", format: "pdf", ...more });
const source = (file: PlanFile) => planSource(file, state, derived, "after entry 7");
function pagesOf(more: Partial<PlanFile>): Page[] {
  const file = plan(more),
    steps = planPages(file, source(file));
  let step = steps.next();
  while (!step.done) step = steps.next();
  return step.value;
}
const textsOf = (page: Page) => page.marks.filter((m): m is TextMark => m.is === "text");
/** The middle of the tree's solid square. */
function treeOn(page: Page): [number, number] {
  const inside = page.marks.findIndex((m) => m.is === "clip"),
    tree = page.marks.slice(inside).find((m) => m.is === "path" && m.fill === "#aa0000") as PathMark & { xy: number[] };
  const of = (k: 0 | 1) => tree.xy.filter((_, j) => j % 2 === k).reduce((sum, x) => sum + x, 0) / (tree.xy.length / 2);
  return [of(0), of(1)];
}

describe("where things stand on the paper", () => {
  test("the position asked for is in the middle of the window, others as far away as the scale says", () => {
    const { field: window } = frameOf({}),
      middle = [window.x + window.width / 2, window.y + window.height / 2];
    const at = (more: Partial<PlanFile>) => treeOn(pagesOf({ scale: 500, at: [3050, 7050], ...more })[0]!);
    expect(at({})).toEqual([expect.closeTo(middle[0]!, 9), expect.closeTo(middle[1]!, 9)]);
    // 10 m at 1 : 500 are 20 mm: moved to the east the tree comes to stand further west.
    expect(at({ at: [3060, 7050] })).toEqual([expect.closeTo(middle[0]! - 20, 9), expect.closeTo(middle[1]!, 9)]);
    // Turned by a quarter to the right, what lies west of the middle lies above it.
    expect(at({ at: [3060, 7050], turn: 90 })).toEqual([
      expect.closeTo(middle[0]!, 9),
      expect.closeTo(middle[1]! + 20, 9),
    ]);
    expect(at({ at: [3060, 7050], scale: 200 })[0]).toBeCloseTo(middle[0]! - 50, 9);
  });

  test("symbols are turned with their points, to the right, and once more with the plan", () => {
    const arrow = CODES.map((c) => (c.code === "TREE" ? { ...c, rotation: { fixed: 30 } } : c)),
      turned = derive(rows, { codeBook: { codes: arrow } });
    /** The direction of the square's first side on the paper, degrees to the right from up. */
    const sideOf = (turn: number | undefined) => {
      const file = plan({ scale: 500, at: [3050, 7050], ...(turn === undefined ? {} : { turn }) }),
        steps = planPages(file, planSource(file, turned.state, turned.derived, ""));
      let step = steps.next();
      while (!step.done) step = steps.next();
      const { xy } = step.value[0]!.marks.find((m) => m.is === "path" && m.fill === "#aa0000") as PathMark & {
        xy: number[];
      };
      return (Math.atan2(xy[2]! - xy[0]!, xy[3]! - xy[1]!) * 180) / Math.PI;
    };
    // Its first side runs to the east: 90° to the right, with the point's 30° and the plan's 20°.
    expect(sideOf(undefined)).toBeCloseTo(120, 6);
    expect(sideOf(20)).toBeCloseTo(140, 6);
  });

  test("what a person added is turned with the plan: sizes, moved labels, dimensions", () => {
    const tree = "day1:39",
      own = derive(rows, {
        codeBook: { codes: CODES },
        drawing: { points: [{ set: "*", number: true }] },
        added: [
          { name: "s", symbol: tree, size: [8, 2], toward: { at: [3080, 7050] } },
          { name: "l", text: { label: tree }, by: [20, 0] },
          { name: "d", dimension: [{ point: tree }, { at: [3050, 7070] }], right: 0 },
        ],
      });
    const at = (turn: number) => {
      const file = plan({ scale: 500, at: [3050, 7050], turn }),
        steps = planPages(file, planSource(file, own.state, own.derived, ""));
      let step = steps.next();
      while (!step.done) step = steps.next();
      const [page] = step.value,
        [x, y] = treeOn(page!),
        block = page!.marks.find((m) => m.is === "path" && m.fill === "#aa0000") as PathMark & { xy: number[] },
        broad = (k: number) => {
          const all = block.xy.filter((_, j) => j % 2 === k);
          return Math.max(...all) - Math.min(...all);
        },
        label = textsOf(page!).find((t) => t.text === "T1")!;
      const along = page!.marks.filter(
        (m): m is PathMark & { xy: number[] } => m.is === "path" && Math.hypot(m.xy[0]! - x, m.xy[1]! - y) < 1e-6,
      );
      return {
        size: [broad(0), broad(1)].map((mm) => Math.round(mm * 1e6) / 1e6),
        label: [Math.round(label.x - x), Math.round(label.y - y)],
        along: along.map(({ xy }) => [xy[2]! - x, xy[3]! - y].map((mm) => Math.round(mm * 1e6) / 1e6 + 0)),
      };
    };
    // At 1 : 500 8 m are 16 mm; the label stands about 40 mm to the east of its point.
    expect(at(0)).toMatchObject({ size: [16, 4], along: [[0, 40]] });
    expect(Math.hypot(at(0).label[0]! - 40, at(0).label[1]!)).toBeLessThan(4);
    // East is down the paper, north to the right.
    expect(at(90)).toMatchObject({ size: [4, 16], along: [[40, 0]] });
    expect(Math.hypot(at(90).label[0]!, at(90).label[1]! + 40)).toBeLessThan(4);
  });

  test("the grid names its lines where they meet the window's sides", () => {
    const { field: window } = frameOf({}),
      [page] = pagesOf({ scale: 500, at: [3050, 7050] });
    const label = textsOf(page!).filter((t) => t.text === "3075 E" || t.text === "3050 E" || t.text === "7050 N");
    const middle = window.x + window.width / 2;
    // At 1 : 500 a step of 50 m is 100 mm, the least round one above 50 mm is 50 m.
    expect(label.filter((t) => t.text === "3050 E").map((t) => [t.x, t.y > window.y + window.height])).toEqual([
      [expect.closeTo(middle, 9), false],
      [expect.closeTo(middle, 9), true],
    ]);
    expect(label.filter((t) => t.text === "7050 N").map((t) => t.y)).toEqual([
      expect.closeTo(window.y + window.height / 2, 9),
      expect.closeTo(window.y + window.height / 2, 9),
    ]);
    expect(textsOf(pagesOf({ grid: 25, scale: 500, at: [3050, 7050] })[0]!).map((t) => t.text)).toContain("3075 E");
    expect(textsOf(pagesOf({ grid: false })[0]!).some((t) => t.text.endsWith(" E"))).toBe(false);
  });

  test("a grid too fine for its scale is refused with the step that would do", () => {
    expect(() => pagesOf({ grid: 0.001, scale: 500 })).toThrow(
      "The grid of “a.pdf”, every 0.001 m, is too fine for 1 : 500. Give it at least 2.500 m.",
    );
    expect(() => pagesOf({ grid: 2.5, scale: 500 })).not.toThrow();
  });

  test("title block and legend say what the job has, and only the codes on the sheet", () => {
    const [page] = pagesOf({ title: "Existing yard", scale: 500 }),
      texts = textsOf(page!).map((t) => t.text);
    for (const expected of ["Yard", "Existing yard", "Trust", "2031-04-18", "1 : 500", "after entry 7", "1 of 1"])
      expect(texts).toContain(expected);
    for (const name of ["Hedge", "Planting bed", "Tree", "Spot level", "Contour"]) expect(texts).toContain(name);
    expect(texts).not.toContain("Lamp");
    // A sheet of a corner has neither tree nor bed.
    const corner = textsOf(pagesOf({ scale: 100, at: [3095, 7008] })[0]!).map((t) => t.text);
    expect(corner).toContain("Hedge");
    expect(corner).not.toContain("Tree");
    expect(textsOf(pagesOf({ legend: false })[0]!).map((t) => t.text)).not.toContain("Legend");
  });

  test("contours have their weight and colour and are open behind their labels; hidden layers are not drawn", () => {
    const page = pagesOf({ scale: 500 })[0]!,
      inside = page.marks.slice(page.marks.findIndex((m) => m.is === "clip"));
    const contours = inside.filter((m) => m.is === "path" && m.stroke === "#7a5a2e");
    expect(contours.length).toBeGreaterThan(0);
    for (const label of textsOf(page).filter((t) => t.color === "#7a5a2e" && /^1\d\d/.test(t.text)))
      for (const c of contours) {
        if (c.is !== "path") continue;
        for (let k = 0; k < c.xy.length; k += 2)
          expect(Math.hypot(c.xy[k]! - label.x, c.xy[k + 1]! - label.y)).toBeGreaterThan(0.9);
      }
    const hidden = { ...state, drawing: { hidden: { layers: ["HEDGE"] } } };
    const file = plan({ scale: 500 }),
      steps = planPages(file, planSource(file, hidden, derived, ""));
    let step = steps.next();
    while (!step.done) step = steps.next();
    expect(step.value[0]!.marks.some((m) => m.is === "path" && m.stroke === "#116611")).toBe(false);
    expect(page.marks.some((m) => m.is === "path" && m.stroke === "#116611")).toBe(true);
  });

  test("no text of the drawing is cut by the edge of its sheet", () => {
    const { field: window } = frameOf({});
    // One mm within the east edge and the north edge at 1 : 100 is the point S33, at 3060 E and 7060 N.
    const at = [3060.1 - window.width / 20, 7060.1 - window.height / 20] as const;
    for (const more of [{ at }, { at: [3045, 7055], several: true }] as Partial<PlanFile>[])
      for (const [k, page] of pagesOf({ scale: 100, ...more }).entries()) {
        const from = page.marks.findIndex((m) => m.is === "clip"),
          to = page.marks.findIndex((m) => m.is === "unclip"),
          inside = page.marks.slice(from, to).filter((m): m is TextMark => m.is === "text" && !m.angle);
        if (k === 0 && !("several" in more)) expect(inside.map((t) => t.text)).toContain("S33");
        for (const { text, x, y, align, size } of inside) {
          const w = textWidth(text) * size,
            left = x - (w * (align + 1)) / 2;
          if (k === 0 && text === "S33") expect(left + w).toBeLessThan(window.x + window.width);
          for (const edge of [window.x, window.x + window.width])
            expect([text, left < edge && edge < left + w]).toEqual([text, false]);
          for (const edge of [window.y, window.y + window.height])
            expect([text, y < edge && edge < y + 0.7 * size]).toEqual([text, false]);
        }
      }
  });

  test("a short table stands beside the plan, below the legend; a long one follows on pages of its own, every row", () => {
    const pages = pagesOf({ tables: ["points", "areas"], paper: "A4" }),
      points = pages.filter((p) => p.name === "points"),
      listed = points.flatMap((p) => textsOf(p).map((t) => t.text));
    for (const r of rows) expect(listed).toContain(String(r.number));
    expect(listed).toContain("3050.000");
    expect(pages.some((p) => p.name === "areas")).toBe(false);
    const file = plan({ paper: "A4" }),
      { aside } = planSheets(file, source(file)).frame,
      beside = textsOf(pages[0]!).filter(
        (t) => t.x >= aside.x && t.x <= aside.x + aside.width && t.y >= aside.y && t.y <= aside.y + aside.height,
      ),
      said = beside.map((t) => t.text);
    expect(said).toEqual(expect.arrayContaining(["Areas", "BED", "50.0", `1 of ${pages.length}`]));
    // What a code is called says the legend.
    expect(said.filter((x) => x === "Planting bed")).toHaveLength(1);
    const spans = beside.map((t) => {
      const w = textWidth(t.text) * t.size,
        from = t.x - (w * (t.align + 1)) / 2;
      return { ...t, from, to: from + w };
    });
    spans.forEach((a, k) => {
      expect(a.from).toBeGreaterThanOrEqual(aside.x);
      expect(a.to).toBeLessThanOrEqual(aside.x + aside.width);
      for (const b of spans.slice(k + 1))
        expect(Math.abs(a.y - b.y) < 1.5 && a.from < b.to && b.from < a.to ? [a.text, b.text] : []).toEqual([]);
    });
  });
});

test("a table stands within a rectangle as a whole or not at all", () => {
  const table: OutTable = {
    name: "areas",
    count: 10,
    columns: [
      { title: "code", text: (k) => `BED ${k}` },
      { title: "area m²", number: (k) => 1000 * k, decimals: 1 },
    ],
  };
  const room = (height: number, width = 60) => tableWithin(table, "Areas", { x: 10, y: 20, width, height }),
    { marks, height } = room(200)!,
    texts = marks.filter((m) => m.is === "text");
  expect(texts).toHaveLength(1 + 2 + 20);
  expect(room(height)!.height).toBe(height);
  for (const t of room(height)!.marks.filter((m) => m.is === "text")) {
    expect(t.y).toBeGreaterThan(20);
    expect(t.y + t.size).toBeLessThan(20 + height);
  }
  // At the top of what is more than it needs.
  expect(Math.max(...texts.map((t) => t.y + t.size))).toBeGreaterThan(20 + 200 - 3);
  expect(room(height - 0.1)).toBeUndefined();
  expect(room(200, 20)).toBeUndefined();
});

describe("which part is on which sheet", () => {
  const turns = fc.constantFrom<PlanFile["turn"]>(undefined, "fit", 33, -120),
    papers = fc.constantFrom<PlanFile["paper"]>("A4", "A3", "A2", "A1", "A0");

  test("one sheet holds the whole job at the scale that it finds; a turn to fit never needs a smaller one", () => {
    fc.assert(
      fc.property(turns, papers, fc.boolean(), (turn, paper, upright) => {
        const file = plan({ turn, paper, upright }),
          { frame, turned, unitsPerMm, windows, scale } = planSheets(file, source(file)),
          put = onPaper(turned),
          [w] = windows;
        for (const r of rows) {
          const [x, y] = put(r.e, r.n);
          expect(x).toBeGreaterThan(w!.x);
          expect(x).toBeLessThan(w!.x + frame.field.width * unitsPerMm);
          expect(y).toBeGreaterThan(w!.y);
          expect(y).toBeLessThan(w!.y + frame.field.height * unitsPerMm);
        }
        const straight = plan({ paper, upright }),
          fit = plan({ paper, upright, turn: "fit" });
        expect(planSheets(fit, source(fit)).scale).toBeLessThanOrEqual(planSheets(straight, source(straight)).scale);
        expect(unitsPerMm).toBeCloseTo(scale / 1000, 12);
      }),
    );
  });

  test("several sheets hold every point, none is empty, each is told in the key plan", () => {
    fc.assert(
      fc.property(turns, fc.constantFrom(100, 200, 250), (turn, scale) => {
        const file = plan({ turn, scale, several: true, paper: "A4" }),
          { frame, turned, unitsPerMm, windows } = planSheets(file, source(file)),
          put = onPaper(turned);
        const isIn = (r: Row, w: { x: number; y: number }) => {
          const [x, y] = put(r.e, r.n);
          return (
            x >= w.x - 1e-9 &&
            x <= w.x + frame.field.width * unitsPerMm + 1e-9 &&
            y >= w.y - 1e-9 &&
            y <= w.y + frame.field.height * unitsPerMm + 1e-9
          );
        };
        for (const r of rows) expect(windows.some((w) => isIn(r, w))).toBe(true);
        for (const w of windows)
          expect(rows.some((r) => isIn(r, w)) || derived.lines.some((l) => l.shots.length > 0)).toBe(true);
      }),
    );
    const pages = pagesOf({ scale: 200, several: true });
    expect(pages.length).toBeGreaterThan(1);
    pages.forEach((page, k) => {
      const texts = textsOf(page).map((t) => t.text);
      expect(texts).toContain("Sheets");
      expect(texts).toContain(`${k + 1} of ${pages.length}`);
      for (let j = 1; j <= pages.length; j++) expect(texts).toContain(String(j));
    });
    expect(() => planSheets(plan({ scale: 10, several: true, paper: "A4" }), source(plan({})))).toThrow(
      /would need \d+ sheets at 1 : 10, more than 100/,
    );
  });

  test("window and aside share the frame and do not meet; the way to the paper and back is the same", () => {
    fc.assert(
      fc.property(papers, fc.boolean(), (paper, upright) => {
        const { frame, field: window, aside, width, height } = frameOf({ paper, upright });
        for (const r of [frame, window, aside]) {
          expect(r.x).toBeGreaterThanOrEqual(0);
          expect(r.x + r.width).toBeLessThanOrEqual(width);
          expect(r.y + r.height).toBeLessThanOrEqual(height);
        }
        const apart = window.x + window.width <= aside.x || window.y >= aside.y + aside.height;
        expect(apart).toBe(true);
      }),
    );
    fc.assert(
      fc.property(fc.double({ min: -4, max: 4, noNaN: true }), fc.nat(9999), fc.nat(9999), (turn, e, n) => {
        const turned = { turn, about: [3000, 7000] as const },
          [x, y] = onPaper(turned)(e, n),
          [be, bn] = fromPaper(turned)(x, y);
        expect(be).toBeCloseTo(e, 6);
        expect(bn).toBeCloseTo(n, 6);
      }),
    );
  });

  test("a job without points has nothing to draw", () => {
    const empty = derive([{ number: "1", e: 0, n: 0, z: 0 }], { edits: [{ points: "1", set: { deleted: true } }] });
    expect(() => planSheets(plan({}), planSource(plan({}), empty.state, empty.derived, ""))).toThrow("nothing to draw");
  });
});
