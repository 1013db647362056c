import { expect, test, type Locator, type Page } from "./test";
import { as, choose, colorsAround, goTo, newJob, nextFrame, pixelOnSheet, settled, takeIn } from "./helpers";

/** A lattice of 10 m, 110 m each way, on a plane; a point far off, and a bed of 20 m by 20 m in the middle. */
const TEXT = [
  ...Array.from({ length: 144 }, (_, k) => {
    const [row, col] = [Math.floor(k / 12), k % 12];
    return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},${(10 + 0.5 * row).toFixed(2)},SPOT`;
  }),
  "900,7055,3300,12.75,SPOT",
  ...[
    [40, 40],
    [40, 60],
    [60, 60],
    [60, 40],
  ].map(([n, e], k) => `${901 + k},${7001 + n!},${3001 + e!},${10 + 0.05 * (n! + 1)},BED1${k === 3 ? " loop" : ""}`),
].join("\n");

const planArea = (page: Page) => page.getByTestId("surface-report").locator("div", { hasText: "Plan area" }).first();

test("the edge is fitted, drawn, frozen; holes are cut; it is seen on the sheet before it is kept", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Edges");
  await takeIn(page, "day1.txt", TEXT, 149);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  // The lattice, and the triangle to the point far off.
  await expect(planArea(page)).toContainText("22 550.0 m²");
  const edge = page.getByRole("combobox", { name: "Edge", exact: true });
  await edge.selectOption("fit");
  await settled(page);
  const gap = page.getByLabel("Gap, m", { exact: true });
  await gap.fill("12");
  await expect(page.getByText(/It would hold 1\d\d points on 12\s100\.0\sm², 1 outside/)).toBeVisible();
  await gap.press("Enter");
  await settled(page);
  await expect(planArea(page)).toContainText("12 100.0 m²");
  await expect(page.getByTestId("surface-report")).toContainText("Points outside1");
  await expect(page.getByText("Tied to its rule: it follows the points.")).toBeVisible();

  // By the slider, with keys: each step is seen, the last is kept.
  const slider = page.getByRole("slider", { name: "Widest gap" });
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await settled(page);
  await expect(gap).toHaveValue("12.3");

  await page.getByLabel("Holes from closed lines").selectOption("BED");
  await settled(page);
  await expect(planArea(page)).toContainText("11 700.0 m²");
  await edge.selectOption("ring");
  await page.getByRole("button", { name: "Freeze it as it is" }).click();
  await settled(page);
  await expect(page.getByText(/Frozen: a ring of \d+ corners/)).toBeVisible();
  await expect(planArea(page)).toContainText("11 700.0 m²");

  await page.getByRole("button", { name: "Whole job" }).click();
  await page.getByRole("button", { name: "Draw the edge" }).click();
  for (const [e, n] of [
    [3000, 7000],
    [3050, 7000],
    [3050, 7110],
    [3000, 7110],
  ] as const) {
    const [x, y] = await pixelOnSheet(page, e, n);
    await page.mouse.click(x, y);
  }
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByText("Frozen: a ring of 4 corners")).toBeVisible();
  // 50 m by 110 m with 9 m by 20 m of the bed left out, as well as a hand points.
  const shown = Number((await planArea(page).innerText()).replace(/[^\d.]/g, "").replace(/2$/, ""));
  expect(Math.abs(shown - 5320)).toBeLessThan(120);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(planArea(page)).toContainText("11 700.0 m²");
  await page.getByRole("button", { name: "Take hole 1 away" }).click();
  await settled(page);
  await expect(planArea(page)).toContainText("12 100.0 m²");
});

test("the corners of a frozen edge are dragged, put in and taken away on the sheet; none may cross", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Corners");
  const rows = Array.from({ length: 121 }, (_, k) => {
    const [e, n] = [3000 + 10 * (k % 11), 7000 + 10 * Math.floor(k / 11)];
    return `${k + 1},${n},${e},${(100 + e / 100).toFixed(3)},SPOT`;
  });
  await takeIn(page, "day1.txt", rows.join("\n"), 121);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const edge = page.getByRole("region", { name: "Edge", exact: true }),
    area = page.getByTestId("surface-report");
  await edge.getByRole("combobox", { name: "Edge", exact: true }).selectOption("ring");
  await edge.getByRole("button", { name: "Freeze it as it is" }).click();
  await settled(page);
  await expect(edge).toContainText("Frozen: a ring of 40 corners");
  await edge.getByRole("button", { name: "Move its corners" }).click();
  const drag = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(...(await pixelOnSheet(page, ...from)));
    await page.mouse.down();
    for (const share of [0.3, 0.7, 1]) {
      const [e, n] = [from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])];
      await page.mouse.move(...(await pixelOnSheet(page, e, n)));
    }
    await page.mouse.up();
    await settled(page);
  };
  const areaNow = async () => Number((await area.innerText()).match(/Plan area\s*([\d\s.]+)/)![1]!.replace(/\s/g, ""));
  // The northeast corner far in: between its neighbours 10 m away a wedge is cut out, by the formula of a ring's area.
  await drag([3100, 7100], [3050, 7050]);
  await expect.poll(areaNow).toBeLessThan(9600);
  expect(Math.abs((await areaNow()) - (10_000 - 50 - 450))).toBeLessThan(30);
  // A side gripped between two corners gets one of its own.
  await drag([3045, 7000], [3045, 7020]);
  await expect(edge).toContainText("a ring of 41 corners");
  await expect.poll(async () => Math.abs((await areaNow()) - (9500 - 100))).toBeLessThan(40);
  // What would cross is not kept.
  const before = await areaNow();
  await drag([3000, 7100], [3090, 6990]);
  await expect(edge).toContainText("a ring of 41 corners");
  expect(await areaNow()).toBe(before);
  // The chosen corner is taken away by a key; undo brings it back, and the sheet has it again.
  await page.mouse.click(...(await pixelOnSheet(page, 3045, 7020)));
  await page.keyboard.press("Delete");
  await settled(page);
  await expect(edge).toContainText("a ring of 40 corners");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(edge).toContainText("a ring of 41 corners");
  await drag([3045, 7020], [3045, 7005]);
  await expect(edge).toContainText("a ring of 41 corners");
  await expect.poll(areaNow).toBeGreaterThan(before + 40);
  // Elsewhere dragging moves the sheet as ever.
  const view = await page.getByTestId("sheet").getAttribute("data-view");
  await drag([3020, 7040], [3030, 7045]);
  expect(await page.getByTestId("sheet").getAttribute("data-view")).not.toBe(view);
  await page.keyboard.press("Escape");
  await expect(edge.getByRole("button", { name: "Move its corners" })).toBeVisible();
});

test("lines and surfaces of a drawing are taken where surfaces are made: breakline, edge and as they are", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Of a drawing");
  const rows = Array.from({ length: 121 }, (_, k) => {
    const [e, n] = [3000 + 10 * (k % 11), 7000 + 10 * Math.floor(k / 11)];
    return `${k + 1},${n},${e},100,SPOT`;
  });
  await takeIn(page, "day1.txt", rows.join("\n"), 121);
  // A crest at 104, a limit of 60 m by 40 m, and a level pad of two faces.
  const at = (e: number, n: number, z: number, k = 0) => [10 + k, e, 20 + k, n, 30 + k, z],
    dxf = [
      [0, "SECTION", 2, "ENTITIES"],
      [0, "POINT", 8, "OLD", ...at(3001, 7001, 5)],
      [0, "LINE", 8, "CREST", ...at(3022, 7055, 104), ...at(3077, 7055, 104, 1)],
      [0, "LWPOLYLINE", 8, "LIMIT", 90, 4, 70, 1, 38, 0],
      ...[
        [3020, 7035],
        [3080, 7035],
        [3080, 7075],
        [3020, 7075],
      ].map(([e, n]) => [10, e!, 20, n!]),
      [
        0,
        "3DFACE",
        8,
        "PAD",
        ...at(3100, 7000, 7),
        ...at(3120, 7000, 7, 1),
        ...at(3120, 7020, 7, 2),
        ...at(3100, 7020, 7, 3),
      ],
      [0, "ENDSEC", 0, "EOF"],
    ];
  await goTo(page, "Intake");
  await choose(page, "plan.dxf", dxf.flat().join("\n"));
  await page.getByRole("button", { name: "Take in 1 point" }).click();
  await settled(page);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const report = page.getByTestId("surface-report"),
    list = page.getByRole("region", { name: "Points and breaklines" });
  await expect(report).toContainText("Highest100.000 m");
  await list.getByLabel("Lines of a file").selectOption({ label: "CREST 1" });
  await settled(page);
  await expect(list).toContainText("CREST 1 of plan.dxf");
  await expect(report).toContainText("Highest104.000 m");
  await expect(report).toContainText("Breaklines used1");
  const edge = page.getByRole("region", { name: "Edge", exact: true });
  await edge.getByRole("combobox", { name: "Edge", exact: true }).selectOption("ring");
  await edge.getByLabel("Closed line of a file", { exact: true }).selectOption({ label: "LIMIT 2" });
  await settled(page);
  await expect(edge).toContainText("Frozen: a ring of 4 corners");
  await expect(planArea(page)).toContainText("2 400.0 m²");
  await page.getByLabel("Surface of a file").selectOption({ label: "PAD" });
  await settled(page);
  await expect(page.getByRole("heading", { name: "PAD" })).toBeVisible();
  await expect(planArea(page)).toContainText("400.0 m²");
  await expect(page.getByLabel("Surface of a file")).toHaveCount(0);
});

test("lines in and out, thinned with its effect said before", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Lines in");
  const tops = Array.from(
    { length: 11 },
    (_, k) => `${300 + k},${7033 + 0.01 * (k % 2)},${3005 + 10 * k},${11.65 + 0.004 * (k % 3)},TOP1`,
  );
  await takeIn(page, "day1.txt", [TEXT, ...tops].join("\n"), 160);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const report = page.getByTestId("surface-report");
  await expect(report).toContainText("Breaklines used2");
  await page.getByLabel("Nearly straight within, m").fill("0.05");
  await expect(
    page.getByRole("status").filter({ hasText: "9 vertices would be left out, a level changed by 0.00" }),
  ).toBeVisible();
  await page.getByLabel("Nearly straight within, m").press("Enter");
  await settled(page);
  await expect(report).toContainText(/Left out as straight9, at most 0\.00\d m in level/);
  await goTo(page, "Lines");
  await page.getByText("TOP 1").first().click();
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "1 selected line out" }).click();
  await settled(page);
  await expect(report).toContainText("Breaklines used1");
  await page.getByRole("button", { name: /Take TOP 1 .*out of the list/ }).click();
  await settled(page);
  await expect(report).toContainText("Breaklines used2");
});

test("the ground is seen by level and by slope, with a legend whose areas are those of the surface", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Seen");
  // A plane of 5 % to the north, and a bank of 60 % beyond it.
  const rows = Array.from({ length: 121 }, (_, k) => {
    const [row, col] = [Math.floor(k / 11), k % 11],
      z = 10 + (row <= 5 ? 0.4 * row : 2 + 6 * (row - 5));
    return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},${z},SPOT`;
  });
  await takeIn(page, "day1.txt", rows.join("\n"), 121);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const legend = page.getByRole("complementary", { name: "Legend" }),
    ground = page.getByLabel("Ground", { exact: true });
  const colorAt = async (e: number, n: number) => {
    const [x, y] = await pixelOnSheet(page, e, n),
      png = await page.screenshot();
    return colorsAround(png, Math.round(x), Math.round(y), 0)[0]!;
  };
  await page.getByRole("button", { name: "Whole job" }).click();
  await nextFrame(page, async () => void (await ground.selectOption("slopes")));
  await expect(legend).toContainText(/2 to 5 %5\s000\.0\sm²/);
  await expect(legend).toContainText(/50 to 100 %5\s000\.0\sm²/);
  // The class that the legend names lies where that slope is: neither on a point nor on an arrow.
  const [flat, steep] = [await colorAt(3043, 7023), await colorAt(3043, 7083)],
    paper = await colorAt(2990, 7050);
  const light = (c: readonly number[]) => c[0]! + c[1]! + c[2]!;
  expect(light(paper)).toBeGreaterThan(light(flat));
  expect(light(flat)).toBeGreaterThan(light(steep) + 120);
  await nextFrame(page, async () => void (await ground.selectOption("levels")));
  await expect(legend).toContainText("below 15 m");
  expect(light(await colorAt(3043, 7003))).toBeGreaterThan(light(await colorAt(3043, 7097)));
  // A lattice of 10 m has no longer side than its diagonal: all of it within twice its spacing.
  await nextFrame(page, async () => void (await ground.selectOption("spacing")));
  await expect(legend).toContainText("by how far its shots are apart");
  await expect(legend).toContainText(/1\d\.\d m to \d+\.\d m10\s000\.0\sm²|less than \d+\.\d m10\s000\.0\sm²/);
  await ground.selectOption("plain");
  await expect(legend).toHaveCount(0);

  // What is under the cursor: of the plane that rises by 4 % to the north, in each way that a slope is told.
  await page.getByRole("button", { name: "New surface" }).click();
  await page.getByLabel("Name of the surface").fill("again");
  await page.keyboard.press("Enter");
  await settled(page);
  const readout = page.getByTestId("readout"),
    [x, y] = await pixelOnSheet(page, 3043, 7025);
  await page.mouse.move(x, y);
  await expect(readout).toContainText(/Level 11\.0\d\d m/);
  await expect(readout).toContainText(/· existing ground 11\.0\d\d m \(\+0\.000\)/);
  const slope = readout.getByRole("button", { name: /^Slope/ });
  await expect(slope).toHaveText("Slope 4.0 % to 180°");
  await slope.focus();
  await page.keyboard.press("Enter");
  await expect(slope).toHaveText("Slope 1 : 25 to 180°");
  await page.keyboard.press("Enter");
  await expect(slope).toHaveText("Slope 2.3° to 180°");
});

