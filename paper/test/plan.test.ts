// @long: left out of npm run test:quick.
/** Plan sheets as PDF, read by readers that are not ours: poppler's texts, fonts and pictures. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { PNG } from "pngjs";
import { runChain, type PlanFile } from "@bramble/core";
import { frameOf } from "@bramble/core/handover/plan/sheets";
import { stateOf } from "../../core/test/job";
import type { Page, TextMark } from "@bramble/core/handover/plan/page";
import { planPages } from "@bramble/core/handover/plan/plan";
import { planSource } from "@bramble/core/job/leave/handover-source";
import { writePlan } from "../src/index";
import { provePlan } from "../src/prove";

/** Four solid posts in the corners of a square of 40 m, a note and a word beyond the font. */
const state = stateOf(
  [
    { number: "P1", e: 3000, n: 7000, z: 100, code: "POST" },
    { number: "P2", e: 3040, n: 7000, z: 101, code: "POST" },
    { number: "P3", e: 3040, n: 7040, z: 102, code: "POST" },
    { number: "P4", e: 3000, n: 7040, z: 103, code: "POST" },
    { number: "W1", e: 3000, n: 7010, z: 100, code: "WALL" },
    { number: "W2", e: 3040, n: 7010, z: 100, code: "WALL" },
  ],
  {
    name: "Yard 水",
    date: "2031-04-18",
    codeBook: {
      codes: [
        { code: "POST", name: "Post", symbol: "block", size: { fixed: 3 }, color: "#c00000", label: "⌀ {number}" },
        { code: "WALL", name: "Wall", kind: "line", color: "#0000c0", style: "heavy" },
      ],
    },
  },
);
const derived = runChain(state);

let folder: string;
beforeAll(() => (folder = fs.mkdtempSync(path.join(os.tmpdir(), "plan-"))));
afterAll(() => fs.rmSync(folder, { recursive: true }));

async function made(more: Partial<PlanFile>) {
  const file = path.join(folder, "a.pdf"),
    job = { state, derived, author: "", at: "", version: 3 },
    { bytes, proof } = await writePlan({ file: "a.pdf", format: "pdf", ...more }, job);
  fs.writeFileSync(file, bytes);
  return { file, proof, bytes };
}
const run = (command: string, ...args: string[]) => execFileSync(command, args, { encoding: "utf8", stdio: "pipe" });
/** Five pixels for a millimetre. */
function picture(file: string, page = 1): PNG {
  const to = path.join(folder, "page");
  run("pdftoppm", "-r", "127", "-png", "-singlefile", "-f", String(page), "-l", String(page), file, to);
  return PNG.sync.read(fs.readFileSync(`${to}.png`));
}
/** Whether a colour is about mm from the lower left of the paper. */
function colorAt(png: PNG, x: number, y: number): [number, number, number] {
  const k = 4 * (Math.round(png.height - 5 * y) * png.width + Math.round(5 * x));
  return [png.data[k]!, png.data[k + 1]!, png.data[k + 2]!];
}
const isRed = ([r, g, b]: readonly number[]) => r! > 150 && g! < 90 && b! < 90;

test.each([200, 500, 1000])("at 1 : %i what was measured lies where it must on the paper", async (scale) => {
  const { file, proof } = await made({ scale, at: [3020, 7020] }),
    png = picture(file),
    { field: window, width, height } = frameOf({}),
    [cx, cy] = [window.x + window.width / 2, window.y + window.height / 2],
    half = 20_000 / scale;
  expect([png.width, png.height]).toEqual([expect.closeTo(5 * width, -1), expect.closeTo(5 * height, -1)]);
  expect(proof.counts.pages).toBe(1);
  for (const [dx, dy] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]) {
    const [x, y] = [cx + dx! * half, cy + dy! * half];
    expect(isRed(colorAt(png, x, y))).toBe(true);
    // A post is 3 mm wide, wherever the scale: half a millimetre within its side it is there, outside it is not.
    expect(isRed(colorAt(png, x - 1.3, y))).toBe(true);
    expect(isRed(colorAt(png, x - 1.8, y))).toBe(false);
  }
  // The wall, 10 m above the lower posts.
  const wall = cy - half + 10_000 / scale,
    isBlue = ([r, g, b]: readonly number[]) => r! < 90 && g! < 90 && b! > 150;
  expect([-0.2, 0, 0.2].some((off) => isBlue(colorAt(png, cx, wall + off)))).toBe(true);
  expect([-0.8, 0.8].some((off) => isBlue(colorAt(png, cx, wall + off)))).toBe(false);
});

