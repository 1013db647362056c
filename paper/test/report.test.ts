// @long: left out of npm run test:quick.
/** Reports of comparisons, read by readers that are not ours: texts, fonts and pictures of a PDF, cells of a spreadsheet. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import Papa from "papaparse";
import { PNG } from "pngjs";
import { Chain, type JobState } from "@bramble/core";
import { volumeFigure } from "@bramble/core/math/figures";
import type { MapBlock, Report } from "@bramble/core/report/model";
import { volumeReport } from "@bramble/core/report/volumes";
import { opinionsOf } from "@bramble/core/volumes/opinion";
import { shotPrecision } from "@bramble/core/volumes/precision";
import { stateOf } from "../../core/test/job";
import { reportPdf } from "../src/report/pdf";
import { reportXlsx } from "../src/report/xlsx";

/** A plane of 60 m by 40 m with a bank across it and a spot that nobody knows; a drawn square in the middle. */
const state = stateOf(
  [
    ...Array.from({ length: 35 }, (_, k) => ({
      number: k + 1,
      e: 5000 + 10 * (k % 7),
      n: 300 + 10 * Math.floor(k / 7),
      z: 98 + 0.5 * (k % 7) + 0.4 * Math.floor(k / 7),
      code: k === 17 ? "ODDWORD" : "SPOT",
    })),
    ...[0, 1, 2].map((k) => ({ number: 101 + k, e: 5032, n: 302 + 18 * k, z: 101.5, code: "TOP1" })),
  ],
  {
    name: "Żółty brzeg",
    surfaces: [
      { name: "ground", breaklines: { codes: ["*"] } },
      { name: "flat", points: "*ground", breaklines: { codes: [] } },
    ],
    volumes: [
      {
        name: "to 100",
        surface: "ground",
        level: 100,
        deadband: 0.02,
        bulking: { cut: 1.25 },
        within: [
          { name: "west", ring: [[5002, 302], [5030, 302], [5030, 338], [5002, 338]] }, // prettier-ignore
          { name: "east", ring: [[5030, 302], [5058, 302], [5058, 338], [5030, 338]] }, // prettier-ignore
        ],
      },
      { name: "bank", from: "flat", to: "ground" },
      { name: "store", storage: "ground", from: 98, to: 101, step: 0.5 },
      { name: "left out", surface: "ground", level: 1 },
    ],
    differences: [{ name: "spots", points: "1-10", surface: "ground", tolerance: 0.01 }],
  } as never,
);
const derived = new Chain().run(state),
  wanted = { comparisons: ["to 100", "bank", "store"], author: "Ilsa", at: "28 Nov 2026, 11:20", of: "after entry 7" };

function made(s: JobState = state, of = wanted): { report: Report; shares: number[] } {
  const steps = volumeReport(s, s === state ? derived : new Chain().run(s), of),
    shares: number[] = [];
  for (;;) {
    const step = steps.next();
    if (step.done) return { report: step.value, shares };
    shares.push(step.value.share);
  }
}
const folder = fs.mkdtempSync(path.join(os.tmpdir(), "report-"));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));
const keep = (name: string, bytes: Uint8Array) => {
  const file = path.join(folder, name);
  fs.writeFileSync(file, bytes);
  return file;
};
const volume = (name: string) => {
  const v = derived.volumes.find((x) => x.name === name)!;
  if (!v.ok) throw v.refusal;
  return v.value;
};

