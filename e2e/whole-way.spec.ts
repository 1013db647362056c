import { execFileSync } from "node:child_process";
import fs from "node:fs";
import path from "node:path";
import { expect, test } from "./test";
import DxfParser from "dxf-parser";
import {
  makeJob,
  as,
  cell,
  choose,
  colorsAround,
  editCell,
  goTo,
  isNear,
  newJob,
  nextFrame,
  pixelOnSheet,
  settled,
  takeIn,
} from "./helpers";

/** A pyramid of known volume with a fence round it and a road across a corner: made up here. */
const BASE = { w: 40, h: 24, z: 100, top: 6 };
const field = [
  ["1", 7000, 3000, 100, "FENCE"],
  ["2", 7000, 3040, 100, "FENCE"],
  ["3", 7024, 3040, 100, "FENCE"],
  ["4", 7024, 3000, 100, "FENCE loop"],
  ["5", 7012, 3020, 106, "SPOT; top"],
  ["6", 7030, 3050, "", "ROAD ground"],
  ["7", 7034, 3058, "", "ROAD end"],
  ["8", 7040, 3052, "", "SOPT"],
] as const;
const text = field.map((r) => r.join(",")).join("\n");

test("a new job from a file to a drawing", async ({ page }, info) => {
  await page.goto("/");
  await page.getByLabel("Name").fill("Petra");
  await page.getByRole("button", { name: "Begin" }).click();
  await makeJob(page, "Pyramid plot");

  // Intake: what is read is shown before anything is stored.
  await choose(page, "day1.txt", text);
  await expect(page.getByRole("row", { name: /not in the book/ })).toContainText("Read as SPOT");
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("northing");
  await expect(page.getByRole("img", { name: "Plan of 8 incoming points" })).toBeVisible();
  await page.getByRole("button", { name: "Take in 8 points" }).click();
  await expect(page.getByRole("status")).toContainText("8 points taken in");
  await settled(page);

  // Linework, as the sheet describes it and by the colour of its pixels.
  const described = page.getByTestId("sheet-described");
  await expect(described.locator('[data-line="FENCE"]')).toContainText("1 2 3 4");
  await expect(described.locator('[data-line="FENCE"]')).toContainText("closed");
  await expect(described.locator('[data-line="FENCE"]')).toContainText("128.000 m");
  await nextFrame(page, () => page.getByRole("button", { name: "Whole job" }).click());
  const color = (await described.locator('[data-line="FENCE"]').getAttribute("data-color"))!;
  const picture = await page.screenshot();
  for (const [e, n] of [
    [3013, 7000],
    [3040, 7008],
    [3027, 7024],
    [3000, 7015],
  ] as const) {
    const [x, y] = await pixelOnSheet(page, e, n);
    // A line of less than two pixels is a little paler than its colour.
    expect(colorsAround(picture, x, y, 2).some((c) => isNear(c, color, 80))).toBe(true);
  }
  const [ox, oy] = await pixelOnSheet(page, 3020, 7003);
  expect(colorsAround(picture, ox, oy, 3).some((c) => isNear(c, color, 80))).toBe(false);

  // Surface and contours.
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await expect(page.getByTestId("surface-report")).toContainText("960.0 m²");
  await expect(page.getByRole("row", { name: /^103\.00/ })).toBeVisible();

  // Volume: against the formulas, to the last digits.
  await goTo(page, "Volumes");
  await page.getByLabel("Name of the comparison").fill("to 101");
  await page.getByRole("button", { name: "Make it", exact: true }).click();
  await page.getByLabel("To level, m").fill("101");
  await page.keyboard.press("Enter");
  await settled(page);
  const base = BASE.w * BASE.h,
    k = (BASE.top - 1) / BASE.top;
  const value = async (id: string) => Number(await page.getByTestId(id).getAttribute("data-value"));
  await expect.poll(() => value("cut")).toBeCloseTo((base * BASE.top * k ** 3) / 3, 6);
  const cut = (base * BASE.top * k ** 3) / 3,
    net = base - (base * BASE.top) / 3;
  expect(Math.abs((await value("cut")) / cut - 1)).toBeLessThan(1e-9);
  expect(Math.abs((await value("net")) / net - 1)).toBeLessThan(1e-9);

  // Handover: a DXF that an independent reader reads.
  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("DXF drawing");
  await settled(page);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Make {job}-plan.dxf" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("pyramid-plot-plan.dxf");
  const file = info.outputPath("plot.dxf");
  await download.saveAs(file);
  const dxf = new DxfParser().parseSync(fs.readFileSync(file, "utf8"))!;
  const fence = dxf.entities.find((e) => e.type === "POLYLINE" && e.layer === "BOUNDARY-FENCE") as unknown as {
    vertices: { x: number; y: number; z: number }[];
    shape: boolean;
  };
  expect(fence.vertices.map((v) => [v.x, v.y, v.z])).toEqual([
    [3000, 7000, 100],
    [3040, 7000, 100],
    [3040, 7024, 100],
    [3000, 7024, 100],
  ]);
  expect(fence.shape).toBe(true);
  expect(execFileSync("ogrinfo", ["-al", "-so", file], { encoding: "utf8", stdio: "pipe" })).toMatch(
    /Feature Count: \d\d/,
  );

  // The recipe with its files runs headless to the same volume.
  const [zip] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Save the recipe with its files" }).click(),
  ]);
  await zip.saveAs(info.outputPath("recipe.zip"));
  execFileSync("unzip", ["-o", "-q", info.outputPath("recipe.zip"), "-d", info.outputPath("recipe")]);
  execFileSync(path.join(import.meta.dirname, "../bramble"), [
    "run",
    info.outputPath("recipe/recipe.json"),
    "--out",
    info.outputPath("out"),
  ]);
  const summary = JSON.parse(fs.readFileSync(info.outputPath("out/summary.json"), "utf8"));
  expect(Math.abs(summary.volumes[0].cut / cut - 1)).toBeLessThan(1e-12);
  expect(summary.files).toMatchObject([{ file: "pyramid-plot-plan.dxf" }]);
  expect(fs.readFileSync(info.outputPath("out/pyramid-plot-plan.dxf"), "utf8")).toBe(fs.readFileSync(file, "utf8"));
});

