import { expect, test, type Page } from "./test";
import {
  as,
  colorsAround,
  goTo,
  newJob,
  nextFrame,
  pixelInRelief,
  pixelOnSheet,
  settled,
  takeIn,
  type Rgb,
} from "./helpers";

/** A plateau at 10 with a heap of 8 m upon it, whose north side no one sees who looks from the south; a ditch line. */
const level = (e: number, n: number) => Math.max(10, 18 - Math.hypot(e - 3050, n - 7050) / 2.5);
const TEXT = [
  ...Array.from({ length: 441 }, (_, k) => {
    const [e, n] = [3000 + 5 * (k % 21), 7000 + 5 * Math.floor(k / 21)];
    return `${k + 1},${n},${e},${level(e, n).toFixed(3)},SPOT`;
  }),
  ...[3010, 3030, 3050, 3070, 3090].map((e, k) => `${900 + k},7010,${e},10.00,DITCH1`),
].join("\n");

async function heap(page: Page, name: string): Promise<void> {
  await as(page, "Petra");
  await newJob(page, name);
  await takeIn(page, "day1.txt", TEXT, 446);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
}

const light = (c: readonly number[]) => c[0]! + c[1]! + c[2]!;

test("the ground stands in 3D beside the plan, in light and shade; the level under a pixel is the known one", async ({
  page,
}) => {
  await heap(page, "Relief");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("d");
  const relief = page.getByTestId("relief");
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  await expect(page.getByTestId("sheet")).toBeVisible();
  await page.keyboard.press("d");
  await expect(page.getByTestId("sheet")).toBeHidden();
  await nextFrame(page, async () => void (await page.getByLabel("Heights in 3D").selectOption("3")), "relief");

  // The level under the cursor, on the plateau and on the heap's near side.
  const readout = page.getByTestId("readout");
  for (const [e, n] of [
    [3022.5, 7022.5],
    [3050, 7042.5],
  ] as const) {
    const [x, y] = await pixelInRelief(page, e, n, level(e, n));
    await page.mouse.move(x, y);
    const shown = async () => Number((await readout.innerText()).match(/Level\s*(\d+\.\d+)/)?.[1]);
    await expect.poll(async () => Math.abs((await shown()) - level(e, n))).toBeLessThan(0.2);
  }
  // Light from the northwest: the heap's southeast lies in the shade, with light from the southeast it does not.
  const shade = async () => {
    const [x, y] = await pixelInRelief(page, 3056.2, 7043.8, level(3056.2, 7043.8)),
      png = await page.screenshot();
    return light(colorsAround(png, x, y, 1)[4]!);
  };
  const dark = await shade();
  await nextFrame(page, async () => void (await page.getByLabel("Light in 3D").selectOption("southeast")), "relief");
  expect(await shade()).toBeGreaterThan(dark + 60);
  // Many colours, not a flat sheet.
  const box = (await relief.boundingBox())!,
    png = await page.screenshot(),
    colors = new Set(
      colorsAround(png, box.x + box.width / 2, box.y + box.height / 2, 150).map((c) => c.map((x) => x >> 3).join(" ")),
    );
  expect(colors.size).toBeGreaterThan(40);
  // Its classes have their legend there too, where the plan is not.
  const plain = await shade();
  await nextFrame(
    page,
    async () => void (await page.getByLabel("Ground", { exact: true }).selectOption("levels")),
    "relief",
  );
  await expect(page.getByRole("complementary", { name: "Legend" })).toContainText("existing ground, by level");
  expect(await shade()).not.toBe(plain);
});

test("other surfaces stand beside it as glass, named by the legend, as long as they are not hidden", async ({
  page,
}) => {
  await heap(page, "Two grounds");
  // A level pad at 14, through which the heap comes.
  const pad = {
    name: "pad",
    triangles: {
      points: [3025, 3075].flatMap((e) => [7025, 7075].map((n) => [e, n, 14])),
      faces: [
        [0, 2, 1],
        [1, 2, 3],
      ],
    },
  };
  const id = page.url().split("/")[4],
    change = { type: "named", part: "surfaces", name: "pad", old: null, new: pad };
  const made = await page.request.post(`/api/jobs/${id}/changes`, { data: change, headers: { "x-author": "Petra" } });
  expect(made.ok()).toBe(true);
  await expect(page.getByLabel("Surface", { exact: true })).toBeVisible();
  await settled(page);
  const relief = page.getByTestId("relief"),
    legend = page.getByRole("complementary", { name: "Legend" }),
    colorAt = async (e: number, n: number, z: number) => {
      const [x, y] = await pixelInRelief(page, e, n, z);
      return colorsAround(await page.screenshot(), x, y, 1)[4]!;
    };
  await page.getByLabel("Seen as").selectOption("relief");
  await expect(legend).toContainText("In 3D beside existing ground");
  await expect(legend).toContainText("pad");
  await nextFrame(page, async () => void (await page.getByLabel("Heights in 3D").selectOption("2")), "relief");
  // On the pad the ground shines through; where the heap stands above it, it is as it was.
  const [onPad, above] = [await colorAt(3070, 7028, 14), await colorAt(3050, 7046, level(3050, 7046))];
  await nextFrame(
    page,
    async () => void (await page.getByLabel("Surface", { exact: true }).selectOption("pad")),
    "relief",
  );
  await expect(legend).toContainText("In 3D beside pad");
  await nextFrame(page, async () => void (await page.getByLabel("This surface drawn").uncheck()), "relief");
  await settled(page);
  await nextFrame(
    page,
    async () => void (await page.getByLabel("Surface", { exact: true }).selectOption("existing ground")),
    "relief",
  );
  await expect(legend).toContainText("pad is there, not drawn");
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  const far = (a: Rgb, b: Rgb) => Math.max(...a.map((x, k) => Math.abs(x - b[k]!)));
  await expect.poll(async () => far(await colorAt(3070, 7028, 14), onPad)).toBeGreaterThan(20);
  expect(far(await colorAt(3050, 7046, level(3050, 7046)), above)).toBeLessThan(6);
});

