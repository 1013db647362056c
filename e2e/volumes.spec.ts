import { expect, test, type Page } from "./test";
import { as, colorsAround, goTo, isNear, newJob, nextFrame, pixelOnSheet, settled, takeIn } from "./helpers";

/** Shots on a lattice of 10 m, 100 m each way, at level 10; one of them at 10.5. */
const FLAT = Array.from({ length: 121 }, (_, k) => {
  const [row, col] = [Math.floor(k / 11), k % 11];
  return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},${k === 60 ? "10.5" : "10"},SPOT`;
}).join("\n");

/** A rectangle of two triangles, level at its west side, and at its east side. */
const ramp = (name: string, e: number, n: number, wide: number, high: number, west: number, east: number) => ({
  name,
  triangles: {
    points: [
      [e, n, west],
      [e + wide, n, east],
      [e + wide, n + high, east],
      [e, n + high, west],
    ],
    faces: [
      [0, 1, 2],
      [0, 2, 3],
    ],
  },
});

async function make(page: Page, part: string, body: { name: string }): Promise<void> {
  const id = page.url().split("/")[4],
    data = { type: "named", part, name: body.name, old: null, new: body };
  const made = await page.request.post(`/api/jobs/${id}/changes`, { data, headers: { "x-author": "Petra" } });
  expect(made.ok()).toBe(true);
}

async function yard(page: Page, name: string): Promise<void> {
  await as(page, "Petra");
  await newJob(page, name);
  await takeIn(page, "day1.txt", FLAT, 121);
  await make(page, "surfaces", { name: "ground" });
  // From 2 m below the ground in the west to 4 m above it in the east.
  await make(page, "surfaces", ramp("design", 3010, 7010, 60, 60, 8, 14));
  await goTo(page, "Volumes");
}

const value = (page: Page, id: string) =>
  expect.poll(async () => Number(await page.getByTestId(id).getAttribute("data-value")));

test("two surfaces are compared, whole and within a drawn area, with their ± and the shots that move them", async ({
  page,
}) => {
  await yard(page, "Two surfaces");
  await page.getByRole("combobox", { name: "Compare", exact: true }).selectOption("surfaces");
  await page.getByLabel("Name of the comparison").fill("to design");
  await page.getByRole("button", { name: "Make it" }).click();
  await settled(page);
  // d runs from −2 to 4 over 60 m by 60 m; the shot at 10.5 takes 0.5 m off six triangles round it.
  await value(page, "fill").toBeCloseTo((4 * 40 * 60) / 2 - (0.5 * 300) / 3, 6);
  await value(page, "cut").toBeCloseTo((2 * 20 * 60) / 2, 6);
  await value(page, "net-sigma").toBeGreaterThan(0);
  await expect(page.getByTestId("volume-figures")).toContainText("“design” counts as exact");

  await page.getByRole("button", { name: "Whole job" }).click();
  await page.getByRole("button", { name: "Draw an area" }).click();
  // The western half of the cut alone.
  for (const [e, n] of [
    [3005, 7005],
    [3020, 7005],
    [3020, 7075],
    [3005, 7075],
  ] as const)
    await page.mouse.click(...(await pixelOnSheet(page, e, n)));
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByLabel("Name of area 1")).toHaveValue("area 1");
  // Clicked to the pixel: the cut falls from 2 m to 1 m over about 10 m by 60 m.
  const cut = async () => Number(await page.getByTestId("cut").getAttribute("data-value"));
  await expect.poll(cut).toBeLessThan(960);
  await expect.poll(cut).toBeGreaterThan(840);
  await value(page, "fill").toBe(0);

  // On the sheet it is cut there, and nothing beside it.
  const at = async (e: number, n: number) => {
    const [x, y] = await pixelOnSheet(page, e, n);
    return colorsAround(await page.screenshot(), x, y, 2);
  };
  await expect.poll(async () => (await at(3013, 7035)).some((c) => isNear(c, "#e0a57f", 45))).toBe(true);
  expect((await at(3033, 7035)).some((c) => isNear(c, "#e0a57f", 30))).toBe(false);
  await expect(page.getByRole("complementary", { name: "Legend" })).toContainText("cut over 1.5 m");

  // A second area: figures of each, and of both.
  await page.getByRole("button", { name: "Draw an area" }).click();
  for (const [e, n] of [
    [3055, 7005],
    [3075, 7005],
    [3075, 7075],
    [3055, 7075],
  ] as const)
    await page.mouse.click(...(await pixelOnSheet(page, e, n)));
  await page.keyboard.press("Enter");
  await settled(page);
  const byArea = page.getByRole("table", { name: "By area" });
  await expect(byArea.getByRole("row")).toHaveCount(3);
  await expect(byArea).toContainText("area 2");

  // A shot one key from its story.
  const shots = page.getByRole("region", { name: "Shots that move it most" });
  const first = shots.getByRole("button").first(),
    number = await first.innerText();
  await first.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: `Story of point ${number}` })).toBeVisible();

  // Live: a level changed is followed; undone, all is as before.
  await goTo(page, "Volumes");
  const before = await cut();
  await page.getByRole("button", { name: "Take area 1 away" }).click();
  await settled(page);
  await expect.poll(cut).not.toBe(before);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect.poll(cut).toBe(before);
});

test("a heap whose toe leaves the surface says where; a good toe measures it", async ({ page }) => {
  await yard(page, "Heap");
  await make(page, "volumes", {
    name: "heap",
    heap: "ground",
    toe: [
      [3030, 7030],
      [3120, 7030],
      [3120, 7070],
      [3030, 7070],
    ],
  } as { name: string });
  await expect(page.getByText("The toe of “heap” leaves the surface at E 3120.000 N 7030.000")).toBeVisible();
  await page.getByRole("button", { name: "Remove" }).click();
  await settled(page);
  await make(page, "volumes", {
    name: "heap",
    heap: "ground",
    toe: [
      [3030, 7030],
      [3070, 7030],
      [3070, 7070],
      [3030, 7070],
    ],
  } as { name: string });
  await value(page, "cut").toBeCloseTo((0.5 * 300) / 3, 9);
  await value(page, "fill").toBeCloseTo(0, 9);
});

test("the level slider tells what a basin holds and floods the sheet", async ({ page }) => {
  await yard(page, "Storage");
  // A trough 40 m long with sides that fall from 14 to 10 and rise again.
  await make(page, "surfaces", {
    name: "trough",
    triangles: {
      points: [
        [3020, 7030, 14],
        [3040, 7030, 10],
        [3060, 7030, 14],
        [3020, 7070, 14],
        [3040, 7070, 10],
        [3060, 7070, 14],
      ],
      faces: [
        [0, 1, 4],
        [0, 4, 3],
        [1, 2, 5],
        [1, 5, 4],
      ],
    },
  } as { name: string });
  await make(page, "volumes", { name: "basin", storage: "trough", from: 10, to: 14, step: 1 } as { name: string });
  const held = page.getByTestId("storage-held"),
    volume = expect.poll(async () => Number(await held.getAttribute("data-volume")));
  await volume.toBeCloseTo((40 * 4 * 40) / 2, 6);
  await page.getByRole("button", { name: "Go there" }).click();
  const colour = async (e: number) => {
    const [x, y] = await pixelOnSheet(page, e, 7052);
    return colorsAround(await page.screenshot(), x, y, 3);
  };
  const isWater = (list: [number, number, number][]) => list.filter(([r, , b]) => b > r + 40).length > 8;
  await expect.poll(async () => isWater(await colour(3025))).toBe(true);
  const slider = page.getByRole("slider", { name: "Water level" });
  await slider.focus();
  await nextFrame(page, async () => void (await page.getByRole("button", { name: "12.000" }).click()));
  // Half as deep, half as wide.
  await expect.poll(async () => Number(await held.getAttribute("data-volume"))).toBeCloseTo((20 * 2 * 40) / 2, 6);
  await expect(page.getByRole("complementary", { name: "Legend" })).toContainText("basin: water to 12.00 m");
  await expect.poll(async () => isWater(await colour(3025))).toBe(false);
  expect(isWater(await colour(3040))).toBe(true);
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(async () => Number(await held.getAttribute("data-level"))).toBeGreaterThan(12);
  await expect(page.getByRole("table", { name: "Storage by level" }).getByRole("row")).toHaveCount(6);
});

test("points as built against a surface and a line: table, tolerance, bars, and the sheet", async ({ page }) => {
  await yard(page, "As built");
  await page.getByRole("tab", { name: /As built/ }).click();
  await page.getByLabel("Name of the check").fill("to design");
  await page.getByRole("button", { name: "Make it" }).click();
  await settled(page);
  const words = page.getByTestId("built-words");
  // The design rises from 8 to 14 over 60 m: of 49 shots on it seven are at each 10 m.
  await expect(words).toContainText("of 49 beyond ±0.020 m");
  await expect(words).toContainText("72 points have nothing to tell");
  const rows = page.getByRole("table", { name: "Points as built" }).getByRole("row");
  await expect(rows.nth(1)).toContainText("−4.000");
  await page.getByLabel(/^Tolerance/).fill("2.5");
  await page.getByLabel(/^Tolerance/).press("Enter");
  await settled(page);
  await expect(words).toContainText("14 of 49 beyond ±2.500 m");
  await page.getByLabel("Only those beyond the tolerance").check();
  await expect(rows).toHaveCount(15);
  await expect(page.getByRole("img", { name: /Differences of 49 points from -4\.000 to 2\.000 m/ })).toBeVisible();

  // On the sheet: at the east side it is to be filled, in the middle all is well.
  await page.getByRole("button", { name: "Whole job" }).click();
  await page.getByLabel("Write cut and fill beside each point").check();
  const hasNear = async (e: number, n: number, color: string) => {
    const [x, y] = await pixelOnSheet(page, e, n);
    return colorsAround(await page.screenshot(), x, y, 3).filter((c) => isNear(c, color, 40)).length > 3;
  };
  await expect.poll(() => hasNear(3070, 7030, "#3b7ea6")).toBe(true);
  expect(await hasNear(3030, 7030, "#3f7a3a")).toBe(true);
  expect(await hasNear(3000, 7030, "#3b7ea6")).toBe(false);

  // By number, and against nothing that is there: it says so, and what was made before goes on.
  await page.getByRole("combobox", { name: "Points" }).selectOption("numbers");
  await page.getByLabel("Numbers").fill("900");
  await page.getByLabel("Numbers").press("Enter");
  await settled(page);
  await expect(page.getByText("“to design” has no points.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(words).toContainText("14 of 49");
  await rows.nth(1).getByRole("button").press("Enter");
  await expect(page.getByRole("region", { name: /^Story of point/ })).toBeVisible();
});

/** References to points by their numbers, one after another. */
const numbers = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, k) => `*number:${from + k}`);

test("a section runs along a selected line, and one after another across it", async ({ page }) => {
  await yard(page, "Sections");
  await make(page, "lines", { name: "by hand 1", code: "WALL", points: numbers(56, 66) } as { name: string });
  await make(page, "lines", { name: "by hand 2", code: "HEDGE", points: ["*number:50", "*number:72"] } as {
    name: string;
  });
  await goTo(page, "Lines");
  await page.getByRole("row", { name: /WALL .*by hand/ }).click();
  await goTo(page, "Volumes");
  await page.getByRole("button", { name: "Section" }).click();
  const panel = page.getByRole("complementary", { name: "Section" });
  await panel.getByRole("button", { name: "Along WALL" }).click();
  await expect(
    panel.getByRole("img", {
      name: /^Section of 100\.00 m: ground from 10\.\d+ to 10\.\d+, design .*; crosses .*HEDGE/,
    }),
  ).toBeVisible();
  await panel.getByLabel("Heights of the section").selectOption("5");
  await panel.getByRole("button", { name: "One after another across it" }).click();
  const group = panel.getByRole("group", { name: "Sections across WALL" });
  await expect(group).toContainText("at 0.00 of 100.00 m");
  await group.getByRole("button", { name: "Section after" }).click();
  await expect(group).toContainText("at 5.00 of 100.00 m");
  await page.keyboard.press("ArrowRight");
  await expect(group).toContainText("at 10.00 of 100.00 m");
  await group.getByLabel("every").fill("30");
  await group.getByLabel("every").press("Enter");
  for (let k = 0; k < 4; k++) {
    const after = group.getByRole("button", { name: "Section after" });
    if (await after.isEnabled()) await after.click();
  }
  // The last stands at the end, though 30 does not divide 100.
  await expect(group).toContainText("at 100.00 of 100.00 m");
  await group.getByLabel("Go to a station").fill("0+045.5");
  await group.getByLabel("Go to a station").press("Enter");
  await expect(group).toContainText("at 45.50 of 100.00 m");
  await panel.getByRole("button", { name: "Close" }).click();
  await expect(panel).toHaveCount(0);
});

test("a map is sent once for each level, whatever else comes to its figures; a changed level draws it anew", async ({
  page,
}) => {
  // Counts the maps that the worker sends.
  await page.addInitScript(() => {
    const { set, get } = Object.getOwnPropertyDescriptor(Worker.prototype, "onmessage")!,
      counted = window as unknown as { maps: number; said: number };
    Object.assign(counted, { maps: 0, said: 0 });
    Object.defineProperty(Worker.prototype, "onmessage", {
      get,
      set(this: Worker, hear: (event: MessageEvent) => void) {
        set!.call(this, (event: MessageEvent) => {
          const { looked, more } = event.data as { looked?: { map?: object }; more?: { map?: object } };
          if (looked?.map || more?.map) counted.maps++;
          if (looked || more) counted.said++;
          hear.call(this, event);
        });
      },
    });
  });
  await yard(page, "One map");
  await make(page, "volumes", { name: "to 9", surface: "ground", level: 9 } as { name: string });
  await settled(page);
  const counts = () =>
      page.evaluate(() => {
        const { maps, said } = window as unknown as { maps: number; said: number };
        return { maps, said };
      }),
    figures = page.getByTestId("volume-figures");
  await expect(figures).toContainText("%");
  await expect(figures).not.toContainText("…");
  await expect(page.getByRole("complementary", { name: "Legend" })).toContainText("to 9");
  const { maps, said } = await counts();
  expect(maps).toBe(1);
  expect(said).toBeGreaterThan(3);
  await page.getByRole("textbox", { name: /level, m$/i }).fill("9.25");
  await page.keyboard.press("Enter");
  await value(page, "cut").toBeCloseTo(0.75 * 10_000 + (0.5 * 300) / 3, 1);
  await expect.poll(async () => (await counts()).said).toBeGreaterThanOrEqual(2 * said);
  expect((await counts()).maps).toBe(2);
});