test("one elevation changed in the table moves contours and volume by itself, and undo brings them back", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Edit plot");
  await takeIn(page, "day1.txt", text, 8);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await goTo(page, "Volumes");
  await page.getByLabel("Name of the comparison").fill("to 100");
  await page.getByRole("button", { name: "Make it", exact: true }).click();
  await page.getByLabel("To level, m").fill("100");
  await page.keyboard.press("Enter");
  await settled(page);
  const cutIs = async (top: number) => {
    await goTo(page, "Volumes");
    await expect
      .poll(async () => Number(await page.getByTestId("cut").getAttribute("data-value")))
      .toBeCloseTo((960 * top) / 3, 6);
  };
  await cutIs(6);

  await goTo(page, "Points");
  await editCell(page, "5", "Elevation", "109.5");
  await expect(await cell(page, "5", "Elevation")).toHaveText("109.500");
  await cutIs(9.5);
  await goTo(page, "Surface");
  await expect(page.getByRole("row", { name: /^109\.00/ })).toBeVisible();
  await page.getByRole("tab", { name: /Ledger/ }).click();
  await expect(page.getByRole("row", { name: /Elevation of 1 point changed/ })).toContainText(/106 m\s*109\.5 m/);
  await page.getByRole("button", { name: "Close the tray" }).click();

  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(page.getByRole("row", { name: /^109\.00/ })).toBeHidden();
  await cutIs(6);
  await page.getByRole("button", { name: "Redo" }).click();
  await settled(page);
  await cutIs(9.5);

  // All of it is stored: a fresh page shows the same.
  await page.reload();
  await cutIs(9.5);
});