test("a section is dragged across the sheet and read by hovering, with where that is", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Cut");
  await takeIn(page, "day1.txt", TEXT, 149);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Whole job" }).click();
  // The sheet gives room to what is read.
  await page.getByTestId("sheet").focus();
  await nextFrame(page, () => page.keyboard.press("s"));
  const panel = page.getByRole("complementary", { name: "Section" });
  await expect(panel).toContainText("Drag across the sheet");
  const view = () => page.getByTestId("sheet").getAttribute("data-view"),
    before = await view();
  const [x0, y0] = await pixelOnSheet(page, 3055, 7005),
    [x1, y1] = await pixelOnSheet(page, 3055, 7105);
  await page.mouse.move(x0, y0);
  await page.mouse.down();
  await page.mouse.move((x0 + x1) / 2, (y0 + y1) / 2, { steps: 4 });
  await page.mouse.move(x1, y1, { steps: 4 });
  await page.mouse.up();
  // The sheet itself stayed: the line is some 100 m long, and the ground rises by 5 % along it.
  expect(await view()).toBe(before);
  const chart = panel.getByRole("img", {
    name: /^Section of (99|100|101)\.\d\d m: existing ground from 10\.\d+ to 15\.\d+/,
  });
  await expect(chart).toBeVisible();
  const box = (await chart.boundingBox())!;
  await page.mouse.move(box.x + 56 + (box.width - 74) / 2, box.y + box.height / 2);
  await expect(panel).toContainText(/at (49|50|51)\.\d\d m\s*existing ground 12\.\d\d\d/);
  await page.keyboard.press("Escape");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Escape");
  await expect(panel).toHaveCount(0);
});