test("it is turned and zoomed by hand and keys, and selects what is selected everywhere", async ({ page }) => {
  await heap(page, "Turned");
  await page.getByLabel("Seen as").selectOption("both");
  const relief = page.getByTestId("relief"),
    view = async () => (await relief.getAttribute("data-view"))!.split(" ").map(Number);
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  await relief.focus();
  const before = await view();
  await nextFrame(page, () => page.keyboard.press("ArrowRight"), "relief");
  const turned = await view();
  expect(turned[3]).toBeGreaterThan(before[3]!);
  await nextFrame(page, () => page.keyboard.press("ArrowUp"), "relief");
  expect((await view())[4]).toBeGreaterThan(turned[4]!);
  await nextFrame(page, () => page.keyboard.press("+"), "relief");
  expect((await view())[6]).toBeGreaterThan(before[6]!);

  // A point on the near side, by a click in 3D: the table's row, and the ring on the plan.
  const z = level(3050, 7035),
    [x, y] = await pixelInRelief(page, 3050, 7035, z);
  await nextFrame(page, () => page.mouse.click(x, y));
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("2");
  await expect(page.getByRole("row", { selected: true })).toContainText("158");
  // A point behind the heap is not taken through it; from the plan it is, and 3D shows it faint.
  await relief.focus();
  for (let k = 0; k < 12; k++) await page.keyboard.press("ArrowDown");
  await nextFrame(page, () => page.keyboard.press("Home"), "relief");
  const [hx, hy] = await pixelInRelief(page, 3055, 7070, level(3055, 7070));
  await page.mouse.click(hx, hy);
  await expect(page.getByRole("row", { selected: true }).filter({ hasText: "305" })).toHaveCount(0);
  const [px, py] = await pixelOnSheet(page, 3055, 7070);
  await nextFrame(page, () => page.mouse.click(px, py), "relief");
  await expect(page.getByRole("row", { selected: true })).toContainText("306");
  await page.keyboard.press("Escape");

  // Dragged: turned; with Ctrl: moved.
  const box = (await relief.boundingBox())!,
    middle = [box.x + box.width / 2, box.y + box.height / 2] as const;
  const still = await view();
  await page.mouse.move(...middle);
  await page.mouse.down();
  await page.mouse.move(middle[0] + 60, middle[1], { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => (await view())[3]).not.toBe(still[3]);
  const after = await view();
  expect(after.slice(0, 2)).toEqual(still.slice(0, 2));
  await page.keyboard.down("Control");
  await page.mouse.down();
  await page.mouse.move(middle[0], middle[1] + 30, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up("Control");
  await expect.poll(async () => (await view())[0]).not.toBe(after[0]);
  expect((await view())[3]).toBe(after[3]);
});

test("large ground is drawn whole in pieces, and coarse while it is turned", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Large ground");
  const rows = Array.from({ length: 12_100 }, (_, k) => {
    const [e, n] = [3000 + 2 * (k % 110), 7000 + 2 * Math.floor(k / 110)];
    return `${k + 1},${n},${e},${(20 + 6 * Math.sin(e / 31) * Math.cos(n / 27)).toFixed(3)},SPOT`;
  });
  await takeIn(page, "day1.txt", rows.join("\n"), 12_100);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByLabel("Seen as").selectOption("relief");
  const relief = page.getByTestId("relief");
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  const middle = async () => {
    const [x, y] = await pixelInRelief(page, 3111, 7111, 20);
    return colorsAround(await page.screenshot(), x, y, 30);
  };
  const mean = (colors: Rgb[]) => colors.reduce((sum, c) => sum + light(c), 0) / colors.length;
  const still = mean(await middle());
  // Each frame of a turn is whole again, and the ground stays there all the while.
  await relief.focus();
  for (let k = 0; k < 3; k++) {
    await nextFrame(page, () => page.keyboard.press("ArrowRight"), "relief");
    expect(Math.abs(mean(await middle()) - still)).toBeLessThan(90);
  }
});

test("the plan comes back where something is drawn on it; the window onto 3D is kept", async ({ page }) => {
  await heap(page, "Kept window");
  await page.getByLabel("Seen as").selectOption("relief");
  const relief = page.getByTestId("relief");
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  await relief.focus();
  await nextFrame(page, () => page.keyboard.press("ArrowLeft"), "relief");
  const turned = (await relief.getAttribute("data-view"))!.split(" ").slice(3, 5);
  await page.getByRole("button", { name: "Section" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("sheet")).toBeHidden();
  await page.getByLabel("Seen as").selectOption("plan");
  await expect(relief).toHaveCount(0);
  await page.getByLabel("Seen as").selectOption("relief");
  await expect(relief).toHaveAttribute("data-frame", /[1-9]/);
  expect((await relief.getAttribute("data-view"))!.split(" ").slice(3, 5)).toEqual(turned);
});