test("a report as PDF says all that was compared, in texts that can be searched, with its own fonts", async () => {
  const { report, shares } = made();
  // How far it is only rises.
  expect(shares).toEqual(shares.toSorted((a, b) => a - b));
  expect(Math.max(...shares)).toBeLessThan(1);
  const told: number[] = [],
    file = keep("r.pdf", await reportPdf(report, async (share) => void told.push(share)));
  expect(told.at(-1)).toBe(1);
  const text = execFileSync("pdftotext", ["-layout", file, "-"], { encoding: "utf8" }),
    words = text.replace(/\s+/g, " ");
  const v = volume("to 100"),
    say = (x: number) => volumeFigure(x, "m").replace(/\s/g, " ");
  for (const x of [v.cut, v.fill, v.net, v.bulked!.cut]) expect(words).toContain(say(x));
  for (const expected of [
    "Żółty brzeg",
    "28 Nov 2026, 11:20 by Ilsa",
    "after entry 7",
    "From “ground” to level 100",
    "differences up to 0.020 m do not count",
    "cut times 1.25",
    "To a level, exact over triangles",
    "Between two surfaces, exact over the triangles of both",
    "± is one σ",
    "Shots that move it most",
    "Storage by level",
    "Section A",
    "Surface “flat”",
    "all that the code book has",
    "day1.csv",
    "ODDWORD",
    "Made by",
    "Checked by",
  ])
    expect(words).toContain(expected);
  // Lines that a section crosses are named beside it; what was not asked for is not told.
  expect(words).toMatch(/Breaklines used 1 Surface/);
  expect(execFileSync("pdftotext", ["-raw", file, "-"], { encoding: "utf8" })).toMatch(/TOP 1/);
  expect(text).not.toContain("left out");
  const fonts = execFileSync("pdffonts", [file], { encoding: "utf8" }).trim().split("\n").slice(2);
  expect(fonts.length).toBeGreaterThan(0);
  for (const f of fonts) expect(f).toMatch(/Inter.*TrueType.*yes yes yes/);
  const info = execFileSync("pdfinfo", ["-isodates", file], { encoding: "utf8", env: { ...process.env, TZ: "UTC" } });
  // Of when it was made, as it says itself, and not of when these bytes were.
  expect(info).toMatch(/CreationDate:\s+2026-11-28T00:00:00/);
  const pages = Number(/Pages:\s+(\d+)/.exec(execFileSync("pdfinfo", [file], { encoding: "utf8" }))![1]);
  expect(text).toContain(`page ${pages} of ${pages}`);
  expect(text.split("\f").filter((page) => page.trim() === "")).toHaveLength(1);
});

/** A map alone as it is printed: how many pixels show cut and fill, how many of these the hatch, and their mean positions. */
async function printed(
  map: MapBlock,
): Promise<Record<"cut" | "fill", { count: number; x: number; y: number; dark: number; darkX: number }>> {
  const only: Report = { ...made().report, chapters: [{ title: "Map", blocks: [map] }] },
    file = keep("map.pdf", await reportPdf(only, async () => undefined));
  execFileSync("pdftoppm", ["-r", "100", "-png", "-singlefile", file, path.join(folder, "map")]);
  const { width, height, data } = PNG.sync.read(fs.readFileSync(path.join(folder, "map.png"))),
    none = { count: 0, x: 0, y: 0, dark: 0, darkX: 0 },
    seen = { cut: { ...none }, fill: { ...none } };
  let beyond = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [r, g, b] = data.subarray(4 * (y * width + x)) as unknown as [number, number, number];
      if ((x < 30 || x > width - 30) && r + g + b < 765) beyond++;
      // Left of the legend.
      if (x > 0.66 * width) continue;
      const part = r > b + 40 && r > g + 15 ? seen.cut : b > r + 25 ? seen.fill : undefined;
      if (!part) continue;
      part.count++;
      part.x += x;
      part.y += y;
      if (Math.max(r, b) >= 190) continue;
      part.dark++;
      part.darkX += x;
    }
  expect(beyond).toBe(0);
  for (const part of [seen.cut, seen.fill]) {
    part.x /= part.count;
    part.y /= part.count;
    part.darkX /= part.dark;
  }
  return seen;
}

test("the map of a report shows cut and fill where they are, fill hatched; nothing is drawn beyond the page", async () => {
  const [map] = made().report.chapters.flatMap((c) => c.blocks.filter((b) => b.kind === "map")),
    { cut, fill } = await printed(map!);
  // The ground rises north-eastward: fill lies to the south-west of what is cut.
  expect(cut.count).toBeGreaterThan(3000);
  expect(fill.count).toBeGreaterThan(3000);
  expect(fill.x).toBeLessThan(cut.x - 50);
  expect(fill.y).toBeGreaterThan(cut.y + 20);
  expect(fill.dark).toBeGreaterThan(0.03 * fill.count);
  expect(fill.darkX).toBeLessThan(cut.x - 50);
  // What the deadband leaves out is bare.
  const less = await printed({ ...map!, deadband: 1 });
  expect(less.cut.count).toBeLessThan(0.8 * cut.count);
  expect(less.fill.count).toBeLessThan(0.8 * fill.count);
});