test("a surface has a look of its own, kept by a name, hidden and brought back; its contours leave gaps for labels", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Looks");
  await takeIn(page, "day1.txt", TEXT, 149);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Whole job" }).click();
  const look = page.getByRole("region", { name: "How it is drawn" });
  // A line of a pixel is mixed with the paper beside it.
  const purple = async () => {
    const [x, y] = await pixelOnSheet(page, 3015, 7040);
    return colorsAround(await page.screenshot(), x, y, 4).filter(([r, g, b]) => r - g > 50 && b - g > 50).length;
  };
  // The contour of level 12 runs at N 7040 on the plane; in a colour that nothing else has.
  const color = look.getByLabel("Contours", { exact: true });
  await nextFrame(page, async () => {
    await color.fill("#d000d0");
    await settled(page);
  });
  await expect.poll(purple).toBeGreaterThan(0);
  const thin = await purple();
  await nextFrame(page, async () => {
    const weight = look.getByLabel("Weight, mm").first();
    await weight.fill("0.9");
    await weight.press("Enter");
    await settled(page);
  });
  await expect.poll(purple).toBeGreaterThan(1.6 * thin);
  await look.getByLabel("Contours rounded").check();
  await settled(page);

  await look.getByRole("button", { name: "Keep this look" }).click();
  await page.getByLabel("Name of the look").fill("loud");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(look.getByLabel("Look of the surface")).toHaveValue("loud");
  await look.getByLabel("Look of the surface").selectOption("");
  await settled(page);
  await expect.poll(purple).toBe(0);
  await look.getByLabel("Look of the surface").selectOption("loud");
  await settled(page);
  await expect(look.getByLabel("Contours rounded")).toBeChecked();
  await expect.poll(purple).toBeGreaterThan(1.6 * thin);

  // Hidden: nothing of it is drawn, and the sheet says that it is there.
  await look.getByLabel("This surface drawn").uncheck();
  await settled(page);
  const legend = page.getByRole("complementary", { name: "Legend" });
  await expect(legend).toContainText("existing ground is there, not drawn");
  await expect.poll(purple).toBe(0);
  await legend.getByRole("button", { name: "Draw it" }).click();
  await settled(page);
  await expect(legend).toHaveCount(0);
  await expect.poll(purple).toBeGreaterThan(1.6 * thin);

  // A weight that no pen has is refused in words.
  const weight = look.getByLabel("Weight, mm").first();
  await weight.fill("50");
  await weight.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: /weight|50/ })).toBeVisible();
});