test("texts can be searched, its fonts are embedded, and what the font does not have is counted", async () => {
  const { file, proof, bytes } = await made({ scale: 500, tables: ["points"] });
  const words = run("pdftotext", "-layout", file, "-");
  for (const expected of ["Ø P1", "Yard ?", "1 : 500", "after entry 3", "Post", "Wall", "3040.000", "2 of 2"])
    expect(words).toContain(expected);
  // The name of the job stands on both pages.
  expect(proof).toMatchObject({ counts: { pages: 2 }, unwritten: 2 });
  const fonts = run("pdffonts", file).trim().split("\n").slice(2);
  expect(fonts.length).toBeGreaterThan(0);
  // Embedded, a subset, with a way back to letters.
  for (const font of fonts) expect(font).toMatch(/Inter.* yes yes yes /);
  expect(run("pdfinfo", file)).toMatch(/Page size:\s+1190\.55 x 841\.89 pts \(A3\)/);
  expect(Buffer.from((await made({ scale: 500, tables: ["points"] })).bytes)).toEqual(Buffer.from(bytes));
});

test("texts stand upright on their baselines", async () => {
  const { file } = await made({ scale: 500, title: "Levels" }),
    [page] = pagesOf({ scale: 500, title: "Levels" }),
    mark = page!.marks.find((m) => m.is === "text" && m.text === "Levels") as TextMark,
    html = run("pdftotext", "-bbox", file, "-"),
    of = (name: string) => Number(new RegExp(`${name}="([\\d.]+)"[^>]*>Levels<`).exec(html)![1]) * (25.4 / 72);
  // Measured from above; a letter reaches higher above its baseline than below.
  const baseline = page!.height - mark.y;
  expect(of("xMin")).toBeCloseTo(mark.x, 0);
  expect(baseline - of("yMin")).toBeGreaterThan(1.5 * Math.abs(of("yMax") - baseline));
  expect(of("yMin")).toBeLessThan(baseline - 0.7 * mark.size);
  // A reader of texts does not say which way up they stand: the picture does, by letters that reach upwards alone.
  const png = picture(file),
    ink = (from: number, to: number) => {
      let count = 0;
      for (let y = from; y < to; y += 0.2)
        for (let x = mark.x; x < mark.x + 3 * mark.size; x += 0.2) if (colorAt(png, x, mark.y + y)[0] < 128) count++;
      return count;
    };
  expect(ink(0.2, 0.7 * mark.size)).toBeGreaterThan(20);
  expect(ink(-0.7 * mark.size, -0.3)).toBe(0);
});

test("a plan that is not what was drawn is refused: a page too few, another size, another word", async () => {
  const { bytes } = await made({ scale: 500, title: "Levels" }),
    pages = pagesOf({ scale: 500, title: "Levels" }),
    written = { pages: pages.map((p) => p.marks.flatMap((m) => (m.is === "text" ? [m.text] : []))), lost: 0 };
  const prove = (of: readonly Page[], texts = written.pages) =>
    provePlan("a.pdf", bytes, of, { pages: [...texts], lost: 0 });
  await expect(prove([...pages, ...pages], [...written.pages, ...written.pages])).rejects.toThrow(
    "it has 1 pages instead of 2",
  );
  await expect(prove([{ ...pages[0]!, width: 400 }])).rejects.toThrow("measures");
  await expect(prove(pages, [written.pages[0]!.map((t) => t.replace("Levels", "Level"))])).rejects.toThrow(
    "page 1 does not say what was written on it",
  );
});

/** The pages as they are drawn before they are written. */
function pagesOf(more: Partial<PlanFile>): Page[] {
  const file: PlanFile = { file: "a.pdf", format: "pdf", ...more },
    steps = planPages(file, planSource(file, state, derived, "after entry 3"));
  let step = steps.next();
  while (!step.done) step = steps.next();
  return step.value;
}

test("turned, the posts are turned with the north point; several sheets are as many pages", async () => {
  const { file } = await made({ scale: 500, at: [3020, 7020], turn: 45 }),
    png = picture(file),
    { field: window } = frameOf({}),
    [cx, cy] = [window.x + window.width / 2, window.y + window.height / 2],
    reach = 40 * Math.SQRT2;
  for (const [dx, dy] of [
    [0, 1],
    [1, 0],
    [0, -1],
    [-1, 0],
  ])
    expect(isRed(colorAt(png, cx + dx! * reach, cy + dy! * reach))).toBe(true);
  const many = await made({ scale: 100, several: true, paper: "A4" });
  expect(run("pdfinfo", many.file)).toMatch(new RegExp(`Pages:\\s+${many.proof.counts.pages}`));
  expect(many.proof.counts.pages).toBeGreaterThan(3);
});
