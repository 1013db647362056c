/** What a person adds to the drawing, on the sheet and on the bench: it follows, outlives a reading, and leaves with the rest. */
import fs from "node:fs";
import { expect, test, type Page } from "./test";
import { readPdf } from "../paper/src/prove";
import { as, cell, goTo, newJob, pixelOnSheet, settled, takeIn } from "./helpers";

/** A fence of 30 m east and 40 m north, a tree with its note, some ground. */
const ROWS = [
  "1,7000,3000,10,FENCE1",
  "2,7040,3030,10,FENCE1",
  "3,7010,3070,10,FENCE1",
  "8,7060,3060,12,TREE 6",
  "9,7000,3080,12,SPOT",
];

async function plot(page: Page, name: string): Promise<string> {
  await as(page, "Petra");
  await newJob(page, name);
  await takeIn(page, "day1.txt", ROWS.join("\n"), ROWS.length);
  await settled(page);
  return page.url().split("/")[4]!;
}

const added = async (page: Page, id: string) =>
  ((await (await page.request.get(`/api/jobs/${id}/recipe`)).json()) as { added?: Record<string, unknown>[] }).added ??
  [];

test("bearing and distance are written along a line, follow it when a point moves, and stand on the plan", async ({
  page,
}) => {
  const id = await plot(page, "Bearings");
  await goTo(page, "Lines");
  await page
    .getByRole("button", { name: /FENCE 1/ })
    .first()
    .click();
  const written = page.getByRole("group", { name: "Written along it" });
  await written.getByRole("checkbox", { name: "Bearings" }).check();
  await written.getByRole("checkbox", { name: "Distances" }).check();
  await settled(page);
  expect(await added(page, id)).toMatchObject([
    { measures: { code: "FENCE", run: "1" }, show: ["bearing", "distance"] },
  ]);

  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("Plan sheet");
  await settled(page);
  const plan = async () => {
    const download = page.waitForEvent("download", { timeout: 60_000 });
    await page.getByRole("button", { name: "Make {job}-sheet.pdf" }).click();
    return (await readPdf(new Uint8Array(fs.readFileSync((await (await download).path())!)))).pages
      .map((p) => p.text)
      .join();
  };
  expect(await plan()).toMatch(/36°52′12″\s+50\.000/);
  // The second point moves to the north of the first.
  await goTo(page, "Points");
  const c = await cell(page, "2", "Easting");
  await c.click();
  await page.keyboard.press("F2");
  await c.getByRole("textbox").fill("3000");
  await page.keyboard.press("Enter");
  await settled(page);
  await goTo(page, "Handover");
  const words = await plan();
  expect(words).toMatch(/0°00′00″\s+40\.000/);
  expect(words).not.toContain("36°52′12″");
});