test("long work says what is being made, is stopped in the middle, and goes on when something is changed", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Heavy");
  // Two kilometres of breaklines.
  const tops = Array.from({ length: 40 }, (_, k) => {
    const run = 1 + (k >> 1);
    return `${300 + k},${7003 + 5 * run},${k % 2 ? 3105 : 3005},${10 + 0.05 * (3 + 5 * run)},TOP${run}`;
  });
  await takeIn(page, "day1.txt", [TEXT, ...tops].join("\n"), 189);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const points = page.getByTestId("surface-report").locator("div", { hasText: /^Points\d/ }),
    before = (await points.textContent())!,
    following = page.getByTestId("following");
  await expect(following).toHaveCount(0);
  // Pieces of some millimetres: most of a million vertices.
  const longest = page.getByLabel("Longest piece, m (0: any)");
  await longest.fill("0.0025");
  await longest.press("Enter");
  await expect(following).toContainText("what is drawn is of before");
  await following.getByRole("button", { name: "Stop" }).click();
  await expect(following).toContainText("Stopped: what is drawn is of before the last change.");
  await expect(page.getByTestId("saved")).toHaveText("Saved, not followed");
  await expect(points).toHaveText(before);
  // It goes on by itself with the next change, here with the last one taken back.
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(following).toHaveCount(0);
  await longest.fill("5");
  await longest.press("Enter");
  await settled(page);
  await expect(points).not.toHaveText(before);
  const dense = (await points.textContent())!;
  // Stopped again and taken up by hand, it is what was asked for.
  await longest.fill("0.0025");
  await longest.press("Enter");
  const stop = following.getByRole("button", { name: "Stop" }),
    right = async (button: Locator) => (await button.boundingBox().then((b) => b!.x + b!.width))!;
  const was = await right(stop);
  await stop.click();
  await expect(following).toContainText("Stopped");
  const goOn = following.getByRole("button", { name: "Go on" });
  // What it says is shorter or longer; its button stays under the pointer.
  expect(await right(goOn)).toBeCloseTo(was, 0);
  await goOn.click();
  await expect(following).toContainText(/Being made: surface existing ground, \w+/, { timeout: 60_000 });
  // Most of a million vertices beside whatever else this machine does.
  await expect(page.getByTestId("saved")).toHaveText("Saved", { timeout: 60_000 });
  expect(Number((await points.innerText()).replace(/\D/g, ""))).toBeGreaterThan(100 * Number(dense.replace(/\D/g, "")));
});