test("a report as spreadsheet holds the figures as numbers, to their last digit", async () => {
  const file = keep("r.xlsx", await reportXlsx(made().report));
  const info = execFileSync("ogrinfo", ["-q", file], { encoding: "utf8", stdio: "pipe" });
  for (const sheet of ["Volumes", "to 100", "bank", "store", "From what points and lines", "As built", "Open findings"])
    expect(info).toContain(`: ${sheet}`);
  const cells = (sheet: string) =>
    Papa.parse<string[]>(
      execFileSync("ogr2ogr", ["-f", "CSV", "/vsistdout/", file, sheet, "-oo", "HEADERS=DISABLE"], {
        encoding: "utf8",
      }),
    ).data;
  const v = volume("to 100"),
    row = (name: string) => cells("to 100").find((r) => r[0] === name || r[0]!.startsWith(`${name},`))!;
  expect(row("Cut").map(Number)).toContain(v.cut);
  expect(row("Fill").map(Number)).toContain(v.fill);
  expect(row("west").map(Number)).toEqual(expect.arrayContaining([v.byArea![0]!.cut, v.byArea![0]!.net]));
  // What stands beside the figures, and the shots that move them.
  const made0 = derived.pairs[0]!;
  if (!made0.ok) throw made0.refusal;
  const o = opinionsOf(state.volumes[0]!, made0.value, shotPrecision(state.points, undefined, "m")),
    [net, sigma, byEndAreas, byGrid] = row("Net").slice(1).map(Number),
    near = (is: number | undefined, wanted: number) => expect(is).toBeCloseTo(wanted, 9);
  near(net, v.net);
  near(sigma, o.precision!.net.total);
  near(byEndAreas, o.endAreas!.fill - o.endAreas!.cut);
  near(byGrid, o.grid!.fill - o.grid!.cut);
  const most = o.precision!.most[0]!,
    told = row(state.points.number[most.row]!).slice(2).map(Number);
  expect(o.precision!.most).toHaveLength(10);
  [state.points.z[most.row]!, most.sigma, 0.01 * most.net, Math.abs(most.net * most.sigma)].forEach((x, k) =>
    near(told[k], x),
  );
  const levels = cells("store").map((r) => r.map(Number));
  for (const s of volume("store").storage!)
    expect(levels.some(([level, area, held]) => level === s.level && area === s.area && held === s.volume)).toBe(true);
});

test("names that a sheet cannot have, one name twice, and a comparison that cannot be made are told all the same", async () => {
  const odd = {
    ...state,
    volumes: [
      { name: "a/b: [c]?*", surface: "ground", level: 100 },
      { name: "A B   C", surface: "ground", level: 1000 },
      { name: "x".repeat(60), surface: "gone", level: 100 },
      { name: "x".repeat(61), surface: "ground", level: 99 },
    ],
  } as JobState;
  const { report } = made(odd, { ...wanted, comparisons: odd.volumes.map((v) => v.name) });
  expect(JSON.stringify(report.chapters[2])).toContain("It could not be worked out");
  const file = keep("odd.xlsx", await reportXlsx(report)),
    info = execFileSync("ogrinfo", ["-q", file], { encoding: "utf8", stdio: "pipe" });
  expect(info).toContain(": a b   c");
  expect(info).toContain(": A B   C 2");
  expect(info).toContain(`: ${"x".repeat(31)}`);
  expect(info).toContain(`: ${"x".repeat(29)} 2`);
  const pdf = keep(
    "odd.pdf",
    await reportPdf({ ...report, chapters: report.chapters.slice(0, 1) }, async () => undefined),
  );
  expect(execFileSync("pdftotext", [pdf, "-"], { encoding: "utf8" })).toContain("a/b: [c]?*");
});