test("a label dragged on the sheet stays where it was put, through another reading of its delivery", async ({
  page,
}) => {
  const id = await plot(page, "Moved");
  await goTo(page, "Lines");
  const [tx, ty] = await pixelOnSheet(page, 3080, 7000);
  // The label stands near its point: the first position round about where a click picks it.
  const panel = page.getByRole("region", { name: "The text" });
  let at: [number, number] | undefined;
  for (let r = 10; r <= 60 && !at; r += 6)
    for (let a = 0; a < 12 && !at; a++) {
      const [x, y] = [tx + r * Math.cos((a * Math.PI) / 6), ty + r * Math.sin((a * Math.PI) / 6)];
      await page.mouse.click(x, y);
      if (await panel.isVisible()) at = [x, y];
    }
  expect(at).toBeDefined();
  await page.mouse.move(...at!);
  await page.mouse.down();
  await page.mouse.move(at![0] - 40, at![1] + 30, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  const [text] = await added(page, id);
  expect(text).toMatchObject({ text: { label: "day1:5" } });
  await panel.getByLabel("Turned, °").fill("30");
  await page.keyboard.press("Enter");
  await settled(page);
  expect((await added(page, id))[0]).toMatchObject({ turn: 30, by: (text as { by: unknown }).by });

  // The same delivery read again: its points have new ids.
  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day1" }).getByRole("button", { name: "Read again" }).click();
  await page.getByLabel("Kind of points").selectOption("design");
  await page.getByRole("button", { name: "Read again 5 points" }).click();
  await expect(page.getByRole("status")).toContainText("was read again");
  await settled(page);
  expect((await added(page, id))[0]).toMatchObject({ text: { label: "day1:5" }, turn: 30 });
  // In a drawing file it stands where it was put, on its layer.
  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("DXF drawing");
  await settled(page);
  const download = page.waitForEvent("download", { timeout: 60_000 });
  await page.getByRole("button", { name: "Make {job}-plan.dxf" }).click();
  const dxf = fs.readFileSync((await (await download).path())!, "utf8");
  const turns = [...dxf.matchAll(/\n *50\r?\n *(\S+)/g)].map((m) => Number(m[1]));
  expect(turns.map((x) => Math.round(x * 1e6) / 1e6)).toContain(-30);
});

test("words, a dimension and a symbol's own size are picked on the sheet, listed, taken away and brought back", async ({
  page,
}) => {
  const id = await plot(page, "Additions");
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Add to drawing" }).click();
  const form = page.getByRole("form", { name: "Add to the drawing" }),
    list = form.getByRole("list", { name: "Added to the drawing" });
  const click = async (e: number, n: number) => page.mouse.click(...(await pixelOnSheet(page, e, n)));

  await form.getByRole("button", { name: "Pick where" }).click();
  await click(3060, 7060);
  await form.getByRole("textbox", { name: "Words" }).fill("to be felled");
  await form.getByRole("button", { name: "Add it" }).click();
  await settled(page);

  await form.getByLabel("What").selectOption("a dimension");
  await form.getByRole("button", { name: "Pick both ends" }).click();
  await click(3000, 7000);
  await click(3030, 7040);
  await form.getByLabel("Line to the right").fill("2.5");
  await form.getByRole("button", { name: "Add it" }).click();
  await settled(page);

  await form.getByLabel("What").selectOption("a symbol's size and turn");
  await form.getByRole("button", { name: "Pick its point" }).click();
  await click(3060, 7060);
  await form.getByRole("checkbox", { name: "Its own size" }).check();
  await form.getByLabel("Length").fill("6");
  await form.getByLabel("Width").fill("nothing");
  await expect(form.getByRole("button", { name: "Add it" })).toBeDisabled();
  await form.getByLabel("Width").fill("1.5");
  await click(3030, 7040);
  await form.getByRole("button", { name: "Add it" }).click();
  await settled(page);

  expect(await added(page, id)).toMatchObject([
    { words: "to be felled", to: { point: "day1:4" }, leader: true },
    { dimension: [{ point: "day1:1" }, { point: "day1:2" }], right: 2.5 },
    { symbol: "day1:4", size: [6, 1.5], toward: { point: "day1:2" } },
  ]);
  await expect(list.getByRole("listitem")).toHaveText([/to be felled/, /Distance 1 to 2/i, /symbol of point 8/i]);
  // Picked in the list, said anew; a dimension's letters grow, and its text is not turned by itself.
  const panel = page.getByRole("region", { name: "The text" });
  await list.getByRole("button", { name: "to be felled", exact: true }).click();
  await panel.getByLabel("Words").fill("to be felled\nin March");
  await page.keyboard.press("Tab");
  await settled(page);
  await list.getByRole("button", { name: "Distance 1 to 2", exact: true }).click();
  await expect(panel.getByLabel("Turned, °")).toHaveCount(0);
  await panel.getByLabel("Height, mm").fill("3");
  await page.keyboard.press("Enter");
  await settled(page);
  expect((await added(page, id)).slice(0, 2)).toMatchObject([
    { words: "to be felled\nin March", to: { point: "day1:4" }, leader: true },
    { dimension: [{ point: "day1:1" }, { point: "day1:2" }], right: 2.5, height: 3 },
  ]);
  await list.getByRole("button", { name: /Remove to be felled/ }).click();
  await settled(page);
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await settled(page);
  await expect(list.getByRole("listitem")).toHaveCount(3);
  // Its delivery goes: what speaks of its points says so, and is kept.
  expect((await page.request.delete(`/api/jobs/${id}/intakes/day1`, { headers: { "x-author": "Petra" } })).ok()).toBe(
    true,
  );
  await expect(list.getByText("what it speaks of is gone")).toHaveCount(3);
});