test("a side is swapped and a triangle taken out on the sheet, listed, and taken back", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Corrected");
  // One square whose diagonal runs from 1 to 3 or from 2 to 4, with levels that tell which.
  const rows = ["1,7000,3000,10,SPOT", "2,7000,3020,20,SPOT", "3,7021,3021,10,SPOT", "4,7020,3000,20,SPOT"];
  await takeIn(page, "day1.txt", rows.join("\n"), 4);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Whole job" }).click();
  const readout = page.getByTestId("readout"),
    corrections = page.getByRole("region", { name: "Corrections" });
  const middle = async () => {
    const [x, y] = await pixelOnSheet(page, 3010.2, 7010);
    await page.mouse.move(x + 30, y);
    await page.mouse.move(x, y);
    return Number((await readout.innerText()).match(/Level\s*(\d+\.\d+)/)?.[1] ?? NaN);
  };
  const before = await middle();
  expect(Math.min(Math.abs(before - 10), Math.abs(before - 20))).toBeLessThan(1);
  const [x, y] = await pixelOnSheet(page, 3010.2, 7010);
  await corrections.getByRole("button", { name: "Swap a side" }).click();
  await page.mouse.click(x, y);
  await settled(page);
  await expect(corrections).toContainText(/swapped (1–3|3–1|2–4|4–2)/);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Escape");
  await expect(corrections.getByRole("button", { name: "Swap a side" })).toHaveAttribute("aria-pressed", "false");
  // The other diagonal lies at the other level.
  await expect.poll(async () => Math.abs((await middle()) - before)).toBeGreaterThan(8);
  await corrections.getByRole("button", { name: /Take back: swapped/ }).click();
  await settled(page);
  await expect.poll(async () => Math.abs((await middle()) - before)).toBeLessThan(0.5);

  await corrections.getByRole("button", { name: "Take a triangle out" }).click();
  const [tx, ty] = await pixelOnSheet(page, 3010.5, 7003);
  await page.mouse.click(tx, ty);
  await settled(page);
  await expect(page.getByTestId("surface-report")).toContainText("Triangles1");
  await expect(corrections).toContainText(/out \d–\d–\d/);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(page.getByTestId("surface-report")).toContainText("Triangles2");
});

test("a surface has another name, and all that uses it goes with it; undone as one", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Renamed");
  await takeIn(page, "day1.txt", TEXT, 149);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Rename", exact: true }).click();
  const name = page.getByLabel("Its new name; all that uses it goes with it"),
    old = await name.inputValue();
  await expect(page.getByRole("button", { name: "Rename it" })).toBeDisabled();
  await name.fill("Before works");
  await page.getByRole("button", { name: "Rename it" }).click();
  await settled(page);
  await expect(page.getByRole("heading", { name: "Before works" })).toBeVisible();
  await expect(planArea(page)).toContainText("22 550.0 m²");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(page.getByRole("heading", { name: old, exact: true })).toBeVisible();
});
