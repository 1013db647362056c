import { expect, test, type Page } from "./test";
import { as, colorsAround, isNear, newJob, nextFrame, pixelOnSheet, settled, takeIn } from "./helpers";

const TEXT = [
  "1,7000,3000,10,TOP1",
  "2,7000,3060,10,TOP1",
  "3,7030,3000,11,HEDGE1",
  "4,7030,3060,11,HEDGE1",
  "5,7015,3030,14,SPOT",
  "6,7017,3040,18,SPOT",
].join("\n");

/** Whether the sheet has a colour near a position of the plan. */
async function has(page: Page, e: number, n: number, color: string): Promise<boolean> {
  const [x, y] = await pixelOnSheet(page, e, n);
  return colorsAround(await page.screenshot(), x, y, 3).some((c) => isNear(c, color, 40));
}

test("some alone until Esc, and colours by what things mean with their legend; nothing handed over changes", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Looks");
  await takeIn(page, "day1.txt", TEXT, 6);
  const id = Number(page.url().split("/")[4]);
  const recipe = async () => (await page.request.get(`/api/jobs/${id}/recipe`)).text(),
    before = await recipe();
  const legend = page.getByRole("complementary", { name: "Legend" });
  const colours = page.getByLabel("Colours", { exact: true });
  await expect(legend).toHaveCount(0);
  await nextFrame(page, () => page.getByRole("button", { name: "Whole job" }).click());

  await nextFrame(page, () => colours.selectOption("breakline").then(() => undefined));
  await expect(legend).toContainText(/Colours by kind of breakline.*fixed breakline\s*2.*no breakline\s*4/s);
  await expect.poll(() => has(page, 3030, 7000, "#7c1f4f")).toBe(true);
  expect(await has(page, 3030, 7030, "#7c1f4f")).toBe(false);
  await nextFrame(page, () => colours.selectOption("elevation").then(() => undefined));
  await expect(legend).toContainText(/below 1\d\.\d\s*4/);
  await expect(legend).toContainText(/above 1\d\.\d\s*1/);

  // Only one code: the other line is faint, and its own again after Esc.
  await nextFrame(page, () => colours.selectOption("code").then(() => undefined));
  const hedge = (await page
    .getByTestId("sheet-described")
    .locator('[data-line="HEDGE 1"]')
    .getAttribute("data-color"))!;
  await expect.poll(() => has(page, 3030, 7030, hedge)).toBe(true);
  await nextFrame(page, () =>
    page
      .getByLabel("Only these")
      .selectOption("code TOP")
      .then(() => undefined),
  );
  await expect(legend).toContainText(/Only TOP · 2 points/);
  await expect.poll(() => has(page, 3030, 7030, hedge)).toBe(false);
  await page.getByTestId("sheet").focus();
  await nextFrame(page, () => page.keyboard.press("Escape"));
  await expect(legend).toHaveCount(0);
  await expect.poll(() => has(page, 3030, 7030, hedge)).toBe(true);

  // The selection by one key, which says so where nothing is selected.
  await page.keyboard.press("o");
  await expect(page.getByText("Select points first")).toBeVisible();
  await page.getByTestId("sheet").focus();
  const [x, y] = await pixelOnSheet(page, 3030, 7015);
  await page.mouse.click(x, y);
  await page.keyboard.press("o");
  await expect(legend).toContainText("Only the selected point · 1 point");
  await page.keyboard.press("o");
  await expect(legend).toHaveCount(0);
  await settled(page);
  expect(await recipe()).toBe(before);
});
